import { describe, expect, it, vi } from "vitest";
import { Engine } from "./engine";
import { Engines } from "./engines";
import type { FromEngine, ToEngine } from "./protocol";

/** A worker that is told when to answer. */
class Slow extends EventTarget {
  terminate() {}
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

  it.each(["exposure", "outing/days"])(
    "is started again when its worker dies over %s, and asked once more",
    async (name) => {
      const workers: Slow[] = [];
      const engines = new Engines(() => {
        workers.push(new Slow());
        return engineOf(workers.at(-1) as Slow);
      });
      const ready = () => workers.at(-1)?.say({ kind: "ready", names: [name] });
      const rest = () => new Promise((done) => setTimeout(done));
      ready();
      const asked = engines.ask(name, "", waiting().signal);
      ready();
      await rest();
      const [died] = workers.slice(-1);
      died?.dispatchEvent(Object.assign(new Event("error"), { message: "out of memory" }));
      await rest();
      expect(workers.at(-1)).not.toBe(died);
      ready();
      await rest();
      workers.at(-1)?.answer();
      expect((await asked).text).toBe(name);
      expect(engines.names).toContain(name);
    },
  );

  it("is given up when it says nothing for a minute, and nobody waits on", async () => {
    vi.useFakeTimers();
    const worker = new Slow();
    const engine = engineOf(worker);
    const asked = [engine.ask("one", "", waiting().signal), engine.ask("two", "", waiting().signal)];
    const heard = Promise.allSettled(asked);
    await vi.advanceTimersByTimeAsync(60_000);
    expect((await heard).map(({ status }) => status)).toEqual(["rejected", "rejected"]);
    expect(engine.ended).toBe(true);
    await expect(engine.ask("three", "", waiting().signal)).rejects.toThrow("does not answer");
    vi.useRealTimers();
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
