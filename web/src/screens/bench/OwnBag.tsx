import { useState } from "react";
import { Button, Modal } from "react-bootstrap";
import { itemsOf, POLARISER_STOPS } from "../../state/bag";
import { forgetItem, keepItems, useKit } from "../../state/kit";
import { isLent } from "../../state/starter";
import { Fault } from "../../ui/Fault";
import { Choice } from "../../ui/fields";
import { words } from "../../words";
import { useOnce } from "../../ui/useOnce";

const USUAL = [3, 6, 10, 15];
const OTHERS = [1, 2, 4, 5, 7, 8, 9, 11, 12, 13, 14, 16];

interface Kind {
  name: string;
  facts: { kind: string } & Record<string, unknown>;
}

const SPECIAL: Record<string, Kind> = {
  polariser: { name: words.ownBag.names.polariser, facts: { kind: "polariser", stops: POLARISER_STOPS } },
  variable: { name: words.ownBag.names.variable, facts: { kind: "variable", stops: 2, stops_max: 5 } },
  graduated: { name: words.ownBag.names.graduated, facts: { kind: "graduated", stops: 2, transition: "soft" } },
};

function solid(stops: string): Kind {
  return { name: words.ownBag.names.solid(stops), facts: { kind: "solid", stops: Number(stops) } };
}

/** Which filters somebody owns, in a few taps: they take the place of the lent ones. */
export function OwnBag({ onClose }: { onClose: () => void }) {
  const say = words.ownBag;
  const kit = useKit();
  const [picked, setPicked] = useState<string[]>([]);
  const [mount, setMount] = useState("thread");
  const [fault, setFault] = useState<unknown>(null);
  const flip = (key: string) =>
    setPicked(picked.includes(key) ? picked.filter((had) => had !== key) : [...picked, key]);
  const keep = useOnce(async () => {
    const drafts = picked.map((key) => {
      const { name, facts } = SPECIAL[key] ?? solid(key);
      // What turns is never a plate.
      const turns = facts.kind === "polariser" || facts.kind === "variable";
      const fit = turns && mount === "plate" ? "thread" : mount;
      return {
        id: crypto.randomUUID(),
        sort: "glass" as const,
        name,
        note: "",
        retired: false,
        facts: { ...facts, mount: fit },
      };
    });
    const lent = itemsOf(kit.items, "glass").filter(isLent);
    try {
      await keepItems(drafts);
      for (const item of lent) await forgetItem(item.id);
      onClose();
    } catch (error) {
      setFault(error);
    }
  });
  const chip = (key: string, caption: string) => (
    <Button
      key={key}
      variant="quiet"
      className="bag-chip"
      aria-pressed={picked.includes(key)}
      onClick={() => flip(key)}
    >
      {caption}
    </Button>
  );
  return (
    <Modal show onHide={onClose} centered aria-labelledby="own-bag-title">
      <Modal.Header closeButton closeLabel={words.entry.cancel}>
        <Modal.Title id="own-bag-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <div role="group" aria-label={say.usual}>
          <p className="mb-1">{say.usual}</p>
          <div className="bag-chips">{USUAL.map((stops) => chip(String(stops), String(stops)))}</div>
        </div>
        <div role="group" aria-label={say.others}>
          <p className="mb-1">{say.others}</p>
          <div className="bag-chips">{OTHERS.map((stops) => chip(String(stops), String(stops)))}</div>
        </div>
        <div className="bag-chips bag-kinds">
          {Object.entries(SPECIAL).map(([key, special]) => chip(key, special.name))}
        </div>
        <Choice
          name="bag-mount"
          label={words.addGlass.mount}
          value={mount}
          choices={Object.entries(words.addGlass.mounts)}
          onValue={setMount}
          wide
        />
        <p className="quiet mb-0">{say.later}</p>
        <Fault error={fault} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.entry.cancel}
        </Button>
        <Button variant="signal" disabled={picked.length === 0} onClick={() => void keep()}>
          {say.keep(picked.length)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
