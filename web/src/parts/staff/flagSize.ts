/** How high a pennant is [px]. */
export const FLAG = 32;
