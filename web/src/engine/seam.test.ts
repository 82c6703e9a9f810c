// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { transport } from "../api/client";
import type { Engines } from "./engines";
import { answerBeside, questionIn } from "./seam";

const NAMES = new Set(["exposure", "scales", "outing/days"]);
const asked = vi.fn((name: string, body: string) =>
  Promise.resolve({ status: 200, text: JSON.stringify({ name, body }) }),
);
const engine = { names: NAMES, ask: asked } as unknown as Engines;
const post = (name: string, signal?: AbortSignal) =>
  new Request(`http://localhost/api/${name}`, {
    method: "POST",
    body: "{}",
    headers: { "Content-Type": "application/json" },
    ...(signal && { signal }),
  });
const silence = () => Promise.reject(new TypeError("Failed to fetch"));
const plain = transport.fetch;
let out = () => {};
const signals: boolean[] = [];

function between(server: (request: Request) => Promise<Response>, there: Engines | null = engine) {
  transport.fetch = server;
  const coming = vi.fn(() => Promise.resolve(engine));
  out = answerBeside({ there: () => there, coming, onSignal: (signal) => signals.push(signal) });
  return coming;
}

beforeEach(() => {
  asked.mockClear();
  signals.length = 0;
});
afterEach(() => {
  out();
  transport.fetch = plain;
  vi.useRealTimers();
});

describe("a question in a request", () => {
  it("is what the core's table knows, numbers in an address being numbers", async () => {
    expect(await questionIn(post("exposure"), NAMES)).toEqual({ name: "exposure", body: "{}" });
    const scales = new Request("http://localhost/api/scales?step=third&dial_limit=30");
    expect(await questionIn(scales, NAMES)).toEqual({ name: "scales", body: '{"step":"third","dial_limit":30}' });
    expect(await questionIn(post("session"), NAMES)).toBeNull();
  });
});

describe("a network that comes back", () => {
  it("is said at once, before anybody asks anything, and nobody is asked where none was missing", async () => {
    const server = vi.fn<(request: Request) => Promise<Response>>(silence);
    between(server);
    window.dispatchEvent(new Event("online"));
    expect(server).not.toHaveBeenCalled();
    await transport.fetch(post("exposure"));
    // A network is not a server yet.
    window.dispatchEvent(new Event("online"));
    await vi.waitFor(() => expect(server).toHaveBeenCalledTimes(2));
    expect(signals).toEqual([false]);
    server.mockImplementation(() => Promise.resolve(new Response("theirs")));
    await transport.fetch(post("exposure"));
    expect(signals).toEqual([false, true]);
    out();
    server.mockImplementation(silence);
    between(server);
    await transport.fetch(post("exposure"));
    server.mockImplementation(() => Promise.resolve(new Response("theirs")));
    window.dispatchEvent(new Event("online"));
    await vi.waitFor(() => expect(signals).toEqual([false, true, false, true]));
    expect(server.mock.lastCall?.[0].url).toMatch(/\/api\/health$/);
  });
});

