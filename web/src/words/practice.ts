import { practice } from "./en.practice";

/** The words of practice, in the language of the page; fetched with its screen. */
export const practiceWords = practice;
