import { kit } from "./en.kit";

/** The words of the kit, in the language of the page; fetched with the screens that speak of things. */
export const kitWords = kit;
