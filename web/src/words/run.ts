import { run } from "./en.run";

/** The words of the run, in the language of the page; fetched with its screen. */
export const runWords = run;
