import { outing } from "./en.outing";

/** The words of the outing, in the language of the page; fetched with its screen. */
export const outingWords = outing;
