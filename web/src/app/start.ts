import type { QueryClient } from "@tanstack/react-query";
import { remember } from "../questions/ask";
import { followWorld } from "../state/dryRunClock";
import { docOf } from "../state/outbox";
import { openMemory, ownerOf, renew, whenAdopted } from "../state/session";
import { learnStarter, recallStarter } from "../state/starter";
import { store } from "../state/store";
import { say } from "../ui/say";
import { words } from "../words";

/** Which build this is: answers of another build are not taken for this one's. */
const BUILD = String(import.meta.env["VITE_BUILD"]);
const SAVED_AFTER_MS = 1500;
/** Answers that the next visit can show before anybody has said anything, the latest of each. */
const KEPT = ["exposure", "scales", "looks", "looks-at", "stacks", "rig", "usable", "steer"];

interface SavedAnswers {
  build: string;
  answers: { key: unknown[]; data: unknown }[];
}

/** Everything that has to be there before the first paint: this browser's own memory. */
export async function openUp(client: QueryClient): Promise<boolean> {
  whenAdopted((frames, things) => {
    if (frames > 0) say({ text: words.session.adopted(frames) });
    if (things > 0) say({ text: words.session.kitAdopted(things) });
  });
  await openMemory();
  followWorld();
  const [known] = await Promise.all([recallStarter(BUILD), recallAnswers(client)]);
  keepAnswers(client);
  askToKeep();
  return known;
}

/** And what is asked of the server, in the background: who is here, and on a first visit all it needs in one answer. */
export async function hearFrom(client: QueryClient, known: boolean): Promise<void> {
  const start = await renew(!known);
  if (!start) return;
  client.setQueryData(["exposure", start.question], start.answer);
  client.setQueryData(
    ["scales", { step: start.question.reading.step, dial_limit: start.question.dial_limit }],
    start.scales,
  );
  const { account } = start.session;
  if (account !== null) {
    const owner = ownerOf({ account });
    await store.take(
      owner,
      start.kit.map((copy) => docOf(owner, { ...copy, kind: "kit" })),
    );
  }
  await learnStarter(BUILD, start.starter);
}

function answersNote(): string {
  return `answers ${store.owner}`;
}

async function recallAnswers(client: QueryClient): Promise<void> {
  const saved = (await store.note(answersNote())) as SavedAnswers | undefined;
  if (saved?.build !== BUILD || !Array.isArray(saved.answers)) return;
  for (const { key, data } of saved.answers) {
    client.setQueryData(key, data);
    remember(String(key[0]), data);
  }
}

/** The latest answers are kept a moment after the hands rest. */
function keepAnswers(client: QueryClient): void {
  let timer: number | undefined;
  const latest = new Map<string, SavedAnswers["answers"][number]>();
  let owner = store.owner;
  client.getQueryCache().subscribe((event) => {
    if (event.type !== "updated" || event.action.type !== "success") return;
    const [name] = event.query.queryKey as unknown[];
    const prefixKept = KEPT.find((prefix) => String(name).startsWith(prefix));
    if (!prefixKept) return;
    if (owner !== store.owner) latest.clear();
    owner = store.owner;
    latest.set(prefixKept, { key: [...(event.query.queryKey as unknown[])], data: event.query.state.data as unknown });
    window.clearTimeout(timer);
    timer = window.setTimeout(() => {
      const saved: SavedAnswers = { build: BUILD, answers: [...latest.values()] };
      if (owner === store.owner) void store.setNote(answersNote(), saved);
    }, SAVED_AFTER_MS);
  });
}

/** Asked once, when there is something to keep: that the browser does not clear it by itself. */
function askToKeep(): void {
  const unlisten = store.subscribe(() => {
    if (store.waiting().length === 0 && store.view("frame").length === 0) return;
    unlisten();
    // Not every browser can be asked, and none outside of a secure page.
    const storage = navigator.storage as StorageManager | undefined;
    void storage?.persist().catch(() => false);
  });
}
