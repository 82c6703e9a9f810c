import { log } from "./en.log";

/** The words of the log, in the language of the page; fetched with its screen. */
export const logWords = log;
