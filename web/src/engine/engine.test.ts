import { describe, expect, it } from "vitest";
import { Engine } from "./engine";
import { Engines } from "./engines";
import type { FromEngine, ToEngine } from "./protocol";

/** A worker that is told when to answer. */
class Slow extends EventTarget {
  readonly asked: ToEngine[] = [];
  postMessage(asked: ToEngine) {
    this.asked.push(asked);
  }
  say(data: FromEngine) {
    this.dispatchEvent(new MessageEvent("message", { data }));
  }
  answer() {
    this.say({ kind: "answer", id: this.asked.at(-1)?.id ?? 0, status: 200, text: this.asked.at(-1)?.name ?? "" });
  }
}

const engineOf = (worker: Slow) => new Engine(worker as unknown as Worker);
const waiting = () => new AbortController();

describe("an engine", () => {
  it("answers one question after the other, and none that nobody waits for", async () => {
    const worker = new Slow();
    const engine = engineOf(worker);
    const gone = waiting();
    const first = engine.ask("one", "", waiting().signal);
    const dropped = engine.ask("two", "", gone.signal);
    const third = engine.ask("three", "", waiting().signal);
    gone.abort(new Error("asked anew"));
    expect(worker.asked.map(({ name }) => name)).toEqual(["one"]);
    worker.answer();
    expect((await first).text).toBe("one");
    await expect(dropped).rejects.toThrow("asked anew");
    worker.answer();
    expect((await third).text).toBe("three");
    expect(worker.asked.map(({ name }) => name)).toEqual(["one", "three"]);
  });

  it("is one of two, so that what takes long holds up no key press", async () => {
    const workers: Slow[] = [];
    const engines = new Engines(() => {
      workers.push(new Slow());
      return engineOf(workers.at(-1) as Slow);
    });
    void engines.ask("outing/days", "", waiting().signal);
    const key = engines.ask("exposure", "", waiting().signal);
    expect(workers).toHaveLength(2);
    workers[0]?.answer();
    expect((await key).text).toBe("exposure");
  });

  it("tells whoever asked when the second one does not start, and tries anew", async () => {
    const workers: Slow[] = [];
    const engines = new Engines(() => {
      workers.push(new Slow());
      return engineOf(workers.at(-1) as Slow);
    });
    const first = engines.ask("outing/days", "", waiting().signal);
    workers[1]?.say({ kind: "failed", text: "no memory" });
    await expect(first).rejects.toThrow("no memory");
    const again = engines.ask("outing/days", "", waiting().signal);
    workers[2]?.say({ kind: "ready", names: ["outing/days"] });
    await new Promise((rest) => setTimeout(rest));
    workers[2]?.answer();
    expect((await again).text).toBe("outing/days");
  });
});
