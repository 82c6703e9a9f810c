// @vitest-environment happy-dom
import { beforeEach, expect, test, vi } from "vitest";
import { askForPiecesFirst } from "./piece";

const FROM = "http://here.test/assets/main.js";
const TEXTS: Record<string, string> = {
  "http://here.test/assets/log.js": 'import{a}from"./shared.js";import"./dialogs.js";x',
  // Two modules that import each other.
  "http://here.test/assets/shared.js": 'import{b}from"./dialogs.js";x',
  "http://here.test/assets/dialogs.js": 'import{c}from"./shared.js";const later=()=>import("./not-yet.js")',
};

let gone = "";
const asked: string[] = [];
beforeEach(() => {
  asked.length = 0;
  vi.stubGlobal("fetch", (url: string) => {
    asked.push(url.split("/").at(-1) ?? "");
    if (url.endsWith(gone)) return Promise.reject(new TypeError("Failed to fetch"));
    return Promise.resolve(new Response(TEXTS[url] ?? "", { status: TEXTS[url] === undefined ? 404 : 200 }));
  });
  askForPiecesFirst();
});

const piece = (path: string) => globalThis.jackstaffPiece?.(path, FROM) ?? Promise.resolve();

test("the loader hears of a module only once all it imports can be had", async () => {
  gone = "dialogs.js";
  await expect(piece("./log.js")).rejects.toThrow("Failed to fetch");
  // Nothing of it is remembered: the next time all of it is asked for again.
  gone = "nothing";
  asked.length = 0;
  // There is no such module here for the loader itself.
  await expect(piece("./log.js")).rejects.not.toThrow("Failed to fetch http");
  expect(asked).toEqual(["log.js", "shared.js", "dialogs.js"]);
  // What has come is not asked for twice.
  asked.length = 0;
  await piece("./shared.js").catch(() => null);
  expect(asked).toEqual([]);
  await expect(piece("./removed.js")).rejects.toThrow("was answered with 404");
});
