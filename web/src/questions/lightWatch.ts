import { answer, api, type Fault, Refused, type Schemas, Unreachable } from "../api/client";
import { here } from "../api/here";
import { useAsk } from "./ask";

export type Look = Schemas["LookAnswer"];
export type LookQuestion = Schemas["LookInput"];
export type SkyKind = Schemas["SkyKind"];
export type Matched = Schemas["MatchedAnswer"];
export type Step = Schemas["LightStepAnswer"];
export type Weight = Schemas["WeightAnswer"];

/** Ask the core in this page, and nobody else. */
async function askHere<Answer>(name: string, body: unknown, signal?: AbortSignal): Promise<Answer> {
  if (!here.ask) throw new Unreachable();
  const answered = await here.ask(name, JSON.stringify(body), signal ?? new AbortController().signal);
  const read: unknown = JSON.parse(answered.text);
  if (answered.status === 200) return read as Answer;
  throw new Refused(answered.status, (read as { errors: Fault[] }).errors);
}

/** Ask the core in the page, which has the looks anyway; the server where it does not answer. */
export function askNear<Answer>(
  name: string,
  body: unknown,
  signal: AbortSignal,
  served: () => Promise<Answer>,
): Promise<Answer> {
  return askHere<Answer>(name, body, signal).catch((error: unknown) => {
    if (error instanceof Refused) throw error;
    return served();
  });
}

/** What a look at the scene says. Its cells are a picture, if a coarse one: they never leave the page. */
export function askLook(question: LookQuestion): Promise<Look> {
  return askHere("light/look", question);
}

/** What the simulated phone sees of a made-up sky. */
export async function askSkySeen(body: Schemas["SkySeenInput"]): Promise<ImageBitmap> {
  const blob: unknown = await answer(api.POST("/api/standins/phone", { body, parseAs: "blob" }));
  return createImageBitmap(blob as Blob);
}

/** A reading against the phone's light: what matches them, and whether a filter was forgotten. */
export function usePhone(question: Schemas["PhoneInput"] | null) {
  return useAsk("phone-match", question, (body, signal) => answer(api.POST("/api/light/phone", { body, signal })));
}
