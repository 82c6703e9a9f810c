import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../ui/opened";
import { PhoneCheck } from "../parts/phonecheck/dialog";
import { TakeAlong } from "../parts/takealong/TakeAlong";
import { remember, useHabits } from "../state/habits";
import { words } from "../words";
import { dialogWords } from "../words/dialogs";
import { ClockChoice } from "./ClockChoice";

type Key = keyof typeof dialogWords.keys.list;

const GROUPS: [string, Key[]][] = [
  [dialogWords.keys.everywhere, ["screens", "light", "help"]],
  [
    dialogWords.keys.bench,
    [
      "glass",
      "glassIn",
      "bare",
      "fields",
      "shot",
      "step",
      "type",
      "meter",
      "lightOf",
      "looks",
      "drawing",
      "extras",
      "arm",
    ],
  ],
  [dialogWords.keys.run, ["tick", "open", "close", "extend", "earlier"]],
  [dialogWords.keys.dryRun, ["meterBare", "stand"]],
];

export function KeysHelp({ onClose }: { onClose: () => void }) {
  const { letterKeys } = useHabits();
  const [checking, setChecking] = useState(false);
  if (checking) return <PhoneCheck onClose={() => setChecking(false)} />;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="keys-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="keys-title">{dialogWords.keys.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="keys-list">
        <Form.Check
          type="switch"
          id="letter-keys"
          className="keys-switch"
          label={dialogWords.keys.letters}
          checked={letterKeys}
          onChange={({ target }) => remember({ letterKeys: target.checked })}
        />
        <ClockChoice />
        <TakeAlong />
        <Button variant="quiet" onClick={() => setChecking(true)}>
          {words.checkPhone}
        </Button>
        {GROUPS.map(([group, keys]) => (
          <section key={group}>
            <h3>{group}</h3>
            <dl>
              {keys.map((key) => (
                <div key={key}>
                  <dt>
                    <kbd>{dialogWords.keys.list[key][0]}</kbd>
                  </dt>
                  <dd>{dialogWords.keys.list[key][1]}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </Modal.Body>
    </Modal>
  );
}
