// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { mayNotify, notify } from "./tell";

const shown = vi.fn(() => Promise.resolve());
const said = vi.fn();
let seen: DocumentVisibilityState = "hidden";
let registered: unknown;

const Plain = Object.assign(
  vi.fn(function (title: string) {
    said(title);
  }),
  { permission: "granted" },
);

beforeEach(() => {
  shown.mockClear();
  said.mockClear();
  seen = "hidden";
  Plain.permission = "granted";
  registered = { showNotification: shown };
  vi.stubGlobal("Notification", Plain);
  vi.spyOn(document, "visibilityState", "get").mockImplementation(() => seen);
  vi.stubGlobal("navigator", { serviceWorker: { getRegistration: () => Promise.resolve(registered) } });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe("a notice", () => {
  it("is said for whoever has put the page away", async () => {
    await notify("Close now.", "The time is up.");
    expect(shown).toHaveBeenCalledWith("Close now.", expect.objectContaining({ body: "The time is up." }));
  });

  it("is left out while the page is looked at, and where it is not allowed", async () => {
    seen = "visible";
    await notify("Close now.", "");
    seen = "hidden";
    for (const refused of ["default", "denied"] as const) {
      Plain.permission = refused;
      await notify("Close now.", "");
    }
    expect(shown).not.toHaveBeenCalled();
  });

  it("comes from the page where no service worker is", async () => {
    registered = undefined;
    await notify("Close now.", "");
    expect(said).toHaveBeenCalledWith("Close now.");
  });

  it("is known to be allowed, to be asked for, or not to be had", () => {
    const told = (["granted", "default", "denied"] as const).map((permission) => {
      Plain.permission = permission;
      return mayNotify();
    });
    vi.stubGlobal("Notification", undefined);
    expect([...told, mayNotify()]).toEqual(["yes", "ask", "no", "no"]);
  });
});
