import { answer, api, type Schemas } from "../api/client";
import { asForm } from "../api/form";

type Parts = Parameters<typeof asForm>[0];
export type Pair = Schemas["PairMeasuredAnswer"];
export type Photo = Schemas["PhotoReadAnswer"];
export type Joining = Schemas["JoiningAnswer"];

/** Strength, cast and corners from a bare and a filtered frame. */
export function askPair(parts: Parts): Promise<Pair> {
  return answer(api.POST("/api/frames/pair", asForm(parts)));
}

/** Hot specks of a capped frame. */
export function askSpecks(parts: Parts): Promise<Schemas["SpecksReadAnswer"]> {
  return answer(api.POST("/api/frames/specks", asForm(parts)));
}

/** Whether light comes in, from two capped frames. */
export function askLeak(parts: Parts): Promise<Schemas["LeakAnswer"]> {
  return answer(api.POST("/api/frames/leak", asForm(parts)));
}

/** What a JPEG says of itself. */
export function askPhoto(file: File, signal: AbortSignal): Promise<Photo> {
  return answer(api.POST("/api/frames/photo", { ...asForm({ file }), signal }));
}

/** Which files belong to which frames. */
export function askJoin(body: Schemas["JoinInput"]): Promise<Joining> {
  return answer(api.POST("/api/frames/join", { body }));
}
