import { Refused, Unreachable } from "../api/client";
import { words } from "../words";

/** An error in words: the server's own where it refused, ours where there was no answer. */
export function faultText(error: unknown): string {
  if (error instanceof Refused) return error.message;
  if (error instanceof Unreachable && error.status !== null) return words.trouble.failed(error.status);
  return words.trouble.unreachable;
}
