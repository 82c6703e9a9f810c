import { en, type Words } from "./en";

/** The words in the language of the page. */
export const words: Words = en;
