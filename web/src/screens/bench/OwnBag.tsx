import { useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { keepFacts } from "../../state/amend";
import { itemsOf, POLARISER_STOPS } from "../../state/bag";
import type { Laid } from "../../state/bench";
import { forgetItem, keepItems, useKit } from "../../state/kit";
import { isLent } from "../../state/starter";
import { Fault } from "../../ui/Fault";
import { Choice } from "../../ui/fields";
import { useOnce } from "../../ui/useOnce";
import { words } from "../../words";
import { dialogWords } from "../../words/dialogs";

const USUAL = [3, 6, 10, 15];
const OTHERS = [1, 2, 4, 5, 7, 8, 9, 11, 12, 13, 14, 16];

interface Kind {
  name: string;
  facts: { kind: string } & Record<string, unknown>;
}

const graduated = (stops: number, name: string): Kind => ({
  name,
  facts: { kind: "graduated", stops, transition: "soft" },
});
const SPECIAL: Record<string, Kind> = {
  polariser: { name: dialogWords.ownBag.names.polariser, facts: { kind: "polariser", stops: POLARISER_STOPS } },
  variable: { name: dialogWords.ownBag.names.variable, facts: { kind: "variable", stops: 2, stops_max: 5 } },
  graduated: graduated(2, dialogWords.ownBag.names.graduated),
  graduated3: graduated(3, dialogWords.ownBag.names.graduated3),
};

function solid(stops: string): Kind {
  return { name: dialogWords.ownBag.names.solid(stops), facts: { kind: "solid", stops: Number(stops) } };
}

/** What decides a list by hand and a sum, of the camera that is on: nobody is held up by it. */
type Camera = Partial<Record<"eyepiece" | "iso_lowest" | "dial_limit_s" | "rotating_front", string>>;
const OF_BODY = ["eyepiece", "iso_lowest", "dial_limit_s"] as const;
const ASKED: Record<keyof Camera, readonly string[]> = {
  eyepiece: ["optical", "electronic"],
  iso_lowest: ["32", "50", "64", "100", "200"],
  dial_limit_s: ["30", "60", "900"],
  rotating_front: ["no", "yes"],
};

/** Two filters alike are two; more of one strength are added in the bag. */
const MOST_ALIKE = 2;

/** Which filters somebody owns, in a few taps: they take the place of the lent ones. */
export function OwnBag({ laid, onClose }: { laid: Laid; onClose: () => void }) {
  const say = dialogWords.ownBag;
  const kit = useKit();
  const [picked, setPicked] = useState<string[]>([]);
  const [camera, setCamera] = useState<Camera>({});
  const [chosenMount, setMount] = useState<string | null>(null);
  // As the filters that are one's own already go on.
  const mount =
    chosenMount ??
    itemsOf(kit.items, "glass").findLast((item) => !isLent(item) && item.facts.kind === "solid")?.facts.mount ??
    "thread";
  const [fault, setFault] = useState<unknown>(null);
  const count = (key: string) => picked.filter((had) => had === key).length;
  const flip = (key: string) =>
    setPicked(count(key) < MOST_ALIKE ? [...picked, key] : picked.filter((had) => had !== key));
  const keep = useOnce(async () => {
    const drafts = picked.map((key, place) => {
      const { name, facts } = SPECIAL[key] ?? solid(key);
      // What turns is never a plate.
      const turns = facts.kind === "polariser" || facts.kind === "variable";
      const fit = turns && mount === "plate" ? "thread" : mount;
      return {
        id: crypto.randomUUID(),
        sort: "glass" as const,
        name: picked.indexOf(key) < place ? say.second(name) : name,
        note: "",
        retired: false,
        facts: { ...facts, mount: fit },
      };
    });
    const lent = itemsOf(kit.items, "glass").filter(isLent);
    try {
      await keepItems(drafts);
      for (const item of lent) await forgetItem(item.id);
      await keepCamera(laid, camera);
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
      {count(key) > 1 && say.twice}
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
          label={dialogWords.addGlass.mount}
          value={mount}
          choices={Object.entries(dialogWords.addGlass.mounts)}
          onValue={setMount}
          wide
        />
        <p className="quiet mb-0">{say.later}</p>
        <details className="own-camera">
          <summary>{say.camera}</summary>
          {Object.entries(ASKED).map(([fact, choices]) => (
            <Choice
              key={fact}
              name={`own-${fact}`}
              label={say.facts[fact as keyof Camera]}
              value={camera[fact as keyof Camera] ?? null}
              choices={choices.map((choice) => [choice, say.factChoices[choice] ?? choice] as const)}
              onValue={(value) => setCamera({ ...camera, [fact]: value })}
            />
          ))}
          <p className="quiet mb-0">{say.cameraSkip}</p>
        </details>
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

/** What was said of the camera is kept with the body and the lens that are on. */
async function keepCamera({ body, lens }: Laid, camera: Camera): Promise<void> {
  const said = OF_BODY.flatMap((fact) => (camera[fact] === undefined ? [] : [[fact, camera[fact]] as const]));
  const facts = said.map(([fact, value]) => [fact, fact === "eyepiece" ? value : Number(value)] as const);
  if (body && facts.length > 0) await keepFacts(body, Object.fromEntries(facts));
  if (lens && camera.rotating_front !== undefined)
    await keepFacts(lens, { rotating_front: camera.rotating_front === "yes" });
}
