// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from "vitest";
import { emptyBrowser, fill, page } from "./pages.test.data";
import type { Drawer } from "./store";

interface Note {
  text: string;
}

type Page = Awaited<ReturnType<typeof page>>;

/** A page that is open for somebody, with a kind of its own that goes to the server and one that does not. */
async function opened(owner = "guest", before: (tab: { log: Drawer<Note> }) => unknown = () => undefined) {
  const tab = await page();
  const check = (content: unknown) => (typeof (content as Note | null)?.text === "string" ? (content as Note) : null);
  const sent = tab.drawer<Note>({ name: "note", version: 1, check, wire: (note) => ({ ...note }) });
  const local = tab.drawer<Note>({ name: "local", version: 1, check });
  const log = tab.drawer<Note>({
    name: "log",
    version: 1,
    check,
    wire: (n) => ({ ...n }),
    sort: (n) => n.text,
    paged: true,
  });
  before({ log });
  await tab.store.open(await tab.openShelf(() => tab.store.keepAgain()), owner);
  return { ...tab, sent, local, log };
}

const texts = (all: readonly Note[]) => all.map((note) => note.text);
const kept = async ({ store }: Page, id: string) => (await store.shelf.get(store.owner, "note", id))?.content;

beforeEach(emptyBrowser);

