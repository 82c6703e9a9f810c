import type { FromEngine, ToEngine } from "./protocol";

interface Said {
  status: number;
  text: string;
}

/** The core in a worker of this page. */
export class Engine {
  /** The questions it answers; empty until it is there. */
  names: ReadonlySet<string> = new Set();
  readonly ready: Promise<void>;
  private readonly worker: Worker;
  private readonly waiting = new Map<number, (said: Said) => void>();
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
          this.waiting.get(data.id)?.({ status: data.status, text: data.text });
          this.waiting.delete(data.id);
        }
      });
    });
  }

  ask(name: string, body: string): Promise<Said> {
    this.count += 1;
    const id = this.count;
    const said = new Promise<Said>((resolve) => this.waiting.set(id, resolve));
    this.worker.postMessage({ id, name, body } satisfies ToEngine);
    return said;
  }
}
