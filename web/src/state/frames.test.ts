import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { sampleFrame } from "./frame.test.data";
import { drop, flush, type Frame, openFrame, put, waitingFrame } from "./frames";

const frame = (id: string, state: Frame["state"] = "closed", opened_at = "2027-04-17T04:31:40Z"): Frame =>
  sampleFrame({ id, state, opened_at, ...(state === "open" && { closed_at: null, closed_by: null }) });

let asked: Request[] = [];
let answerWith: (request: Request) => Response | Promise<Response>;

beforeEach(() => {
  localStorage.clear();
  asked = [];
  answerWith = () => Response.json({});
  vi.stubGlobal("fetch", (request: Request) => {
    asked.push(request.clone());
    return Promise.resolve(answerWith(request));
  });
});
afterEach(() => vi.unstubAllGlobals());

describe("frames on their way", () => {
  it("are written at once and found again", () => {
    put(frame("a", "open"), null);
    expect(openFrame()?.id).toBe("a");
    put(frame("a"), null);
    expect(openFrame()).toBeUndefined();
    drop("a");
    expect(waitingFrame("a")).toBeUndefined();
  });

  it("go to the account, a guest's adopted, somebody else's left alone", async () => {
    put(frame("mine"), "edda");
    put(frame("guest"), null);
    put(frame("theirs"), "joar");
    expect(await flush("edda")).toBe(1);
    expect([waitingFrame("mine"), waitingFrame("guest")]).toEqual([undefined, undefined]);
    expect(waitingFrame("theirs")).toBeDefined();
    const sent = (await asked[0]?.json()) as object;
    expect(sent).not.toHaveProperty("actual_seconds");
    expect(sent).not.toHaveProperty("error");
  });

  it("stay here while the shutter is open, and while nobody answers", async () => {
    put(frame("open", "open"), null);
    await flush("edda");
    expect(openFrame()?.id).toBe("open");
    answerWith = () => Promise.reject(new TypeError("offline"));
    put(frame("later"), "edda");
    expect(await flush("edda")).toBe(0);
    expect(waitingFrame("later")).toBeDefined();
  });

  it("that are refused stay, and do not hold up the rest", async () => {
    put(frame("bad", "closed", "2027-04-17T04:00:00Z"), "edda");
    put(frame("good"), "edda");
    answerWith = (request) =>
      request.url.endsWith("/bad") ? Response.json({ errors: [] }, { status: 422 }) : Response.json({});
    await flush("edda");
    expect([waitingFrame("bad")?.id, waitingFrame("good")]).toEqual(["bad", undefined]);
  });

  it("that changed while being sent are not lost", async () => {
    put(frame("a", "open"), "edda");
    answerWith = () => {
      put(frame("a"), "edda");
      return Response.json({});
    };
    await flush("edda");
    expect(waitingFrame("a")?.state).toBe("closed");
  });
});
