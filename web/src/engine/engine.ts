import type { FromEngine, ToEngine } from "./protocol";

interface Answered {
  status: number;
  text: string;
}

interface Waiting {
  question: ToEngine;
  signal: AbortSignal;
  say: (answered: Answered) => void;
  drop: (why: unknown) => void;
}

/** No question takes so long anywhere [ms]: a worker that says nothing has died without a word. */
const LONGEST_MS = 60_000;

/** The core in a worker of this page: one question at a time, and none that nobody waits for any more. */
export class Engine {
  /** The questions it answers; empty until it is there. */
  names: ReadonlySet<string> = new Set();
  readonly ready: Promise<void>;
  private readonly worker: Worker;
  private readonly queue: Waiting[] = [];
  private now: Waiting | null = null;
  private count = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private over: Error | null = null;

  constructor(worker: Worker) {
    this.worker = worker;
    this.ready = new Promise((resolve, reject) => {
      worker.addEventListener("error", (event) => {
        const error = new Error(event.message);
        reject(error);
        this.end(error);
      });
      worker.addEventListener("message", ({ data }: MessageEvent<FromEngine>) => {
        if (data.kind === "ready") {
          this.names = new Set(data.names);
          resolve();
        } else if (data.kind === "failed") reject(new Error(data.text));
        else {
          clearTimeout(this.timer);
          this.now?.say({ status: data.status, text: data.text });
          this.now = null;
          this.next();
        }
      });
    });
  }

  ask(name: string, body: string, signal: AbortSignal): Promise<Answered> {
    this.count += 1;
    const question = { id: this.count, name, body };
    if (this.over) return Promise.reject(this.over);
    return new Promise((say, drop) => {
      this.queue.push({ question, signal, say, drop });
      this.next();
    });
  }

  private next(): void {
    if (this.now) return;
    const waiting = this.queue.shift();
    if (!waiting) return;
    if (waiting.signal.aborted) {
      waiting.drop(waiting.signal.reason);
      this.next();
      return;
    }
    this.now = waiting;
    this.timer = setTimeout(() => this.end(new Error("the core does not answer")), LONGEST_MS);
    this.worker.postMessage(waiting.question);
  }

  /** Whether its worker has died, or was given up. */
  get ended(): boolean {
    return this.over !== null;
  }

  private end(why: Error): void {
    if (this.over) return;
    this.over = why;
    clearTimeout(this.timer);
    this.worker.terminate();
    for (const waiting of [this.now, ...this.queue.splice(0)]) waiting?.drop(why);
    this.now = null;
  }
}
