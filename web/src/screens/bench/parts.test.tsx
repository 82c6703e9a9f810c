// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, type Mock, vi } from "vitest";
import { answer } from "../../api/client";
import { forgetAnswers } from "../../questions/ask";
import type { Exposure, Stack } from "../../questions/bench";
import { type Bench, fromStarter, type Laid, lay } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import type { KitItem } from "../../state/kit";
import { FIRST_SCENE, type Scene } from "../../state/scene";
import { Alternatives } from "./Alternatives";
import { MeterAsks } from "./MeterAsks";
import { MeterValues } from "./MeterValues";
import { RoundTimes } from "./RoundTimes";
import { SubjectRow } from "./SubjectRow";

const answers: Record<string, unknown> = {};
vi.mock("../../api/client", async (original) => ({
  ...(await original<typeof import("../../api/client")>()),
  api: { POST: (path: string) => path, GET: (path: string) => path },
  answer: vi.fn(),
}));

const strength = { kind: "solid", offset: null, offset_sd: 0.17 };
const KIT = [4, 6, 9].map((stops) => ({
  id: `nd${stops}`,
  sort: "glass",
  name: `ND ${stops}`,
  note: "",
  retired: false,
  facts: { kind: "solid", stops, members: [] },
  strength: { ...strength, stops, low: stops, high: stops },
})) as unknown as KitItem[];

function laid(part: Partial<Bench> = {}): Laid {
  const start = fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } });
  return lay({ ...start, on: ["nd9"], ...part }, KIT);
}

function shown(part: ReactNode) {
  return render(<QueryClientProvider client={new QueryClient()}>{part}</QueryClientProvider>);
}

const texts = (role: string) => screen.queryAllByRole(role).map((each) => each.textContent);

beforeEach(() => {
  forgetAnswers();
  vi.mocked(answer).mockImplementation(((path: string) => Promise.resolve(answers[path])) as never);
});
afterEach(cleanup);

describe("round times", () => {
  const summed = {
    seconds: 203.2,
    set_seconds: 203.2,
    rounded: [
      { seconds: 200, stops: -0.023, mark: null },
      { seconds: 210, stops: 0.048, mark: null },
    ],
    fits_at: null,
  } as unknown as Exposure;
  const acts = () => ({ onChoose: vi.fn(), onAperture: vi.fn(), onType: vi.fn() });

  it("say what each costs, and a tap decides", () => {
    const act = acts();
    shown(<RoundTimes answer={summed} chosen={null} stale={false} {...act} />);
    expect(texts("button")).toEqual(["3 min 20 s−0.02 stop", "3 min 30 s+0.05 stop", "Another"]);
    fireEvent.click(screen.getByRole("button", { name: /3 min 30 s/ }));
    expect(act.onChoose).toHaveBeenCalledWith(210);
  });

  it("once one was decided offer the way back, and the aperture that makes it right", () => {
    const act = acts();
    const decided = { ...summed, set_seconds: 300, fits_at: { aperture: "11", stops: -0.02 } } as unknown as Exposure;
    const { rerender } = shown(<RoundTimes answer={decided} chosen={300} stale={false} {...act} />);
    expect(texts("button").slice(2)).toEqual(["3 min 23 sas worked out", "5 min at f/11exact", "Another"]);
    fireEvent.click(screen.getByRole("button", { name: /5 min at/ }));
    expect(act.onAperture).toHaveBeenCalledWith("11");
    fireEvent.click(screen.getByRole("button", { name: /as worked out/ }));
    expect(act.onChoose).toHaveBeenCalledWith(null);
    // A lens without a choice of aperture offers none; what is left over there is said.
    rerender(<RoundTimes answer={decided} chosen={300} stale={false} {...act} onAperture={null} />);
    expect(screen.queryByRole("button", { name: /at f/ })).toBeNull();
    const rest = { ...decided, fits_at: { aperture: "10", stops: 0.12 } } as unknown as Exposure;
    rerender(<RoundTimes answer={rest} chosen={300} stale={false} {...act} />);
    expect(screen.getByRole("button", { name: /at f/ }).textContent).toBe("5 min at f/10+0.12 stop");
  });

  it("of an answer to something else are looked at, not taken", () => {
    const act = acts();
    shown(<RoundTimes answer={summed} chosen={null} stale {...act} />);
    fireEvent.click(screen.getByRole("button", { name: /3 min 30 s/ }));
    expect(act.onChoose).not.toHaveBeenCalled();
  });
});

