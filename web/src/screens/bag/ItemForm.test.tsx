// @vitest-environment jsdom
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

it.each([
  ["before it is known what a lens has, all it has stays", [], LENS.facts],
  ["what a lens has no more is left out", [fact("focal_mm"), fact("widest")], { focal_mm: 24, widest: "2.8" }],
])("%s", async (_, described, facts) => {
  vi.mocked(useFacts).mockReturnValue(described);
  const nothing = () => undefined;
  render(<ItemForm draft={LENS} isNew={false} group={[]} onDone={nothing} onCopy={nothing} onMoved={nothing} />);
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "24 mm, the old one" } });
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(keepItems).toHaveBeenCalledWith([{ ...LENS, name: "24 mm, the old one", facts }]));
});