describe("the store", () => {
  it("shows at once, keeps in the browser, and tells the other pages", async () => {
    const [a, b] = [await opened(), await opened()];
    const written = a.sent.set("x", { text: "mine" });
    expect(a.sent.get("x")).toEqual({ text: "mine" });
    await written;
    expect(await kept(a, "x")).toEqual({ text: "mine" });
    expect(b.sent.get("x")).toEqual({ text: "mine" });
    // What the other page goes on from is what it was told.
    await b.sent.set("x", { text: `${b.sent.get("x")?.text ?? ""}, then yours` });
    expect(a.sent.get("x")).toEqual({ text: "mine, then yours" });
    const c = await opened();
    expect(texts(c.sent.all())).toEqual(["mine, then yours"]);
  });

  it("hears of no kind after it has read what is kept, because that would seem to be empty", async () => {
    const { drawer, local } = await opened();
    expect(() => drawer<Note>({ ...local.kind, name: "late" })).toThrow("late has to be known before the store opens");
    expect(() => drawer<Note>(local.kind)).not.toThrow();
  });

  it("shows nothing of one person to the next, and loses nothing of either", async () => {
    const a = await opened("account 1");
    await a.sent.set("x", { text: "of one" });
    await a.local.set("here", { text: "of one" });
    await a.store.become("guest");
    expect([a.sent.all(), a.local.all(), a.store.waiting()]).toEqual([[], [], []]);
    await a.sent.set("x", { text: "a guest's" });
    await a.store.become("account 1");
    expect([texts(a.sent.all()), texts(a.local.all())]).toEqual([["of one"], ["of one"]]);
    // Nor does a page that shows somebody else take it over.
    const b = await opened("account 2");
    await a.sent.set("x", { text: "of one again" });
    expect(b.sent.all()).toEqual([]);
  });

  it("opens the browser's database again when it is cut off, and fills one that was emptied", async () => {
    const a = await opened();
    await a.sent.set("x", { text: "before" });
    // As a browser does with pages in the background, and as somebody who clears everything.
    const erased = new Promise<void>((done) => {
      const erasing = indexedDB.deleteDatabase("jackstaff");
      erasing.onsuccess = () => done();
    });
    await erased;
    await a.sent.set("y", { text: "after" });
    await vi.waitFor(async () => {
      const b = await opened();
      expect(texts(b.sent.all()).toSorted()).toEqual(["after", "before"]);
    });
    expect(a.store.trouble).toBe(null);
  });

  it("keeps what stays of who has left until it is over, for pages that come later, too", async () => {
    const open = { text: "open" };
    const stays = (tab: { log: Drawer<Note> }) => (tab.log.kind.stays = (note) => note.text === "open");
    const a = await opened("account 1");
    stays(a);
    await a.log.set("run", open);
    await a.log.set("other", { text: "closed" });
    await a.store.become("guest", true);
    await a.store.shelf.forgetSent("account 1", ["log"], () => true);
    expect([texts(a.log.all()), a.store.waiting(), a.log.isAnothers("run")]).toEqual([["open"], [], true]);
    await a.log.set("mine", { text: "a guest's" });
    const b = await opened("guest", stays);
    expect(texts(b.log.all()).toSorted()).toEqual(["a guest's", "open"]);
    // It ends as theirs, whoever ends it.
    await b.log.change("run", () => ({ text: "closed at last" }));
    expect([texts(a.log.all()), texts(b.log.all())]).toEqual([["a guest's"], ["a guest's"]]);
    expect((await a.store.shelf.get("account 1", "log", "run"))?.content).toEqual({ text: "closed at last" });
    await a.store.become("account 1", true);
    expect(texts(a.log.all())).toContain("closed at last");
    // A dry run takes nothing along, and of an account that has ended nothing stays.
    await a.log.set("run", open);
    await a.store.become("practice of guest");
    expect(a.log.all()).toEqual([]);
    await a.store.become("account 1");
    await a.store.become("guest", true);
    a.store.letGoOf("account 1");
    expect(texts(a.log.all())).toEqual(["a guest's"]);
  });

  it("changes what stands there now: of two pages that end the same thing the second leaves it", async () => {
    const [a, b] = [await opened(), await opened()];
    await a.sent.set("x", { text: "open" });
    const end = (text: string) => (held: Note | null) => (held?.text === "open" ? { text } : undefined);
    await Promise.all([a.sent.change("x", end("ended by a")), b.sent.change("x", end("ended by b"))]);
    const ended = await kept(a, "x");
    expect(a.sent.get("x")).toEqual(ended);
    expect(b.sent.get("x")).toEqual(ended);
    await b.sent.change("x", end("ended by b, later"));
    expect(await kept(a, "x")).toEqual(ended);
  });

  it.each([
    ["before", "typed changed"],
    ["after", "typed"],
  ])("loses nothing typed just %s a change is through", async (when, text) => {
    const a = await opened();
    await a.sent.set("x", { text: "first" });
    const { shelf } = a.store;
    const { change } = shelf;
    let typing: Promise<void> | undefined;
    const type = () => (typing = a.sent.set("x", { text: "typed" }));
    shelf.change = async (...given) => {
      shelf.change = change;
      if (when === "before") void type();
      const done = await change(...given);
      if (when === "after") void type();
      return done;
    };
    await a.sent.change("x", (held) => ({ text: `${held?.text ?? ""} changed` }));
    await typing;
    expect([a.sent.get("x"), await kept(a, "x")]).toEqual([{ text }, { text }]);
  });

  it("goes on in the page while the browser is full, says so, and saves when there is room", async () => {
    const a = await opened();
    const room = fill(a.store);
    await a.sent.set("x", { text: "typed" });
    await a.sent.change("y", () => ({ text: "opened" }));
    await a.sent.change("y", (held) => ({ text: `${held?.text ?? ""} and closed` }));
    expect(a.store.trouble).toBe("full");
    expect([a.sent.get("x")?.text, a.sent.get("y")?.text]).toEqual(["typed", "opened and closed"]);
    expect(a.store.waiting()).toHaveLength(2);
    await a.store.become("guest");
    expect(a.sent.get("y")?.text).toBe("opened and closed");
    room();
    await a.local.set("z", { text: "small" });
    expect(a.store.trouble).toBeNull();
    expect(await kept(a, "y")).toEqual({ text: "opened and closed" });
  });

  it("loses nothing that was shown when the page goes before the database is through", async () => {
    const a = await opened();
    await a.sent.set("x", { text: "first" });
    const through = vi.spyOn(a.store.shelf, "change").mockImplementation(() => new Promise(() => undefined));
    void a.sent.set("x", { text: "shown, and reloaded at once" });
    void a.sent.set("y", { text: "shown" });
    await vi.waitFor(() => expect(through).toHaveBeenCalled());
    globalThis.dispatchEvent(new Event("pagehide"));
    through.mockRestore();
    localStorage.setItem("jackstaff left 0", "[{");
    localStorage.setItem("jackstaff left 1", '[{"owner": 3}]');
    // Another page, open meanwhile, has written the one of them since.
    const b = await page();
    const later = { owner: "guest", kind: "note", id: "y", version: 1, content: { text: "later" } };
    const rest = { stamp: b.store.stamp(), sort: "s", number: 0, waiting: null };
    await (await b.openShelf()).change("guest", "note", "y", () => ({ ...later, ...rest }));
    const c = await opened();
    expect([c.sent.get("x")?.text, c.sent.get("y")?.text]).toEqual(["shown, and reloaded at once", "later"]);
    expect(c.store.waiting().map((doc) => doc.id)).toEqual(["x"]);
    // What was noted is written once, and what the database has confirmed is not noted.
    expect(localStorage).toHaveLength(0);
    await c.sent.set("z", { text: "written" });
    globalThis.dispatchEvent(new Event("pagehide"));
    expect(Object.values<string>(localStorage).map((noted) => noted.includes("written"))).toEqual([false]);
  });

  it("writes nothing of an owner who has been erased meanwhile", async () => {
    const a = await opened("account 1");
    const through = vi.spyOn(a.store.shelf, "change").mockImplementation(() => new Promise(() => undefined));
    void a.sent.set("x", { text: "shown" });
    await vi.waitFor(() => expect(through).toHaveBeenCalled());
    globalThis.dispatchEvent(new Event("pagehide"));
    const { forgetLeft } = await import("./leftBehind");
    forgetLeft("account 1");
    expect((await opened("account 1")).sent.all()).toEqual([]);
  });

  it("works without any database, and says that nothing lasts", async () => {
    vi.stubGlobal("indexedDB", {
      open: () => {
        throw new DOMException("denied", "SecurityError");
      },
    });
    const a = await opened();
    await a.sent.set("x", { text: "typed" });
    await a.sent.change("x", (held) => ({ text: `${held?.text ?? ""} on` }));
    expect([a.store.trouble, a.sent.get("x")?.text]).toEqual(["blocked", "typed on"]);
  });

  it.each([
    ["of another shape", { words: 3 }, 1],
    ["of a later program", { text: "fine" }, 2],
  ])("sets aside what is %s, under its name, and shows the rest", async (_, content, version) => {
    const a = await opened();
    await a.sent.set("good", { text: "good" });
    const shape = {
      owner: "guest",
      kind: "note",
      number: 0,
      waiting: null,
      sort: "s",
      stamp: "2027-04-17T00:00:00.000Z#0000",
    };
    await a.store.shelf.change("guest", "note", "odd", () => ({ ...shape, id: "odd", content, version }));
    const b = await opened();
    expect(texts(b.sent.all())).toEqual(["good"]);
    expect(b.broken.all()).toEqual([{ kind: "note", id: "odd", content }]);
    await vi.waitFor(async () => expect(await b.store.shelf.get("guest", "note", "odd")).toBeUndefined());
    const c = await opened();
    expect(c.broken.all()).toEqual([{ kind: "note", id: "odd", content }]);
  });

  it("takes the server's copies, but not over what was written here, nor backwards", async () => {
    const a = await opened("account 1");
    const copy = (id: string, text: string | null, number: number) => ({
      owner: "account 1", kind: "note", id, version: 1, stamp: a.store.stamp(), sort: text ?? "", number, waiting: null,
      content: text === null ? null : { text },
    }); // prettier-ignore
    await a.sent.set("mine", { text: "typed" });
    await a.store.take("account 1", [copy("mine", "theirs", 4), copy("new", "new", 5), copy("gone", null, 6)]);
    expect([a.sent.get("mine")?.text, a.sent.get("new")?.text]).toEqual(["typed", "new"]);
    await a.store.take("account 1", [copy("new", "older", 3)]);
    expect(a.sent.get("new")?.text).toBe("new");
    await a.store.take("account 1", [copy("new", null, 7)]);
    expect(a.sent.get("new")).toBeNull();
    expect(await kept(a, "new")).toBeUndefined();
  });

  it.each(["an answer to what was sent", "what another device wrote", "an answer that it is gone"])(
    "keeps what is written while %s is put away",
    async (which) => {
      const a = await opened("account 1");
      const rest = { owner: "account 1", kind: "note", id: "x", version: 1, sort: "s", waiting: null };
      const theirs = { ...rest, content: { text: "theirs" }, number: 4 };
      await a.store.take("account 1", [{ ...theirs, number: 3 }]);
      let writing: Promise<void> | undefined;
      const write = () => (writing = a.sent.set("x", { text: "typed" }));
      if (which === "what another device wrote") {
        void write();
        // The database hears of the copy first, of what was typed right after.
        await a.store.take("account 1", [theirs]);
      } else {
        await a.sent.set("x", { text: "sent" });
        await a.store.settle("account 1", "note", "x", () => {
          void write();
          return which === "an answer that it is gone" ? null : theirs;
        });
      }
      await writing;
      expect([a.sent.get("x"), await kept(a, "x")]).toEqual([{ text: "typed" }, { text: "typed" }]);
      expect(a.store.waiting().map(({ content }) => content)).toEqual([{ text: "typed" }]);
    },
  );

  it("hands what a guest made to the account, unsent, as if nobody had seen it there", async () => {
    const a = await opened();
    await a.sent.set("x", { text: "a guest's" });
    await a.local.set("here", { text: "a guest's" });
    await a.store.adopt("guest", "account 1");
    await a.store.become("account 1");
    expect([a.sent.get("x")?.text, a.local.get("here")?.text]).toEqual(["a guest's", "a guest's"]);
    expect(a.store.waiting().map((doc) => [doc.id, doc.number])).toEqual([["x", 0]]);
    await a.store.become("guest");
    expect(a.sent.all()).toEqual([]);
  });

  it("knows the later of two writings though the clock goes back", async () => {
    const a = await opened();
    vi.useFakeTimers({ toFake: ["Date"], now: Date.parse("2027-04-17T05:00:00Z") });
    await a.sent.set("x", { text: "first" });
    vi.setSystemTime(Date.parse("2027-04-17T04:00:00Z"));
    await a.sent.set("x", { text: "second" });
    vi.useRealTimers();
    expect(await kept(a, "x")).toEqual({ text: "second" });
  });

  it("keeps a long log in the browser and only what is looked at in the page", async () => {
    const a = await opened("account 1");
    const doc = (n: number) => ({
      owner: "account 1", kind: "log", id: `n${n}`, version: 1, content: { text: String(n).padStart(4, "0") }, number: n,
      stamp: a.store.stamp(), sort: String(n).padStart(4, "0"), waiting: null,
    }); // prettier-ignore
    await a.store.take(
      "account 1",
      Array.from({ length: 120 }, (_, n) => doc(n + 1)),
    );
    expect(a.log.all()).toHaveLength(50);
    expect([a.log.all()[0]?.text, await a.store.shelf.count("account 1", "log")]).toEqual(["0120", 120]);
    await a.store.page("log", 100);
    expect([a.log.all().length, a.log.all().at(-1)?.text]).toEqual([100, "0021"]);
    await a.store.fetch("log", "n3");
    expect(a.log.get("n3")?.text).toBe("0003");
  });
});