describe("other ways", () => {
  const way = (glass: string[], aperture: string, moves = 1): Stack =>
    ({
      glass,
      aperture,
      iso: "64",
      seconds: 203,
      error_stops: 0,
      hand_moves: moves,
      reasons: [{ code: "closest_time", text: "closest to the time" }],
      turned: null,
    }) as unknown as Stack;
  const STACKS = [
    way(["nd9"], "9", 0),
    way(["nd4", "nd9"], "11"),
    way(["nd9", "nd4"], "8"),
    way(["nd6"], "16"),
    way(["nd4"], "22"),
    way(["nd4", "nd6"], "13"),
    way([], "32"),
  ];

  it("are three, each set of filters once, and all of them when asked for", async () => {
    answers["/api/stacks"] = { count: STACKS.length, stacks: STACKS, none_because: null, nearest: null };
    const onTake = vi.fn();
    shown(
      <Alternatives laid={laid()} target={{ seconds: 203, within_stops: 1 / 3 }} intoAim={false} onTake={onTake} />,
    );
    const list = await screen.findByRole("region", { name: "Other ways to 3 min 23 s" });
    const hows = () =>
      within(list)
        .getAllByRole("button")
        .map((each) => each.querySelector(".alternative-how")?.textContent);
    // What is on the lens gives this time already; the same two the other way round are the same two.
    expect(hows()).toEqual(["ND 4 + ND 9, f/11, ISO 64", "ND 6, f/16, ISO 64", "ND 4, f/22, ISO 64", undefined]);
    fireEvent.click(within(list).getByRole("button", { name: "All 5 ways" }));
    expect(hows().slice(3)).toEqual(["ND 4 + ND 6, f/13, ISO 64", "no filters, f/32, ISO 64", undefined]);
    fireEvent.click(within(list).getByRole("button", { name: /ND 6, f\/16/ }));
    expect(onTake).toHaveBeenCalledWith(STACKS[3], {}, "ND 6, f/16, ISO 64");
    fireEvent.click(within(list).getByRole("button", { name: "Fewer ways" }));
    expect(hows()).toHaveLength(4);
  });

  it("say why there is none, and what comes nearest", async () => {
    const none = "30 min is 2 stops out of reach.";
    answers["/api/stacks"] = { count: 0, stacks: [], none_because: none, nearest: way(["nd9"], "22") };
    const onTake = vi.fn();
    shown(<Alternatives laid={laid()} target={{ seconds: 1800, within_stops: 1 / 3 }} intoAim onTake={onTake} />);
    await screen.findByText(none);
    fireEvent.click(screen.getByRole("button", { name: /the nearest there is/ }));
    expect(onTake).toHaveBeenCalledWith(expect.objectContaining({ aperture: "22" }), {}, "ND 9, f/22, ISO 64");
  });
});

describe("what moves", () => {
  const ways = (...pairs: [string, object][]) => pairs.map(([word, facts]) => ({ word, facts }));
  const DESCRIBED = {
    kinds: [
      {
        kind: "people",
        aspects: [
          {
            name: "people",
            ways: ways(["only passing", { standing: 0 }], ["some stand about", { standing: 4 }]),
            instead: [],
          },
          { name: "pace", ways: ways(["walk", { speed_m_s: 1.4 }]), instead: [] },
        ],
      },
    ],
  };

  function row(start: Scene = FIRST_SCENE) {
    answers["/api/looks/described"] = DESCRIBED;
    let scene = start;
    const onMore = vi.fn();
    const part = () => (
      <QueryClientProvider client={new QueryClient()}>
        <SubjectRow
          scene={scene}
          onScene={(next) => {
            scene = next;
            rerender(part());
          }}
          onMore={onMore}
        />
      </QueryClientProvider>
    );
    const { rerender } = render(part());
    return { scene: () => scene, onMore };
  }

  it("is named with a tap, and then asked the one thing that decides most", async () => {
    const { scene } = row();
    fireEvent.click(screen.getByRole("button", { name: "People" }));
    fireEvent.click(await screen.findByText("some stand about"));
    expect(scene().subjects.map(({ kind, facts }) => [kind, facts])).toEqual([["people", { standing: 4 }]]);
    // Asked once: what is left is what else may be in the picture.
    expect(screen.queryByText("some stand about")).toBeNull();
    expect(screen.queryByRole("button", { name: "People" })).toBeNull();
    expect(screen.getByRole("button", { name: "Sea" })).toBeTruthy();
  });

  it("stays as such things usually are where nobody can say", async () => {
    const { scene } = row();
    fireEvent.click(screen.getByRole("button", { name: "People" }));
    fireEvent.click(await screen.findByRole("button", { name: "can't say" }));
    expect(scene().subjects.map(({ facts }) => facts)).toEqual([{ standing: 0 }]);
  });

  it("is not asked on once a look is chosen", () => {
    row({ ...FIRST_SCENE, wants: [{ kind: "sea", look: "veil" }] });
    expect(texts("button")).toEqual([]);
  });
});

