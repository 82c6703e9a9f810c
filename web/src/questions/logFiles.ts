import { answer, api, type Schemas } from "../api/client";
import { asForm } from "../api/form";
import { useAsk } from "./ask";
import { documentOf, type Frame } from "./log";

type As = "json" | "csv" | "xmp";

/** Frames that are sent along as a file. */
export function askLogFile(as: As, frames: Frame[]): Promise<string> {
  return answer(api.POST("/api/log/write", { body: { as, frames: frames.map(documentOf) }, parseAs: "text" }));
}

/** One file of an account's own log. */
export function askOwnLog(as: "json" | "csv", part: number): Promise<string> {
  return answer(api.GET("/api/log/file", { params: { query: { as_: as, part } }, parseAs: "text" }));
}

/** In how many files an account's log goes out. */
export async function askParts(): Promise<number> {
  return (await answer(api.GET("/api/log/parts"))).parts;
}

export function askLogSchema(): Promise<unknown> {
  return answer(api.GET("/api/log/schema"));
}

export function askArchive(part: number): Promise<Blob> {
  return answer(api.GET("/api/account/archive", { params: { query: { part } }, parseAs: "blob" }));
}

export interface TakenIn {
  frames: Schemas["LogChangesAnswer"];
  beside: Omit<Schemas["ArchiveChangesAnswer"], "frames"> | null;
}

/** What a file would do to the account, or does when it is to be kept. */
export async function askTakeIn(sort: "log" | "archive", file: File, keep: boolean): Promise<TakenIn> {
  if (sort === "log") return { frames: await answer(api.POST("/api/log/read", asForm({ file, keep }))), beside: null };
  const { frames, ...beside } = await answer(api.POST("/api/account/archive", asForm({ file, keep })));
  return { frames, beside };
}

/** What a file would do, first. */
export function useTakeIn(sort: "log" | "archive", file: File) {
  const { name, size, lastModified } = file;
  return useAsk("take-in", { sort, name, size, lastModified }, () => askTakeIn(sort, file, false));
}

/** Two JPEGs side by side as one PNG. */
export async function askBeforeAfter(parts: Parameters<typeof asForm>[0]): Promise<Blob> {
  const blob: unknown = await answer(api.POST("/api/frames/card", { ...asForm(parts), parseAs: "blob" }));
  return blob as Blob;
}
