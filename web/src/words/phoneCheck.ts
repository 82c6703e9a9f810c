import { phoneCheck } from "./en.phonecheck";

/** The words of the phone that is tried, in the language of the page. */
export const phoneWords = phoneCheck;
