import { watch } from "./en.watch";

/** The words of the watching phone, in the language of the page. */
export const watchWords = watch;
