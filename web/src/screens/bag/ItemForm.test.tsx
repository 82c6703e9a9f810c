// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { type Draft, useFacts } from "../../questions/kit";
import { keepItems } from "../../state/kit";
import { ItemForm } from "./ItemForm";

vi.mock("../../questions/kit", async (original) => ({
  ...(await original<typeof import("../../questions/kit")>()),
  useFacts: vi.fn(() => []),
}));
vi.mock("../../state/kit", () => ({ keepItems: vi.fn(() => Promise.resolve()), forgetItem: vi.fn() }));

const LENS: Draft = {
  id: "0b0e4f4e-6a50-4c25-9a43-0c7f1f6d2a12",
  sort: "lens",
  name: "24 mm prime",
  note: "",
  retired: false,
  facts: { focal_mm: 24, widest: "2.8", old_habit: true },
};

const fact = (name: string) =>
  ({ name, label: name, shape: "text", unit: "", why: "", group: "", choices: [], opens: true, default: "" }) as never;

beforeEach(() => vi.mocked(keepItems).mockClear());
afterEach(cleanup);

const TYPED = { name: "24 mm, the old one", note: "from the attic" };

/** The lens's form with another name and a note typed into it. */
function typed(described: never[], onCopy: (copy: Draft) => void = vi.fn()): void {
  vi.mocked(useFacts).mockReturnValue(described);
  render(<ItemForm draft={LENS} isNew={false} group={[]} onDone={vi.fn()} onCopy={onCopy} onMoved={vi.fn()} />);
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: TYPED.name } });
  fireEvent.change(screen.getByLabelText("Note"), { target: { value: TYPED.note } });
}

it.each([
  ["before it is known what a lens has, all it has stays", "Save", [], {}],
  ["what a lens has no more is left out", "Save", [fact("focal_mm")], { facts: { focal_mm: 24 } }],
  ["what was typed before it was lent is written too", "Lost, lent or broken", [], { retired: true }],
])("%s", async (_, button, described, kept) => {
  typed(described);
  fireEvent.click(screen.getByRole("button", { name: button }));
  await waitFor(() => expect(keepItems).toHaveBeenCalledWith([{ ...LENS, ...TYPED, ...kept }]));
});

it("copies what stands in the form", () => {
  const copied = vi.fn<(copy: Draft) => void>();
  typed([], copied);
  fireEvent.click(screen.getByRole("button", { name: "Copy" }));
  expect(copied.mock.calls[0]?.[0]).toMatchObject({ ...TYPED, name: `${TYPED.name}, copy`, facts: LENS.facts });
});
