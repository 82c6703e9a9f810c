// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { AccountServer } from "./account.test.data";
import { sampleFrame } from "./frame.test.data";
import { emptyBrowser, rest } from "./pages.test.data";

const look = (name: string, low = 4) => ({ kind: "sea", look: name, low, high: null });

/** A page with the real session, outbox and looks before a server that can be told how to behave. */
async function visit(server: AccountServer) {
  vi.resetModules();
  const { transport } = await import("../api/client");
  transport.fetch = server.fetch;
  const session = await import("./session");
  const outbox = await import("./outbox");
  const { looks } = await import("./looks");
  const { store } = await import("./store");
  const keeping = { ...(await import("./keeping")), ...(await import("./kept")) };
  const frames = await import("./frames");
  await session.openMemory();
  return { session, outbox, looks, store, keeping, frames };
}

let server: AccountServer;
const names = () => server.held.map((held) => (held.content as { look?: string } | null)?.look ?? null);
const sentNames = () => server.parcels.map((parcel) => parcel.map((write) => (write.content as { look: string }).look));

beforeEach(async () => {
  await emptyBrowser();
  server = new AccountServer();
});
afterEach(() => vi.useRealTimers());

describe("the outbox", () => {
  it("sends what was written in order, and takes what the server made of it", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await page.looks.set("b", look("written first"));
    await page.looks.set("a", look("written second"));
    await page.outbox.sent();
    expect(sentNames().flat()).toEqual(["written first", "written second"]);
    expect(page.store.waiting()).toEqual([]);
    expect(page.store.held("look", "b")?.number).toBe(1);
  });

  it("sends the same writing again when the answer was lost, and says what a later one follows", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await rest(10);
    server.moments = ["lost"];
    await page.looks.set("a", look("first"));
    await page.outbox.sent().catch(() => undefined);
    await page.looks.set("a", look("second"));
    await page.outbox.sent();
    const [first, ...later] = server.parcels.map((parcel) => parcel[0]);
    expect(first?.follows).toEqual([]);
    expect(later.at(-1)?.follows).toContain(first?.write);
    expect([names(), page.store.waiting()]).toEqual([["second"], []]);
  });

  it("keeps what was written while it was being sent", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await rest(10);
    const fetch = server.fetch;
    const { transport } = await import("../api/client");
    transport.fetch = async (request) => {
      transport.fetch = fetch;
      const response = await fetch(request);
      await page.looks.set("a", look("typed meanwhile"));
      return response;
    };
    await page.looks.set("a", look("sent"));
    await page.outbox.sent();
    expect([page.looks.get("a")?.look, names()]).toEqual(["typed meanwhile", ["typed meanwhile"]]);
  });

  it("settles by the writing's own name, in whatever order the answers stand", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await rest(10);
    server.backwards = true;
    server.moments = ["away", "away", "away"];
    server.refuses = (change) => `Not ${(change.content as { look: string }).look}.`;
    await page.looks.set("a", look("this"));
    await page.looks.set("b", look("that"));
    while (server.moments.length > 0) await page.outbox.sent().catch(() => undefined);
    await page.outbox.sent();
    expect(sentNames().some((parcel) => parcel.length === 2)).toBe(true);
    const why = page.store.waiting().map((doc) => [doc.id, doc.waiting?.refused?.[0]?.problem]);
    expect(why.toSorted()).toEqual([
      ["a", "Not this."],
      ["b", "Not that."],
    ]);
  });

  it("keeps what is refused with the reason, holds up nothing else, and offers ways out", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await page.looks.set("a", look("good"));
    await page.outbox.sent();
    server.refuses = (change) => ((change.content as { look?: string } | null)?.look === "bad" ? "No." : null);
    await page.looks.set("a", look("bad"));
    await page.looks.set("b", look("fine"));
    await page.outbox.sent();
    expect(names()).toEqual(["good", "fine"]);
    const [doc] = page.store.waiting();
    expect(doc?.waiting?.refused?.[0]?.problem).toBe("No.");
    expect(page.looks.get("a")?.look).toBe("bad");
    await page.outbox.sent();
    expect(
      sentNames()
        .flat()
        .filter((name) => name === "bad"),
    ).toHaveLength(1);
    if (doc) await page.keeping.dropRefused(doc);
    expect([page.looks.get("a")?.look, page.store.waiting()]).toEqual(["good", []]);
    // Changed instead of dropped, it goes out as any other.
    await page.looks.set("a", look("bad"));
    await page.outbox.sent();
    await page.looks.set("a", look("better"));
    await page.outbox.sent();
    expect(names()).toContain("better");
  });

  it("asks again with growing pauses while nobody answers, and goes on when somebody does", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await rest(10);
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    server.moments = Array.from({ length: 5 }, (_, at) => (at % 2 === 0 ? "away" : "broken"));
    server.asked = [];
    await page.looks.set("a", look("offline"));
    const tries: number[] = [];
    for (let second = 0; second < 40; second += 1) {
      await vi.advanceTimersByTimeAsync(1000);
      for (let turn = 0; turn < 20; turn += 1) await new Promise((resolve) => setImmediate(resolve));
      tries.push(server.asked.length);
    }
    // After 0.3, 1.3, 3.3, 7.3 and 15.3 s, each time to no avail; then it is heard.
    expect([tries[0], tries[2], tries[5], tries[12], tries[20]]).toEqual([1, 2, 3, 4, 5]);
    expect([names(), page.store.waiting()]).toEqual([["offline"], []]);
  });

  it("holds the removal of a frame with a picture back while it can be taken back, and of nothing else", async () => {
    const [pictured, plain] = [sampleFrame({ pictured: true }), sampleFrame({ id: "b" })];
    for (const frame of [pictured, plain]) server.put("frame", frame.id, frame);
    const page = await visit(server);
    await page.session.renew(false);
    await page.outbox.sent();
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "Date"] });
    const pass = async (ms: number) => {
      await vi.advanceTimersByTimeAsync(ms);
      for (let turn = 0; turn < 20; turn += 1) await new Promise((resolve) => setImmediate(resolve));
    };
    const held = () => Object.fromEntries(server.held.map(({ id, content }) => [id, content !== null]));
    await page.frames.removeFrame("a");
    await page.frames.removeFrame("b");
    await pass(9000);
    expect(held()).toEqual({ a: true, b: false });
    // What waits for nothing but its rest holds up nobody, and what came back was never gone.
    await page.outbox.sent();
    await page.frames.addFrame(pictured);
    await pass(9000);
    expect([held(), page.store.waiting()]).toEqual([{ a: true, b: false }, []]);
    server.put("frame", "a", pictured);
    await page.outbox.sent();
    await page.frames.removeFrame("a");
    await pass(9000);
    expect(held()).toEqual({ a: true, b: false });
    await pass(2000);
    expect([held(), page.store.waiting()]).toEqual([{ a: false, b: false }, []]);
  });

  it("fills a new device page by page, and gives a server that was set back what it lost", async () => {
    for (const name of ["one", "two", "three", "four", "five"]) server.put("look", name, look(name));
    const page = await visit(server);
    await page.session.renew(false);
    await page.outbox.sent();
    expect(page.looks.all()).toHaveLength(5);
    server.held = server.held.filter((held) => held.number <= 3);
    server.head = 3;
    await page.outbox.sent();
    await page.outbox.sent();
    expect(names().toSorted()).toEqual(["five", "four", "one", "three", "two"]);
    expect(page.looks.all()).toHaveLength(5);
  });
});

