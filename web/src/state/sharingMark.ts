/** How a fragment begins that holds a set-up; alone, so that every page can look for it. */
export const SHARED = "#set-up=";
