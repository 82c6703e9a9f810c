// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { answer } from "../../api/client";
import { forgetAnswers } from "../../questions/ask";
import { TimeText } from "./TimeText";
import { type TypedTime, useShutterText, useWatchText } from "./typedTime";

type Reading = { seconds: number; mark: string | null };

/** What the core says of a text; null refuses it. */
const MEANT: Record<string, Reading[] | null> = {
  "4": [
    { seconds: 1 / 4, mark: "1/4" },
    { seconds: 4, mark: "4" },
  ],
  "4 s": [{ seconds: 4, mark: null }],
  "2:30": [{ seconds: 150, mark: null }],
  "1/13.5": [{ seconds: 1 / 13.5, mark: null }],
  wet: null,
};
const asked: unknown[] = [];

vi.mock("../../api/client", async (original) => ({
  ...(await original<typeof import("../../api/client")>()),
  api: { POST: (_: string, { body }: { body: unknown }) => body },
  answer: vi.fn(),
}));

function Field({ how, onRead }: { how: () => TypedTime; onRead: (time: TypedTime) => void }) {
  const time = how();
  onRead(time);
  return <TimeText id="t" label="Time" time={time} />;
}

function shown(how: () => TypedTime) {
  const times: TypedTime[] = [];
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Field how={how} onRead={(time) => times.push(time)} />
    </QueryClientProvider>,
  );
  const field = screen.getByLabelText("Time");
  return {
    read: () => times.at(-1)?.read,
    settled: () => times.at(-1)?.settled(),
    type: (text: string) => fireEvent.change(field, { target: { value: text } }),
    field,
  };
}

const useShutter = () => useShutterText("", "third", 30);

beforeEach(async () => {
  forgetAnswers();
  asked.length = 0;
  const { Refused } = await import("../../api/client");
  vi.mocked(answer).mockImplementation(((body: { text: string }) => {
    asked.push(body);
    const readings = MEANT[body.text];
    return readings
      ? Promise.resolve({ ambiguous: readings.length > 1, readings })
      : Promise.reject(new Refused(422, [{ field: "text", problem: "No time.", instead: "Write 1/60." }]));
  }) as never);
});
afterEach(() => {
  document.body.replaceChildren();
});

describe("a typed time", () => {
  it.each([
    ["2:30", { label: "150 s", seconds: 150 }],
    ["4", null],
    ["wet", null],
    ["", null],
  ])("%j is waited for by whoever presses before it has been read", async (text, meant) => {
    const { read, settled, type } = shown(useShutter);
    type(text);
    expect(read()).toBeNull();
    expect(await settled()).toEqual(meant);
  });

  it("that can be read two ways is nothing until somebody says which; then it says so itself", async () => {
    const { read, type, field } = shown(useShutter);
    type("4");
    await screen.findByRole("button", { name: "1/4" });
    expect(read()).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "4 s" }));
    expect(read()).toEqual({ label: "4 s", seconds: 4 });
    expect(field).toHaveProperty("value", "4 s");
    expect(screen.queryByRole("button")).toBeNull();
    // What is typed on is asked about anew.
    type("4");
    await screen.findByRole("button", { name: "1/4" });
    expect(read()).toBeNull();
  });

  it("by a watch is seconds, where a display would leave it open", async () => {
    const { read, type } = shown(useWatchText);
    type("4");
    await waitFor(() => expect(read()?.seconds).toBe(4));
    expect(asked).toEqual([{ text: "4 s", step: "third", dial_limit: 1 }]);
    type("2:30");
    await waitFor(() => expect(read()?.seconds).toBe(150));
  });

  it("no dial has is said so that it is read back to itself, and what is no time says why", async () => {
    const { read, type, field } = shown(useShutter);
    type("1/13.5");
    await waitFor(() => expect(read()).toEqual({ label: "1/13.5", seconds: 1 / 13.5 }));
    type("wet");
    await screen.findByText(/No time\./);
    expect(read()).toBeNull();
    expect(field.className).toContain("is-invalid");
    type("");
    await waitFor(() => expect(screen.queryByText(/No time\./)).toBeNull());
    expect(read()).toBeNull();
  });
});
