import { useState } from "react";
import { Button } from "react-bootstrap";
import { useLocation } from "wouter";
import { useLight } from "../../questions/light";
import { useBench } from "../../state/bench";
import { useDryRun } from "../../state/dryRunClock";
import { change, type Outing, span, useOutings } from "../../state/outings";
import { Fault } from "../../ui/Fault";
import { MainAction } from "../../ui/kinds/MainAction";
import { say as toast } from "../../ui/say";
import { useNow } from "../../ui/useNow";
import { bagWords } from "../../words/bag";
import { clockIn } from "../../words/clock";
import { dryRunWords } from "../../words/dryRun";
import { outingWords } from "../../words/outing";
import { overSameHours, shifted } from "./behind";
import { Days } from "./Days";
import { Headline } from "./Headline";
import { SwapList } from "./Ahead";
import { MinuteSaid } from "./MinuteSaid";
import { closer, nextOfPlan } from "./morning";
import { MorningStaff } from "./MorningStaff";
import { NewOuting } from "./NewOuting";
import { type Panel, Panels } from "./Panels";
import { PointSaid } from "./PointSaid";
import { Sheet } from "./Sheet";
import { usePlan } from "./usePlan";
import { useSetBench } from "./useSetBench";
import "./days.css";
import "./outing.css";
import "./lanes.css";

