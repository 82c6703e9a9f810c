import { answer, api, type Schemas } from "../api/client";
import { useAsk } from "./ask";
import { askNear } from "./lightWatch";

export type Light = Schemas["ForecastAnswer"];
export type Swaps = Schemas["SwapPlanAnswer"];
export type Tide = Schemas["TideAnswer"];
export type Plausible = Schemas["PlausibleAnswer"];
export type Rate = Schemas["WatchedRateAnswer"];

/** The light of an outing over a time; another outing's is not even shown meanwhile. */
export function useLight(outing: string, question: Schemas["LightInput"] | null) {
  return useAsk(`light ${outing}`, question, (body, signal) => answer(api.POST("/api/light", { body, signal })));
}

/** When to change glass so that the time stays in an aim, for an outing. */
export function useSwaps(outing: string, question: Schemas["SwapsInput"] | null) {
  return useAsk(`swaps ${outing}`, question, (body, signal) => answer(api.POST("/api/outing/swaps", { body, signal })));
}

/** Heights of the water, and when to leave, from entered high and low waters. */
export function useTide(question: Schemas["TideInput"] | null) {
  return useAsk("tide", question, (body, signal) => answer(api.POST("/api/outing/tide", { body, signal })));
}

/** Whether a reading fits a place's sky at an instant, and what EV it is. */
export function usePlausible(question: Schemas["PlausibleInput"] | null) {
  return useAsk("plausible", question, (body, signal) => answer(api.POST("/api/outing/plausible", { body, signal })));
}

/** Whether a reading fits the sky that one sees. */
export function useSky(question: Schemas["SkyFitsInput"] | null) {
  return useAsk("sky", question, (body, signal) => answer(api.POST("/api/outing/sky", { body, signal })));
}

/** How the light moves, from readings of one scene; what others said of it is not even shown meanwhile. */
export function useRate(question: Schemas["RateInput"] | null) {
  const readings = question?.readings.map(({ at }) => at).join() ?? "";
  return useAsk(`rate ${readings}`, question, (body, signal) => {
    const served = () => answer(api.POST("/api/light/rate", { body, signal }));
    return body.looks.length > 0 ? askNear("light/rate", body, signal, served) : served();
  });
}

/** The longest frame that still fills before an outing ends, minute by minute. */
export function useFillable(question: Schemas["LightInput"] | null) {
  return useAsk("fillable", question, (body, signal) => answer(api.POST("/api/outing/fillable", { body, signal })));
}

/** When the light will be what a reading wants. */
export function useWait(question: Schemas["WaitInput"] | null) {
  return useAsk("wait", question, (body, signal) => answer(api.POST("/api/outing/wait", { body, signal })));
}

/** How many frames fit. */
export function useBudget(question: Schemas["BudgetInput"] | null) {
  return useAsk("budget", question, (body, signal) => answer(api.POST("/api/outing/budget", { body, signal })));
}

/** The frames of an outing's plan, one after another. */
export function useFrames(outing: string, question: Schemas["FramesInput"] | null) {
  return useAsk(`frames-planned ${outing}`, question, (body, signal) =>
    answer(api.POST("/api/outing/frames", { body, signal })),
  );
}

/** The simulated hand meter. */
export async function askMeter(body: Schemas["MeterInput"]): Promise<number> {
  return (await answer(api.POST("/api/standins/meter", { body }))).ev100;
}

/** The simulated tide and weather feed. */
export function askFeed(body: Schemas["FeedInput"]): Promise<Schemas["FeedAnswer"]> {
  return answer(api.POST("/api/outing/feed", { body }));
}