describe("the engine beside the server", () => {
  it("is not asked while the server answers, well or badly", async () => {
    for (const status of [200, 422, 500]) {
      between(() => Promise.resolve(new Response("theirs", { status })));
      expect((await transport.fetch(post("exposure"))).status).toBe(status);
      out();
    }
    expect(asked).not.toHaveBeenCalled();
    expect(signals).toEqual([true, true, true]);
  });

  it.each([
    ["a gateway with nobody behind it", 502, "text/html"],
    ["a gateway that gave up", 504, ""],
    ["the page of a hotel's network", 200, "text/html; charset=utf-8"],
  ])("answers in place of %s", async (_, status, type) => {
    between(() => Promise.resolve(new Response("<h1>Welcome</h1>", { status, headers: { "Content-Type": type } })));
    expect(await (await transport.fetch(post("exposure"))).json()).toMatchObject({ name: "exposure" });
    expect(signals).toEqual([false]);
    out();
    // What only a server can answer finds nobody.
    between(() => Promise.resolve(new Response("", { status, headers: { "Content-Type": type } })), null);
    await expect(transport.fetch(post("session"))).rejects.toBeInstanceOf(TypeError);
  });

  it("answers for a server that is there and has its hands full", async () => {
    const busy = { status: 503, headers: { "Content-Type": "application/json" } };
    between(() => Promise.resolve(new Response('{"errors":[]}', busy)));
    expect((await transport.fetch(post("exposure"))).status).toBe(200);
    expect((await transport.fetch(post("session"))).status).toBe(503);
    expect(signals.includes(false)).toBe(false);
  });

  it("takes fifteen seconds of silence for nobody, whatever was asked", async () => {
    vi.useFakeTimers();
    const coming = between(() => new Promise(() => {}), null);
    const said = transport.fetch(post("exposure"));
    const session = transport.fetch(post("session")).catch((error: unknown) => error);
    await vi.advanceTimersByTimeAsync(14_900);
    expect(coming).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(200);
    expect((await said).status).toBe(200);
    expect(await session).toBeInstanceOf(TypeError);
    expect(signals).toContain(false);
  });

  it("answers where nobody does, and the server is left in peace for a while", async () => {
    const server = vi.fn(silence);
    between(server);
    expect(await (await transport.fetch(post("exposure"))).json()).toMatchObject({ name: "exposure" });
    await transport.fetch(post("exposure"));
    expect(server).toHaveBeenCalledTimes(1);
    expect(signals).toEqual([false]);
  });

  it("is fetched for a question that found nobody, and not for what only a server can answer", async () => {
    const coming = between(silence, null);
    expect((await transport.fetch(post("exposure"))).status).toBe(200);
    await expect(transport.fetch(post("session"))).rejects.toBeInstanceOf(TypeError);
    expect(coming).toHaveBeenCalled();
    expect(asked).toHaveBeenCalledTimes(1);
  });

  it("answers a server that takes its time, whichever is first", async () => {
    vi.useFakeTimers();
    between(() => new Promise(() => {}));
    for (const [name, early] of [
      ["exposure", 100],
      ["outing/days", 1100],
    ] as const) {
      asked.mockClear();
      const said = transport.fetch(post(name));
      await vi.advanceTimersByTimeAsync(early);
      expect(asked).not.toHaveBeenCalled();
      await vi.advanceTimersByTimeAsync(200);
      expect((await said).status).toBe(200);
    }
  });

  it("learns that nobody is there also where that is slow to come out", async () => {
    vi.useFakeTimers();
    const server = vi.fn(
      () => new Promise<Response>((_, fail) => setTimeout(() => fail(new TypeError("Failed to fetch")), 500)),
    );
    between(server);
    const said = transport.fetch(post("exposure"));
    await vi.advanceTimersByTimeAsync(200);
    expect((await said).status).toBe(200);
    await vi.advanceTimersByTimeAsync(400);
    expect(signals).toEqual([false]);
    await transport.fetch(post("exposure"));
    expect(server).toHaveBeenCalledTimes(1);
  });

  it("leaves a file alone, which is nobody's question and too large to be held twice", async () => {
    const form = new FormData();
    form.append("file", new Blob(["picture"]));
    const upload = new Request("http://localhost/api/exposure", { method: "POST", body: form });
    const server = vi.fn((request: Request) => Promise.resolve(new Response(String(request === upload))));
    between(server);
    expect(await (await transport.fetch(upload)).text()).toBe("true");
    between(silence, null);
    await expect(transport.fetch(upload)).rejects.toBeInstanceOf(TypeError);
    expect(asked).not.toHaveBeenCalled();
  });

  it("answers nobody who has stopped asking", async () => {
    const stopped = new AbortController();
    between(() => {
      stopped.abort();
      return silence();
    });
    await expect(transport.fetch(post("exposure", stopped.signal))).rejects.toThrow();
    expect(asked).not.toHaveBeenCalled();
  });
});
