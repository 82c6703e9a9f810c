import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Tab, Tabs } from "../../ui/opened";
import { isWorkedOut } from "../../questions/ask";
import { useExposure } from "../../questions/bench";
import { useFillable, useFrames, useLight, useSwaps, useTide } from "../../questions/light";
import { useLooks } from "../../questions/looks";
import { endOf, exposureOf, lightOf, lightUntil, looksOf, swapsOf, tideOf, wishOf } from "../../state/asks";
import { useBench } from "../../state/bench";
import { looks as ownLooks } from "../../state/looks";
import { useDryRun } from "../../state/dryRunClock";
import { change, type Outing, useOutings } from "../../state/outings";
import { Fault } from "../../ui/Fault";
import { say as toast } from "../../ui/say";
import { dryRunWords } from "../../words/dryRun";
import { useNow } from "../../ui/useNow";
import { bagWords } from "../../words/bag";
import { outingWords } from "../../words/outing";
import { framesOf } from "./asks";
import { overSameHours, shifted } from "./behind";
import { Days } from "./Days";
import { FramesLeft, Next, SwapList } from "./Ahead";
import { Leave } from "./Leave";
import { Files } from "./Files";
import { LightChart } from "./LightChart";
import { Hazards, PackList } from "./PackList";
import { Minute } from "./Minute";
import { NewOuting } from "./NewOuting";
import { PlanForm } from "./PlanForm";
import { Readings } from "./Readings";
import { Sheet } from "./Sheet";
import "./days.css";
import "./outing.css";
import "./lanes.css";

