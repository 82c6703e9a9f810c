import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { Link } from "wouter";
import { itemsOf } from "../../state/bag";
import { type Sort, useKit } from "../../state/kit";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import type { Bench, Laid, Scale } from "../../state/bench";
import { TimerFineness } from "./RoundTimes";

interface Props {
  laid: Laid;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

/** Which body, lens and holder are in use, and which numbers the sum is done with. */
export function SetUp({ laid, set, onClose }: Props) {
  const kit = useKit();
  const pick = (sort: Sort, id: string | undefined, change: (id: string) => Partial<Bench>) => {
    const items = itemsOf(kit.items, sort);
    return (
      <Form.Group controlId={`set-up-${sort}`}>
        <Form.Label>{bagWords.sorts[sort]}</Form.Label>
        {items.length === 0 ? (
          <p className="quiet mb-0">{words.setUp.none}</p>
        ) : (
          <Form.Select value={id} onChange={(event) => set(change(event.target.value))}>
            {items.map((item) => (
              <option key={item.id} value={item.id}>
                {item.name}
              </option>
            ))}
          </Form.Select>
        )}
      </Form.Group>
    );
  };
  const lens = laid.lens?.facts;
  const zoom = lens && lens.focal_min_mm < lens.focal_max_mm;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="set-up-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="set-up-title">{words.setUp.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        {pick("body", laid.body?.id, (bodyId) => ({ bodyId, shotAperture: null, shotIso: null }))}
        {pick("lens", laid.lens?.id, (lensId) => ({ lensId, focalMm: null }))}
        {zoom && (
          <Form.Group controlId="set-up-focal">
            <Form.Label>{words.setUp.focal(String(laid.focalMm))}</Form.Label>
            <Form.Range
              min={lens.focal_min_mm}
              max={lens.focal_max_mm}
              step={1}
              value={laid.focalMm}
              onChange={(event) => set({ focalMm: Number(event.target.value) })}
            />
          </Form.Group>
        )}
        {pick("holder", laid.holder?.id, (holderId) => ({ holderId }))}
        {laid.body?.facts.film && pick("film", laid.film?.id, (filmId) => ({ filmId }))}
        <fieldset>
          <legend className="form-label">{words.bench.meter.label}</legend>
          {(["camera", "hand"] as const).map((meter) => (
            <Form.Check
              key={meter}
              type="radio"
              name="meter"
              id={`meter-${meter}`}
              className="choice"
              label={<strong>{words.bench.meter[meter]}</strong>}
              checked={laid.bench.meter === meter}
              onChange={() => set({ meter })}
            />
          ))}
        </fieldset>
        <TimerFineness />
        <fieldset>
          <legend className="form-label">{words.bench.counting}</legend>
          {(["exact", "as_marked"] as const).map((scale: Scale) => (
            <Form.Check
              key={scale}
              type="radio"
              name="scale"
              id={`scale-${scale}`}
              className="choice"
              label={
                <>
                  <strong>{words.bench.scales[scale]}</strong> <span>{words.bench.scaleWhy[scale]}</span>
                </>
              }
              checked={laid.bench.scale === scale}
              onChange={() => set({ scale })}
            />
          ))}
        </fieldset>
      </Modal.Body>
      <Modal.Footer>
        <Link to="/bag" className="plain-link me-auto">
          {words.setUp.toKit}
        </Link>
        <Button variant="signal" onClick={onClose}>
          {words.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