describe("the session", () => {
  it("is the last known at once, with what it has, before anybody answers", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await page.looks.set("a", look("mine"));
    await page.outbox.sent();
    server.moments = ["away", "away", "away"];
    const again = await visit(server);
    expect(again.store.owner).toBe("account 1");
    expect(again.looks.get("a")?.look).toBe("mine");
    await expect(again.session.renew(false)).rejects.toThrow();
    expect(again.store.owner).toBe("account 1");
  });

  it("changes on every page at once, and nothing of one lands in another", async () => {
    const a = await visit(server);
    await a.session.renew(false);
    const b = await visit(server);
    await b.session.renew(false);
    server.session = { ...server.session, account: 2, username: "joar" };
    await b.session.renew(false);
    await rest(20);
    expect(a.store.owner).toBe("account 2");
    // A page that has not heard yet names the account it shows, and is refused.
    server.session = { ...server.session, account: 3, username: "runa" };
    await a.looks.set("x", look("of two"));
    await a.outbox.sent().catch(() => undefined);
    await rest(20);
    expect(names()).toEqual([]);
    expect([a.store.owner, a.looks.all()]).toEqual(["account 3", []]);
    server.session = { ...server.session, account: 2, username: "joar" };
    await a.session.renew(false);
    await a.outbox.sent();
    expect(names()).toEqual(["of two"]);
  });

  it("signs out everywhere; what was not sent waits under its owner's name", async () => {
    const a = await visit(server);
    await a.session.renew(false);
    await a.looks.set("sent", look("sent"));
    await a.outbox.sent();
    const b = await visit(server);
    await b.session.renew(false);
    await b.outbox.sent();
    server.moments = ["away", "away", "away"];
    await a.looks.set("unsent", look("unsent"));
    await a.outbox.sent().catch(() => undefined);
    server.moments = [];
    await a.session.signOut();
    await rest(20);
    expect([a.store.owner, b.store.owner, a.looks.all(), b.looks.all()]).toEqual(["guest", "guest", [], []]);
    const left = await a.store.shelf.whole("account 1", ["look"]);
    expect(left.map((doc) => doc.id)).toEqual(["unsent"]);
    // A guest writes meanwhile; back again, both go out.
    await a.looks.set("guest", look("a guest's"));
    server.session = { signed_in: true, account: 1, username: "edda", demo: false };
    await a.session.signIn("edda", "two-pairs-of-gloves");
    await a.outbox.sent();
    expect(names().toSorted()).toEqual(["a guest's", "sent", "unsent"]);
    expect(a.looks.all()).toHaveLength(3);
  });

  it("gives back what a server lost that a copy was put back on, and displaces nothing that was written since", async () => {
    const a = await visit(server);
    await a.session.renew(false);
    await a.looks.set("a", look("before the copy"));
    await a.outbox.sent();
    const putBack = server.copy();
    await a.looks.set("a", look("after the copy"));
    await a.looks.set("b", look("only after the copy"));
    await a.outbox.sent();
    putBack();
    // Another device writes on, so that the count is ahead of what this one has seen.
    for (const name of ["c", "d", "e", "f"]) server.put("look", name, look(`of another: ${name}`));
    await a.looks.set("c", look("typed meanwhile"));
    server.parcels = [];
    await a.outbox.sent();
    await rest(20);
    await a.outbox.sent();
    // Nothing went out before it was heard, and what went out names what both sides know.
    expect(
      server.parcels
        .flat()
        .map(({ id, base }) => [id, base])
        .toSorted(),
    ).toEqual([
      ["a", 1],
      ["b", 1],
      ["c", 0],
    ]);
    expect(names().toSorted()).toEqual(
      [
        "after the copy",
        "of another: d",
        "of another: e",
        "of another: f",
        "only after the copy",
        "typed meanwhile",
      ].toSorted(),
    );
    expect(a.looks.all()).toHaveLength(6);
    server.parcels = [];
    await a.outbox.sent();
    expect(server.parcels).toEqual([]);
  });

  it("asks nothing and sends nothing for a guest", async () => {
    server.session = { signed_in: false, account: null, username: null, demo: false };
    const page = await visit(server);
    await page.session.renew(false);
    await page.looks.set("a", look("a guest's"));
    await rest();
    expect(server.asked).toEqual(["GET /api/session"]);
  });
});
