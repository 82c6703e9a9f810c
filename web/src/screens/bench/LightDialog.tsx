import { Button, Form } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { Link } from "wouter";
import type { Bench, Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { choose } from "../../state/outings";
import { ClockField } from "../../ui/ClockField";
import { words } from "../../words";
import { rateText } from "../../words/rate";
import { wallTime } from "../../words/zone";

interface Props {
  laid: Laid;
  light: BenchLight;
  set: (change: Partial<Bench>) => void;
  onClose: () => void;
}

/** A rate with its give or take. */
function rateSure({ stops_per_minute, rate_sd }: { stops_per_minute: number; rate_sd: number }): string {
  return words.light.rate(rateText(stops_per_minute), (2 * rate_sd).toFixed(2));
}

const SKIES = ["full_sun", "hazy", "overcast", "shade", "dusk", "lamps"] as const;

/** Where the light's rate comes from: an outing, now or at a time of it; without one, what one sees. */
export function LightDialog({ laid, light, set, onClose }: Props) {
  const say = words.light;
  const { bench } = laid;
  const { plausible, outing, rate } = light;
  const advice = plausible?.advice ?? light.fits?.advice;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="bench-light-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="bench-light-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <Form.Check
          id="light-use-outing"
          className="choice"
          checked={bench.useOuting}
          onChange={() => set({ useOuting: !bench.useOuting })}
          label={
            <>
              <strong>{say.use}</strong> <span>{say.useWhy}</span>
            </>
          }
        />
        {bench.useOuting && (
          <div className="light-when">
            <Form.Group controlId="light-at">
              <Form.Label>
                {say.at}: {outing.name}
              </Form.Label>
              <ClockField
                value={bench.lightAt ?? (light.counts ? wallTime(light.at, outing.zone) : "")}
                onValue={(lightAt) => {
                  choose(outing.id);
                  set({ lightAt: lightAt || null });
                }}
              />
            </Form.Group>
            <Button variant="quiet" disabled={bench.lightAt === null} onClick={() => set({ lightAt: null })}>
              {say.now}
            </Button>
          </div>
        )}
        {rate ? (
          <div className="light-when">
            <p className="mb-0">
              {say.fromReadings(rate.used, Math.max(1, Math.round(rate.minutes)), rateSure(rate))}
              {rate.advice && ` ${rate.advice.text}`}
            </p>
            <Button variant="quiet" onClick={() => set({ earlier: [], before: [] })}>
              {say.forget}
            </Button>
          </div>
        ) : plausible ? (
          <p className="mb-0">{rateSure(plausible)}</p>
        ) : (
          <p className="quiet mb-0">{say.none}</p>
        )}
        {!light.counts && (
          <Form.Group controlId="light-sky">
            <Form.Label>{say.sky}</Form.Label>
            <Form.Select
              value={bench.skySeen ?? ""}
              aria-describedby="light-sky-why"
              onChange={(event) => set({ skySeen: (event.target.value || null) as Bench["skySeen"] })}
            >
              <option value="">{say.noSky}</option>
              {SKIES.map((sky) => (
                <option key={sky} value={sky}>
                  {say.skies[sky]}
                </option>
              ))}
            </Form.Select>
            <p id="light-sky-why" className="quiet mb-0">
              {say.skyWhy}
            </p>
          </Form.Group>
        )}
        {(plausible ?? light.fits) && <p className={advice ? "outing-ask" : "mb-0"}>{advice?.text ?? say.fits}</p>}
      </Modal.Body>
      <Modal.Footer>
        <Link to="/outing" className="plain-link me-auto">
          {words.nav.outing}
        </Link>
        <Button variant="signal" onClick={onClose}>
          {words.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
