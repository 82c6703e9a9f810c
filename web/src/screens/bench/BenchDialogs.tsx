import { forgetItem } from "../../state/kit";
import type { Bench, Move } from "../../state/bench";
import { say } from "../../ui/say";
import { words } from "../../words";
import {
  AddGlass,
  Entry,
  Extras,
  LightDialog,
  LooksDialog,
  MeteredWith,
  NameStack,
  OwnBag,
  PurposeDialog,
  SetUp,
  ShareSetUp,
} from "./dialogs";
import type { Field } from "./Entry";
import type { Opened } from "./MorePanel";
import type { BenchView } from "./useBenchView";

export type Panel = Opened | "glass" | "meteredWith" | "ownBag";

interface Props {
  view: BenchView;
  panel: Panel | null;
  entry: Field | null;
  set: (change: Partial<Bench>) => void;
  move: (move: Move) => void;
  onEntry: (field: Field | null) => void;
  onClose: () => void;
}

/** What opens over the bench, one at a time. */
export function BenchDialogs({ view, panel, entry, set, move, onEntry, onClose }: Props) {
  const { laid, ladders, light, answer } = view;
  const { bench } = laid;
  const dialog = () => {
    switch (panel) {
      case "setUp":
        return <SetUp laid={laid} set={set} onClose={onClose} />;
      case "purpose":
        return <PurposeDialog laid={laid} set={set} onClose={onClose} />;
      case "light":
        return <LightDialog laid={laid} light={light} set={set} onClose={onClose} />;
      case "looks":
        return <LooksDialog laid={laid} onScene={(scene) => set({ scene })} onClose={onClose} />;
      case "ownBag":
        return <OwnBag laid={laid} onClose={onClose} />;
      case "meteredWith":
        return <MeteredWith laid={laid} onToggle={(id) => move({ do: "toggleThrough", id })} onClose={onClose} />;
      case "together":
        return (
          <NameStack
            laid={laid}
            onClose={onClose}
            onNamed={(id, members, name) => {
              move({ do: "together", id, members });
              onClose();
              const apart = { do: "set", change: { on: bench.on, through: bench.through } } as const;
              say({
                text: words.nameStack.done(name),
                action: { label: words.nameStack.undo, act: () => void forgetItem(id).then(() => move(apart)) },
              });
            }}
          />
        );
      case "share":
        return <ShareSetUp laid={laid} onClose={onClose} />;
      case "extras":
        return <Extras laid={laid} answer={answer} set={set} onClose={onClose} />;
      case "glass":
        return (
          <AddGlass
            onClose={onClose}
            onAdded={(id, on) => {
              if (on) move({ do: "toggle", id });
              onClose();
            }}
          />
        );
      default:
        return null;
    }
  };
  return (
    <>
      {entry && (
        <Entry
          key={entry}
          field={entry}
          laid={laid}
          ladders={ladders}
          onClose={() => onEntry(null)}
          onField={onEntry}
          onTake={(change) => {
            set(change);
            onEntry(null);
          }}
        />
      )}
      {dialog()}
    </>
  );
}
