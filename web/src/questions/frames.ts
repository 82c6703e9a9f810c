import type { Schemas } from "../api/client";

/** A frame as the account keeps it, and as it is written. */
export type Frame = Schemas["FrameKeptDoc"];
export type FrameDocument = Schemas["FrameDoc"];

/**
 * What is asked of an account's log is asked of the server, and where nobody answers of the frames that are here; a
 * guest's frames go along with the question.
 */
export type OwnLog =
  Schemas["LogInput"] | { account: number; head: number; waiting: number; here: () => Schemas["LogInput"] };

/** The record alone: what the clock says is worked out by whoever reads it. */
export function documentOf(frame: Frame): FrameDocument {
  const doc: FrameDocument & Partial<Frame> = { ...frame };
  delete doc.actual_seconds;
  delete doc.error;
  delete doc.pictured;
  delete doc.refused;
  return doc;
}
