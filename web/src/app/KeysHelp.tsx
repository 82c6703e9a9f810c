import { useState } from "react";
import { Button, Form, Modal } from "react-bootstrap";
import { PhoneCheck } from "../parts/phonecheck/dialog";
import { TakeAlong } from "../parts/takealong/TakeAlong";
import { remember, useHabits } from "../state/habits";
import { words } from "../words";
import { ClockChoice } from "./ClockChoice";

type Key = keyof typeof words.keys.list;

const GROUPS: [string, Key[]][] = [
  [words.keys.everywhere, ["screens", "light", "help"]],
  [
    words.keys.bench,
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
  [words.keys.run, ["tick", "open", "close", "extend", "earlier"]],
  [words.keys.dryRun, ["meterBare", "stand"]],
];

export function KeysHelp({ onClose }: { onClose: () => void }) {
  const { letterKeys } = useHabits();
  const [checking, setChecking] = useState(false);
  if (checking) return <PhoneCheck onClose={() => setChecking(false)} />;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="keys-title">
      <Modal.Header closeButton closeLabel={words.keys.close}>
        <Modal.Title id="keys-title">{words.keys.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="keys-list">
        <Form.Check
          type="switch"
          id="letter-keys"
          className="keys-switch"
          label={words.keys.letters}
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
                    <kbd>{words.keys.list[key][0]}</kbd>
                  </dt>
                  <dd>{words.keys.list[key][1]}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </Modal.Body>
    </Modal>
  );
}
