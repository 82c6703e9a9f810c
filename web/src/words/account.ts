import { account } from "./en.account";

/** The words of one's own account, in the language of the page; fetched with its dialog. */
export const accountWords = account;