/** A place and a day as the staff through the morning: the first frame, which filters when, and when to leave. */
export function OutingScreen() {
  const { outings, current, choose, keep, forget } = useOutings();
  const [laid, move] = useBench();
  const [, go] = useLocation();
  const [open, setOpen] = useState<Panel | "new" | "days" | null>(null);
  const [behindId, setBehindId] = useState("");
  const [pointed, setPointed] = useState<{ of: string; at: number } | null>(null);
  const [zoomed, setZoomed] = useState<{ of: string; hours: [number, number] } | null>(null);
  const plan = usePlan(current, outings, laid);
  const { light, swaps, nameOf } = plan;
  const packed = plan.pack.shown?.lines.filter(({ code }) => current.packed.includes(code)).length ?? null;
  const now = useNow(60_000);
  const behind = outings.find((outing) => outing.id === behindId && outing.id !== current.id);
  const besides = useLight(behindId, behind ? overSameHours(behind, current) : null);
  const setBench = useSetBench(current, laid, move, plan.sure);
  // An expert's dry run has no forecast.
  const blind = useDryRun()?.expert === true;
  const set = (parts: Partial<Outing>) => {
    choose(current.id);
    return change(current, parts);
  };
  const edit = (parts: Partial<Outing>, message: string) =>
    toast({ text: message, action: { label: bagWords.undo, act: set(parts) } });

  // A minute or a zoom of other hours is none of these.
  const hours = `${current.id} ${current.date} ${current.arrive} ${current.turn_back}`;
  const [begins, ends] = span(current);
  const at = pointed?.of === hours ? pointed.at : null;
  const zoom = zoomed?.of === hours ? zoomed.hours : null;
  const onZoom = (next: [number, number] | null) => setZoomed(next && { of: hours, hours: next });
  const pointAt = (ms: number) => light.answer?.points.findLast((point) => Date.parse(point.at) <= ms + 30_000);
  // The minute that stands large above, unless another is pointed at; while the plan goes on, this one.
  const next = nextOfPlan(plan.sure, now);
  const live = now > begins && now < ends;
  const planned = at ?? (live && next?.kind !== "first" ? now : (next?.at ?? null));
  const target = planned === null ? undefined : pointAt(planned);
  const cursor = at === null ? undefined : pointAt(at);
  const parted = plan.water?.missing != null || plan.water?.state === "unknown";
  const toggle = (panel: Panel | "days") => setOpen(open === panel ? null : panel);
  const panel = open === "new" || open === "days" ? null : open;

  return (
    <div className="outing" data-panel={panel ?? undefined} data-days={open === "days" || undefined}>
      <h1 className="visually-hidden">{outingWords.title}</h1>
      <Headline outing={current} plan={plan} blind={blind} onRests={() => toggle("leave")} />
      {open === "days" ? (
        <Days
          key={`${current.id} ${current.latitude} ${current.longitude}`}
          outing={current}
          outings={outings}
          wish={plan.wish}
          onClose={() => setOpen(null)}
        />
      ) : (
        <section
          className="outing-stage outing-light"
          aria-label={outingWords.light}
          data-stale={light.stale || undefined}
        >
          <Fault error={light.error} again={light.again} />
          {blind && <p className="outing-blind">{dryRunWords.noForecast}</p>}
          {!blind && light.shown && (
            <>
              <MorningStaff
                outing={current}
                light={light.shown}
                plan={plan}
                laid={laid}
                nameOf={nameOf}
                at={at}
                zoom={zoom}
                onPoint={(ms) => setPointed({ of: hours, at: ms })}
                onZoom={onZoom}
                behind={behind && shifted(besides.shown, behind, current)}
                onEdit={edit}
              />
              <div className="light-said">
                <p aria-live="polite">
                  <PointSaid
                    outing={current}
                    light={light.shown}
                    at={at}
                    fillable={plan.fillable}
                    behind={behind?.name}
                  />{" "}
                  {cursor && laid && (
                    <MinuteSaid
                      outing={current}
                      point={cursor}
                      laid={laid}
                      swaps={plan.sure}
                      planned={plan.glassPlanned}
                      nameOf={nameOf}
                    />
                  )}
                </p>
                {(at !== null || zoom !== null) && (
                  <div role="group" aria-label={outingWords.zoomLabel} className="light-zoom">
                    <Button
                      variant="quiet"
                      onClick={() => onZoom(closer(zoom ?? [begins, ends], at ?? (begins + ends) / 2, [begins, ends]))}
                    >
                      {outingWords.zoomIn}
                    </Button>
                    {zoom && (
                      <Button variant="quiet" onClick={() => onZoom(null)}>
                        {outingWords.zoomOut}
                      </Button>
                    )}
                  </div>
                )}
              </div>
              <div className="outing-rows">
                <SwapList outing={current} swaps={swaps} planned={plan.glassPlanned} nameOf={nameOf} />
              </div>
            </>
          )}
        </section>
      )}
      {panel && (
        <Panels
          panel={panel}
          outing={current}
          outings={outings}
          laid={laid}
          plan={plan}
          blind={blind}
          behindId={behindId}
          set={set}
          keep={keep}
          choose={choose}
          forget={forget}
          onBehind={setBehindId}
          onEdit={edit}
          onNew={() => setOpen("new")}
          onClose={() => setOpen(null)}
        />
      )}
      {open === "new" && (
        <NewOuting outings={outings} laid={laid} move={move} keep={keep} onClose={() => setOpen(null)} />
      )}
      <nav className="outing-foot quiet-actions" aria-label={outingWords.side}>
        {(
          [
            [
              "pack",
              packed === null
                ? outingWords.panels.pack
                : outingWords.packShort(packed, plan.pack.shown?.lines.length ?? 0),
            ],
            ["hazards", outingWords.counted(outingWords.panels.hazards, current.hazards.length)],
            ["readings", outingWords.counted(outingWords.panels.readings, current.readings.length)],
            ["place", outingWords.panels.place],
            ["days", outingWords.days.open],
            ["others", outingWords.panels.others],
            ["table", outingWords.panels.table],
          ] as const
        ).map(([name, text]) => (
          <Button key={name} variant="quiet" aria-expanded={open === name} onClick={() => toggle(name)}>
            {text}
          </Button>
        ))}
      </nav>
      {open !== "days" && (
        <div className="outing-action action-place">
          {parted && at === null ? (
            <MainAction onAct={() => setOpen("place")}>{outingWords.cure}</MainAction>
          ) : target && !blind ? (
            <MainAction
              onAct={() => setBench(target)}
              disabled={!laid || !plan.glassPlanned}
              result={outingWords.forClock(clockIn(Date.parse(target.at), current.zone))}
            >
              {outingWords.setBench}
            </MainAction>
          ) : (
            <MainAction onAct={() => go("/")}>
              {plan.wish === null && !blind ? outingWords.chooseLook : outingWords.toBench}
            </MainAction>
          )}
        </div>
      )}
      {light.shown && <Sheet outing={current} light={light.shown} plan={plan} />}
    </div>
  );
}
