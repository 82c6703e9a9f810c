import type { ReactNode } from "react";
import { leaveDoubts } from "../../parts/leaving/leaveText";
import type { Light } from "../../questions/light";
import { type Hazard, useHazards } from "../../questions/pack";
import { type Outing, span } from "../../state/outings";
import { usePrinting } from "../../ui/usePrinting";
import { words } from "../../words";
import { clockIn, clockOf, placeClock } from "../../words/clock";
import { outingWords } from "../../words/outing";
import { roughTime } from "../../words/times";
import { dayName } from "../../words/zone";
import { everyQuarter } from "./everyQuarter";
import { leaveOf, noWay, skyOf, tideOf, whereOf } from "./planSentences";
import type { Plan } from "./usePlan";
import "./sheet.css";

interface Props {
  outing: Outing;
  light: Light;
  plan: Plan;
}

const HALF_HOUR = 30 * 60_000;
const say = outingWords.sheet;

/** The one page to take along: on paper alone, where no screen lights the dark. */
export function Sheet({ outing, light, plan }: Props) {
  const { swaps, frames, water: tide, end, ready, nameOf } = plan;
  const pack = plan.pack.shown?.lines ?? [];
  const hazards = useHazards().filter((hazard) => outing.hazards.includes(hazard.code));
  // Asked for beforehand, so that it is there when somebody prints.
  const printing = usePrinting();
  if (!printing) return null;
  if (!ready)
    return (
      <article className="sheet">
        <h1>{outing.name}</h1>
        <p>{say.notYet}</p>
      </article>
    );
  const clock = (at: string) => clockIn(Date.parse(at), outing.zone);
  const [from, to] = span(outing);
  const events = light.events.filter(({ at }) => at != null && Date.parse(at) >= from && Date.parse(at) <= to);
  return (
    <article className="sheet">
      <header>
        <h1>{outing.name}</h1>
        <p>
          {dayName(outing.date)}, {clockOf(outing.arrive)}–{placeClock(end ?? to, outing.zone)}. {whereOf(outing)}.{" "}
          {skyOf(outing)}.
        </p>
        <p className="sheet-leave">{leaveOf(outing, tide)}</p>
        {tide && leaveDoubts(tide, outing.zone).map((line) => <p key={line}>{line}</p>)}
      </header>
      <Part title={say.light}>
        <p>{events.map((event) => `${words.events[event.name] ?? event.name} ${clock(event.at ?? "")}`).join(" · ")}</p>
        <table>
          <tbody>
            <tr>
              {everyQuarter(light, HALF_HOUR).map((point) => (
                <th key={point.at} scope="col">
                  {clock(point.at)}
                </th>
              ))}
            </tr>
            <tr>
              {everyQuarter(light, HALF_HOUR).map((point) => (
                <td key={point.at}>
                  EV {point.ev100.toFixed(1).replace("-", "−")} ± {(2 * point.sd_stops).toFixed(1)}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </Part>
      <Part title={outingWords.swaps}>
        <ul>
          {(swaps?.stretches ?? []).map((stretch) => (
            <li key={stretch.start}>
              <strong>{clock(stretch.start)}</strong>{" "}
              {stretch.glass
                ? `${stretch.glass.map(nameOf).join(" + ") || words.bare}, f/${stretch.aperture}, ISO ${stretch.iso}, ${outingWords.times(roughTime(stretch.first_seconds ?? 0), roughTime(stretch.last_seconds ?? 0))}`
                : noWay(stretch)}
            </li>
          ))}
        </ul>
        {frames && <p>{outingWords.frames(frames.frames.length, frames.more)}</p>}
      </Part>
      <Part title={say.waters}>
        <p>{tideOf(outing)}.</p>
        <p>{outingWords.caution}</p>
      </Part>
      <Part title={say.packed}>
        <ul className="sheet-pack">
          {pack.map((line) => (
            <li key={line.code}>{line.what}</li>
          ))}
        </ul>
      </Part>
      {hazards.length > 0 && (
        <Part title={say.hazards}>
          <ul>
            {hazards.map((hazard: Hazard) => (
              <li key={hazard.code}>
                <strong>{hazard.name}.</strong> {hazard.caution} {outingWords.hazardsAsk(hazard.ask)}
              </li>
            ))}
          </ul>
        </Part>
      )}
      <p>{outingWords.sunCaution}</p>
    </article>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2>{title}</h2>
      {children}
    </section>
  );
}
