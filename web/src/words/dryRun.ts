import { dryrun } from "./en.dryrun";

/** The words of the dry run, in the language of the page; fetched with what needs them. */
export const dryRunWords = dryrun;