/** A place and a day: how bright and how fast it changes, which glass when, what to take, when to leave. */
export function OutingScreen() {
  const { outings, current, choose, keep, forget } = useOutings();
  const [laid, move] = useBench();
  const [open, setOpen] = useState<"new" | "days" | null>(null);
  const own = ownLooks.use();
  const looked = useLooks(laid && looksOf(laid, own));
  const aim = looked.answer?.aim;
  const light = useLight(current.id, lightOf(current));
  const now = useNow(60_000);
  const tide = useTide(tideOf(current, outings, now));
  // When to leave is never told from another question's answer, and nothing is planned before it is known.
  const water = tide.answer;
  const end = isWorkedOut(tide) ? endOf(current, water) : null;
  const swapped = useSwaps(current.id, end === null ? null : swapsOf(current, laid, aim, end));
  const swaps = swapped.shown;
  const fillable = useFillable(end === null ? null : lightUntil(current, end)).answer?.longest_seconds;
  const set = (parts: Partial<Outing>) => {
    choose(current.id);
    return change(current, parts);
  };
  const edit = (parts: Partial<Outing>, message: string) =>
    toast({ text: message, action: { label: bagWords.undo, act: set(parts) } });
  const [behindId, setBehindId] = useState("");
  const behind = outings.find((outing) => outing.id === behindId && outing.id !== current.id);
  const besides = useLight(behindId, behind ? overSameHours(behind, current) : null);
  const nameOf = (id: string) => laid?.bag.find((glass) => glass.id === id)?.name ?? id;
  const leaveBy = water?.leave_by == null ? null : Date.parse(water.leave_by);
  const planned = useFrames(current.id, framesOf(laid, swaps, end ?? 0));
  const frames = planned.shown;
  const glassPlanned = isWorkedOut(looked) && isWorkedOut(swapped);
  // What leaves the screen as a file or on paper is of this plan and whole.
  const ready = laid !== null && glassPlanned && [light, tide, planned].every(isWorkedOut);
  // An expert's dry run has no forecast.
  const blind = useDryRun()?.expert === true;
  const parts = { outing: current, set, laid, light: light.shown, swaps, frames, ready, nameOf };

  return (
    <div className="outing">
      <h1 className="visually-hidden">{outingWords.title}</h1>
      <Leave outing={current} outings={outings} tide={water} error={tide.error} />
      <section className="outing-plan" aria-label={outingWords.plan}>
        <div className="outing-choose">
          <Form.Group controlId="outing-which">
            <Form.Label>{outingWords.which}</Form.Label>
            <Form.Select value={current.id} onChange={(event) => choose(event.target.value)}>
              {outings
                .toSorted((a, b) => Number(a.archived) - Number(b.archived))
                .map((outing) => (
                  <option key={outing.id} value={outing.id}>
                    {outing.archived ? outingWords.archived(outing.name) : outing.name}
                  </option>
                ))}
            </Form.Select>
          </Form.Group>
          <div className="outing-actions">
            <Button variant="quiet" onClick={() => setOpen("new")}>
              {outingWords.fresh.open}
            </Button>
            <Button
              variant="choice"
              aria-pressed={open === "days"}
              onClick={() => setOpen(open === "days" ? null : "days")}
            >
              {outingWords.days.open}
            </Button>
          </div>
          <div className="outing-actions thirds">
            <Button
              variant="quiet"
              size="sm"
              onClick={() =>
                keep({
                  ...current,
                  id: crypto.randomUUID(),
                  name: bagWords.copyOf(current.name).slice(0, 60),
                  readings: [],
                  packed: [],
                })
              }
            >
              {bagWords.copy}
            </Button>
            <Button variant="quiet" size="sm" onClick={() => set({ archived: !current.archived })}>
              {current.archived ? outingWords.unarchive : outingWords.archive}
            </Button>
            <Button
              variant="quiet"
              size="sm"
              onClick={() => {
                forget(current);
                toast({
                  text: outingWords.forgotten(current.name),
                  action: { label: bagWords.undo, act: () => keep(current) },
                });
              }}
            >
              {outingWords.forget}
            </Button>
          </div>
        </div>
        <div className="outing-form">
          <PlanForm key={current.id} outing={current} set={set} kinds={water?.kinds ?? []} end={end} />
          <Files {...parts} keep={keep} leaveBy={leaveBy} />
        </div>
      </section>
      <section className="outing-light" aria-label={outingWords.light} data-stale={light.stale || undefined}>
        <Fault error={light.error} again={light.again} />
        {open === "days" && (
          <Days
            key={`${current.id} ${current.latitude} ${current.longitude}`}
            outing={current}
            outings={outings}
            wish={wishOf(laid, aim)}
            onClose={() => setOpen(null)}
          />
        )}
        {open !== "days" && outings.length > 1 && (
          <Form.Group controlId="outing-behind" className="outing-behind">
            {behind && <span className="quiet">{outingWords.compare.behind(behind.name)}</span>}
            <Form.Label>{outingWords.compare.label}</Form.Label>
            <Form.Select size="sm" value={behind?.id ?? ""} onChange={(event) => setBehindId(event.target.value)}>
              <option value="">{outingWords.compare.none}</option>
              {outings
                .filter((outing) => outing.id !== current.id)
                .map((outing) => (
                  <option key={outing.id} value={outing.id}>
                    {outing.name}
                  </option>
                ))}
            </Form.Select>
          </Form.Group>
        )}
        {blind && <p className="outing-blind">{dryRunWords.noForecast}</p>}
        {!blind && open !== "days" && light.shown && (
          <LightChart
            key={`${current.id} ${current.date} ${current.arrive} ${current.turn_back}`}
            outing={current}
            light={light.shown}
            swaps={swaps}
            tide={water}
            end={end}
            fillable={light.answer && fillable}
            nameOf={nameOf}
            frames={frames}
            behind={behind && { name: behind.name, points: shifted(besides.shown, behind, current) }}
            onEdit={edit}
            minute={(point) =>
              // Nothing is set from the light of another question.
              laid &&
              light.answer && (
                <Minute
                  outing={current}
                  point={point}
                  laid={laid}
                  move={move}
                  swaps={swapped.answer}
                  planned={glassPlanned}
                  nameOf={nameOf}
                />
              )
            }
          />
        )}
      </section>
      {open === "new" && (
        <NewOuting outings={outings} laid={laid} move={move} keep={keep} onClose={() => setOpen(null)} />
      )}
      <section className="outing-side" aria-label={outingWords.side}>
        {!blind && light.shown && <Next outing={current} light={light.shown} />}
        <Tabs defaultActiveKey="now" id="outing-tabs" mountOnEnter unmountOnExit>
          <Tab eventKey="now" title={outingWords.tabs.now} className="outing-tab">
            <Readings key={`readings-${current.id}`} outing={current} set={set} laid={laid} light={light.shown} />
            {!blind && <SwapList outing={current} swaps={swaps} planned={glassPlanned} nameOf={nameOf} />}
            {laid && end !== null && <Frames outing={current} laid={laid} end={end} />}
            <Button variant="quiet" className="no-print" disabled={!ready} onClick={() => window.print()}>
              {outingWords.sheet.print}
            </Button>
          </Tab>
          <Tab eventKey="pack" title={outingWords.tabs.pack} className="outing-tab">
            <PackList {...parts} />
          </Tab>
          <Tab eventKey="hazards" title={outingWords.tabs.hazards} className="outing-tab">
            <Hazards outing={current} set={set} />
          </Tab>
        </Tabs>
      </section>
      {light.shown && <Sheet {...parts} light={light.shown} tide={water} end={end} />}
    </div>
  );
}

/** The budget of frames at the time that stands on the bench. */
function Frames(props: { outing: Outing; laid: NonNullable<ReturnType<typeof useBench>[0]>; end: number }) {
  const { answer } = useExposure(exposureOf(props.laid));
  return <FramesLeft {...props} seconds={answer?.set_seconds} />;
}
