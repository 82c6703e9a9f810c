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

/** The core in a worker of this page: one question at a time, and none that nobody waits for any more. */
export class Engine {
  /** The questions it answers; empty until it is there. */
  names: ReadonlySet<string> = new Set();
  readonly ready: Promise<void>;
  private readonly worker: Worker;
  private readonly queue: Waiting[] = [];
  private now: Waiting | null = null;
  private count = 0;

  constructor(worker: Worker) {
    this.worker = worker;
    this.ready = new Promise((resolve, reject) => {
      worker.addEventListener("error", (event) => reject(new Error(event.message)));
      worker.addEventListener("message", ({ data }: MessageEvent<FromEngine>) => {
        if (data.kind === "ready") {
          this.names = new Set(data.names);
          resolve();
        } else if (data.kind === "failed") reject(new Error(data.text));
        else {
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
    this.worker.postMessage(waiting.question);
  }
}
