import { Engine } from "./engine";

/** What may take longer than a key press: ways to a time, days side by side, plans and whole logs. */
const LONG = new Set([
  "stacks",
  "reach",
  "light",
  "calibration",
  "outing/days",
  "outing/swaps",
  "outing/fillable",
  "outing/wait",
  "log/evidence",
  "log/learnt",
]);

export function takesLong(name: string): boolean {
  return LONG.has(name);
}

/** Two engines: what takes long never holds up a key press. The second one starts when it is first needed. */
export class Engines {
  quick: Engine;
  private readonly make: () => Engine;
  private long: Engine | null = null;
  private known: ReadonlySet<string> = new Set();

  constructor(make: () => Engine) {
    this.make = make;
    this.quick = make();
  }

  get names(): ReadonlySet<string> {
    // Another one that is on its way will know the same.
    if (this.quick.names.size > 0) this.known = this.quick.names;
    return this.known;
  }

  /** Ask; where the worker dies over it, another one is asked once. */
  async ask(name: string, body: string, signal: AbortSignal) {
    try {
      return await this.askOnce(name, body, signal);
    } catch (error) {
      if (signal.aborted || !this.hasDied(name)) throw error;
      return this.askOnce(name, body, signal);
    }
  }

  private hasDied(name: string): boolean {
    return takesLong(name) ? this.long?.ended === true : this.quick.ended;
  }

  private async askOnce(name: string, body: string, signal: AbortSignal) {
    if (!takesLong(name)) {
      if (this.quick.ended) {
        this.quick = this.make();
        await this.quick.ready;
      }
      return this.quick.ask(name, body, signal);
    }
    if (this.long?.ended) this.long = null;
    this.long ??= this.make();
    const { long } = this;
    try {
      await long.ready;
    } catch (error) {
      // The next question tries another one; this one is told, not left waiting.
      this.long = null;
      throw error;
    }
    return long.ask(name, body, signal);
  }
}
