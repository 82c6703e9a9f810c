import { dialogs } from "./en.dialogs";

/** The words of the dialogs, in the language of the page. */
export const dialogWords = dialogs;
