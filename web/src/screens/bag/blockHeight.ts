/** As far as a hand goes with filters [stops], and the room for a number above the highest block [px]. */
export const MOST = 15;
export const HEAD = 32;

/** How high a block's picture is where a stop is so many pixels. */
export const heightFor = (stopPx: number) => HEAD + MOST * stopPx + 2;
