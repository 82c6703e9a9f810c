/** What the core in this page answers. */
export interface Answered {
  status: number;
  text: string;
}

/** The core in this page, where it can be had: what must not leave the page is asked of it alone. */
export const here: { ask: ((name: string, body: string, signal: AbortSignal) => Promise<Answered>) | null } = {
  ask: null,
};
