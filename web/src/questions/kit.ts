import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type KitItem = Schemas["KitAnswer"]["items"][number];
export type Fact = Schemas["FactFormAnswer"];

/** An item as it is sent: what the core works out beside it stays behind. */
export type Draft = {
  id: string;
  sort: KitItem["sort"];
  name: string;
  note: string;
  retired: boolean;
  facts: Record<string, unknown>;
};

export function draftOf(item: KitItem): Draft {
  const { id, sort, name, note, retired, facts } = item;
  return { id, sort, name, note, retired, facts: { ...facts } };
}

/** Items read by the core and handed back whole; refused with each fault's place. */
export async function askItems(drafts: Draft[]): Promise<KitItem[]> {
  return (await answer(api.POST("/api/kit/check", { body: { items: drafts.map((draft) => ({ ...draft })) } }))).items;
}

/** Every sort of thing with its facts. */
function useSorts() {
  return useAsk("kit-facts", {}, (_, signal) => answer(api.GET("/api/kit/facts", { signal }))).shown;
}

/** Every fact of a sort, as a form asks for it. */
export function useFacts(sort: KitItem["sort"]): Fact[] {
  return useSorts()?.find((described) => described.sort === sort)?.facts ?? [];
}

/** What a code of a choice is called. */
export function useChoiceLabels() {
  const sorts = useSorts();
  return (sort: KitItem["sort"], fact: string, code: string): string => {
    const facts = sorts?.find((described) => described.sort === sort)?.facts;
    return facts?.find((each) => each.name === fact)?.choices.find((choice) => choice.code === code)?.label ?? code;
  };
}

/** What two readings, without and with a glass, say of it. */
export function useMeasured(question: Schemas["MeasuredInput"] | null) {
  return useAsk("measured", question, (body, signal) => answer(api.POST("/api/measured", { body, signal })));
}

/** What filters are as one. */
export function useTogether(question: Schemas["TogetherInput"]) {
  return useAsk("together", question, (body, signal) => answer(api.POST("/api/together", { body, signal })));
}

/** What a kit file would change. */
export function useKitFile(text: string, items: KitItem[]) {
  return useAsk("kit-file", { text, items: items.map((item) => ({ ...draftOf(item) })) }, (body, signal) =>
    answer(api.POST("/api/kit/read", { body, signal })),
  );
}

/** A kit as a file. */
export function askKitFile(items: KitItem[]): Promise<string> {
  return answer(
    api.POST("/api/kit/file", { body: { items: items.map((item) => ({ ...draftOf(item) })) }, parseAs: "text" }),
  );
}
