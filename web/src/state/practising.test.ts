// @vitest-environment happy-dom
import { renderHook } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { AccountServer } from "./account.test.data";
import { emptyBrowser, rest } from "./pages.test.data";

const look = (name: string) => ({ kind: "sea", look: name, low: 4, high: null });

/** A page with the real session, outbox and dry run before an account's server. */
async function visit(server: AccountServer) {
  vi.resetModules();
  const { transport } = await import("../api/client");
  transport.fetch = server.fetch;
  const session = await import("./session");
  const outbox = await import("./outbox");
  const { looks } = await import("./looks");
  const { store } = await import("./store");
  const runs = await import("./dryRuns");
  const clock = await import("../ui/worldClock");
  const kit = await import("./kit");
  const { say, useMessages } = await import("../ui/say");
  const hands = await import("./dryRun");
  const { followWorld } = await import("./dryRunClock");
  await session.openMemory();
  followWorld();
  return { session, outbox, looks, store, runs, clock, kit, transport, say, useMessages, ...hands };
}

type Page = Awaited<ReturnType<typeof visit>>;

const RUN = {
  begun: { scenario: { framings: [], kit: [] }, leave_at: "2027-04-17T04:33:00Z" },
  expert: false,
  clock: { world: 50_000, wall: Date.now(), pace: 10 },
  beat: Date.now(),
  framing: 0,
  looked: [],
  prepared: ["tripod"],
  opened: {},
};

const play = ({ runs }: Page, part: Partial<typeof RUN> = {}) =>
  runs.dryRun.set(runs.ONE, { ...RUN, ...part } as unknown as Parameters<typeof runs.dryRun.set>[1]);
const texts = (page: Page) => renderHook(() => page.useMessages()).result.current.map(({ text }) => text);
const names = (page: Page) => page.looks.all().map((each) => each.look);

let server: AccountServer;

beforeEach(async () => {
  await emptyBrowser();
  server = new AccountServer();
});

