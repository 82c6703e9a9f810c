import { bag } from "./en.bag";

/** The words of the bag, in the language of the page; fetched with the screens that speak of things. */
export const bagWords = bag;