describe("the meter", () => {
  const NOW = new Date("2027-04-17T04:30:00Z");
  const light = { outing: {} } as BenchLight;

  function meter(part: Partial<Bench>) {
    vi.useFakeTimers({ now: NOW, toFake: ["Date"] });
    const names = ["set", "onType", "onMeteredWith", "onAgain", "onSameScene"] as const;
    const act = Object.fromEntries(names.map((name) => [name, vi.fn()])) as Record<(typeof names)[number], Mock>;
    shown(<MeterValues laid={laid(part)} ladders={undefined} moved={false} light={light} example={false} {...act} />);
    vi.useRealTimers();
    return act;
  }

  const at = (minutes: number) => new Date(NOW.getTime() - minutes * 60_000).toISOString();
  const before = {
    meter: "camera",
    shutter: "1/50",
    aperture: "9",
    iso: "64",
    ev100: 12,
    through: [],
    at: at(6),
  } as const;

  it.each([
    ["nothing metered yet", { meteredAt: null }, "New reading", null],
    ["minutes ago", { meteredAt: at(7) }, "New reading", "7 min ago"],
    ["long ago", { meteredAt: at(90) }, "New reading", "over an hour ago"],
    ["after another reading", { meteredAt: at(1), before: [before] }, "Same scene, 5 min on?", "1 min ago"],
    ["and no word about it", { meteredAt: at(4), before: [before] }, "New reading", "4 min ago"],
  ] as [string, Partial<Bench>, string, string | null][])(
    "%s: says how old the reading is and what comes next",
    (_, part, offered, age) => {
      const act = meter(part);
      fireEvent.click(screen.getByRole("button", { name: offered }));
      expect(act[offered.startsWith("Same") ? "onSameScene" : "onAgain"]).toHaveBeenCalledOnce();
      if (age) expect(screen.getByText(new RegExp(age))).toBeTruthy();
    },
  );

  it("has nothing to add to a reading of this minute", () => {
    meter({ meteredAt: at(0.5) });
    expect(screen.getByText(/just now/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "New reading" })).toBeNull();
  });

  it("says through which filters it was read", () => {
    const then = (id: string) => ({ id, turn: null, glass: null });
    const act = meter({ on: ["nd4", "nd9"], through: [then("nd6"), then("nd4")] });
    fireEvent.click(screen.getByText("with ND 6, ND 4 on"));
    expect(act.onMeteredWith).toHaveBeenCalledOnce();
  });

  it("asks of a polariser that was put on whether it was on", () => {
    const pol = {
      ...KIT[0],
      id: "pol",
      name: "Clip-on pol",
      facts: { kind: "polariser", members: [] },
      strength: { ...strength, kind: "polariser", stops: 1.5, low: 1, high: 2 },
    } as unknown as KitItem;
    const start = { ...fromStarter({ reading: { shutter: "1/40", aperture: "9", iso: "64" } }), meteredAt: at(1) };
    const asked = (part: Partial<Bench>) => {
      cleanup();
      const act = { onThrough: vi.fn(), onSaid: vi.fn(), set: vi.fn() };
      const stands = lay({ ...start, on: ["nd4", "pol"], ...part }, [...KIT, pol]);
      shown(<MeterAsks laid={stands} light={light} phone={undefined} {...act} />);
      return { act, question: screen.queryByText("Was Clip-on pol on when you metered?") };
    };
    const { act, question } = asked({});
    expect(question).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "It was" }));
    fireEvent.click(screen.getByRole("button", { name: "It was not" }));
    expect([act.onThrough.mock.calls, act.onSaid.mock.calls]).toEqual([[["pol"]], [["pol"]]]);
    expect(asked({ throughSaid: ["pol"] }).question).toBeNull();
    expect(asked({ through: [{ id: "pol", turn: null, glass: null }] }).question).toBeNull();
    expect(asked({ meteredAt: null }).question).toBeNull();
    expect(asked({ on: ["nd4"] }).question).toBeNull();
  });
});