describe("a dry run", () => {
  it("sees nothing of one's own, sends nothing, and leaves everything as it was", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await page.looks.set("a", look("my own"));
    await page.outbox.sent();
    const sent = server.parcels.length;
    await page.session.practise(true);
    expect([page.session.isPractice(), names(page), page.store.owner]).toEqual([true, [], "practice of account 1"]);
    await page.looks.set("b", look("played"));
    await page.session.renew(false);
    await rest();
    expect([server.parcels.length, names(page)]).toEqual([sent, ["played"]]);
    await page.session.practise(false);
    expect([names(page), page.store.owner]).toEqual([["my own"], "account 1"]);
    await page.outbox.sent();
    expect(server.held.map(({ id }) => id)).toEqual(["a"]);
    // The next one begins with nothing of the one before.
    await page.session.practise(true);
    expect(names(page)).toEqual([]);
  });

  it("goes on in every tab and after a reload, with one clock, and ends in every tab", async () => {
    const first = await visit(server);
    await first.session.renew(false);
    const second = await visit(server);
    await first.session.practise(true);
    await play(first);
    await rest();
    expect(second.session.isPractice()).toBe(true);
    expect([first.clock.pace(), second.clock.pace()]).toEqual([10, 10]);
    expect(Math.abs(first.clock.nowMs() - second.clock.nowMs())).toBeLessThan(1000);
    const reloaded = await visit(server);
    expect([reloaded.session.isPractice(), reloaded.clock.pace()]).toEqual([true, 10]);
    await first.session.practise(false);
    await rest();
    expect([second.session.isPractice(), second.clock.isReal(), reloaded.clock.isReal()]).toEqual([false, true, true]);
  });

  it("stands still while no page shows it", async () => {
    const page = await visit(server);
    await page.session.practise(true);
    const ago = Date.now() - 3_600_000;
    await play(page, { clock: { world: 50_000, wall: ago, pace: 60 }, beat: ago + 10_000 });
    const back = await visit(server);
    await rest();
    expect(back.clock.pace()).toBe(0);
    expect(back.clock.nowMs()).toBe(50_000 + 600_000);
  });

  it("goes another pace from the press on, however long that takes to be kept", async () => {
    const page = await visit(server);
    await page.session.practise(true);
    const wall = Date.now();
    await play(page, { clock: { world: 50_000, wall, pace: 60 }, beat: wall });
    const now = vi.spyOn(Date, "now").mockReturnValue(wall + 1000);
    page.setPace(1);
    now.mockReturnValue(wall + 3000);
    await rest();
    const then = page.clock.nowMs();
    now.mockRestore();
    expect([page.clock.pace(), then]).toEqual([1, 50_000 + 60_000 + 2000]);
  });

  it.each<[string, ("standOrGoOn" | "ease")[], number]>([
    ["eased", ["ease"], 1],
    ["let stand in the breath in which it eases", ["standOrGoOn", "ease"], 0],
    ["eased, then let stand", ["ease", "standOrGoOn"], 0],
    ["let stand and go on again", ["standOrGoOn", "standOrGoOn"], 1],
  ])("is %s before any of it is kept", async (_, pressed, pace) => {
    const page = await visit(server);
    await page.session.practise(true);
    await play(page, { clock: { world: 50_000, wall: Date.now(), pace: 60 } });
    for (const press of pressed) page[press]();
    await rest();
    expect(page.clock.pace()).toBe(pace);
  });

  it("is not somebody else's: who signs in meanwhile is really here", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    await page.session.practise(true);
    await play(page);
    server.session = { signed_in: true, account: 2, username: "joar", demo: false };
    await page.session.renew(false);
    expect([page.session.isPractice(), page.store.owner, page.clock.isReal()]).toEqual([false, "account 2", true]);
    server.session = { signed_in: true, account: 1, username: "edda", demo: false };
    const later = await visit(server);
    await later.session.renew(false);
    expect(later.session.isPractice()).toBe(false);
  });

  it.each<[string, (page: Page) => Promise<void>, number]>([
    ["nobody came", () => Promise.resolve(), 1],
    ["a dry run began", ({ session }) => session.practise(true), 0],
    [
      "somebody else came",
      async ({ session }) => {
        server.session = { signed_in: true, account: 2, username: "joar", demo: false };
        await session.renew(false);
      },
      0,
    ],
  ])("has nothing of what was asked for before: %s", async (_, meanwhile, kept) => {
    const page = await visit(server);
    await page.session.renew(false);
    const item = { id: "a", sort: "glass", name: "Ten" } as never;
    page.transport.fetch = async (request) => {
      if (!request.url.endsWith("/kit/check")) return server.fetch(request);
      page.transport.fetch = server.fetch;
      await meanwhile(page);
      return Response.json({ items: [item] });
    };
    await page.kit.keepItems([item]).catch((error: unknown) => expect(String(error)).toContain("begin it anew"));
    expect(page.store.view("kit")).toHaveLength(kept);
  });

  it("leaves nobody a way back to what was done before it", async () => {
    const page = await visit(server);
    await page.session.renew(false);
    page.say({ text: "Removed.", action: { label: "Undo", act: () => undefined } });
    page.say({ text: "Saved." });
    await page.session.renew(false);
    expect(texts(page)).toEqual(["Removed.", "Saved."]);
    await page.session.practise(true);
    expect(texts(page)).toEqual(["Saved."]);
    page.say({ text: "Turned.", action: { label: "Undo", act: () => undefined } });
    await page.session.practise(false);
    expect(texts(page)).toEqual(["Saved."]);
  });

  it.each<[string, Partial<typeof RUN> | null, string | undefined]>([
    ["the same picture", {}, "1/40"],
    ["another picture", { framing: 1 }, undefined],
    ["no dry run any more", null, undefined],
  ])("gives a meter's late answer to %s", async (_, meanwhile, shutter) => {
    const page = await visit(server);
    await page.session.practise(true);
    await play(page);
    page.transport.fetch = async (request) => {
      if (!request.url.endsWith("/practice/meter")) return server.fetch(request);
      await (meanwhile ? play(page, meanwhile) : page.session.practise(false));
      return Response.json({ ev100: 9, shutter: "1/40", text: "" });
    };
    const shown = await page.readMeter({ aperture: "8", iso: "100" }, false);
    expect([shown?.shutter, page.runs.dryRun.get(page.runs.ONE)?.looked.length ?? 0]).toEqual([
      shutter,
      shutter === undefined ? 0 : 1,
    ]);
  });

  it("notes before a frame what was done for it, and begins anew for the next", async () => {
    const page = await visit(server);
    await page.session.practise(true);
    await play(page);
    page.runs.ticked(["tripod", "remote"]);
    await page.runs.noteOpened("a");
    await page.runs.noteOpened("b");
    expect(page.runs.dryRun.get(page.runs.ONE)).toMatchObject({
      prepared: [],
      opened: { a: { framing: 0, prepared: ["tripod", "remote"] }, b: { framing: 0, prepared: [] } },
    });
    await page.session.practise(false);
    // Outside of one a tick is nobody's.
    page.runs.ticked(["focus"]);
    await page.runs.noteOpened("c");
    expect(page.runs.dryRun.get(page.runs.ONE)).toBeNull();
  });
});
