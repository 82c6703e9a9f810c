import type { Bench } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { Choice } from "../../ui/fields";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import { paceText } from "../../words/rate";
import "./light-row.css";

const WAYS = [-1, 0, 1] as const;
const PACES = [3, 5, 10, 20];
const FIRST_PACE = 10;
/** Less than this [stops a minute] is steady light. */
const STEADY = 0.004;
const KNOWN = "known";

/** How the light moves, in one tap; its pace beside it. What somebody says counts before what was planned. */
export function LightRow({
  light,
  bench,
  set,
}: {
  light: BenchLight;
  bench: Bench;
  set: (change: Partial<Bench>) => void;
}) {
  const says = words.light.moves;
  const rate = light.moving?.stops_per_minute ?? 0;
  const way = Math.abs(rate) < STEADY ? 0 : rate > 0 ? 1 : -1;
  const pace =
    bench.saidLight && bench.saidLight.stopMinutes !== 0 ? Math.abs(bench.saidLight.stopMinutes) : FIRST_PACE;
  const tell = (stopMinutes: number) =>
    set({ saidLight: { at: new Date(nowMs()).toISOString(), stopMinutes }, seenLight: null });
  const { said } = light;
  const source = light.watch ? says.watched : light.rate?.counts ? says.readings(light.rate.used) : says.plan;
  const offered: [string, string][] = said ? [] : [[KNOWN, `${paceText(rate)}, ${source}`]];
  const own = PACES.map((minutes) => [String(minutes), says.paces(minutes)] as [string, string]);
  const back: [string, string][] = said && light.known ? [[KNOWN, says.backTo]] : [];
  if (!light.sayable)
    return (
      <section className="light-row" aria-label={words.light.title}>
        <p className="light-told">
          <strong>{words.light.title}</strong> {says.ways[way]}, {paceText(rate)}, {source}
        </p>
      </section>
    );
  return (
    <section className="light-row" aria-label={words.light.title}>
      <Choice
        name="light-moves"
        label={words.light.title}
        value={way}
        choices={WAYS.map((each) => [each, says.ways[each]] as const)}
        onValue={(each) => {
          if (each !== way || !said) tell(each * pace);
        }}
        wide
      />
      {(way !== 0 || back.length > 0) && (
        <FoldedChoice
          label={says.pace}
          value={said ? String(pace) : KNOWN}
          choices={[...offered, ...own, ...back]}
          onValue={(chosen) => {
            if (chosen === KNOWN) set({ saidLight: null });
            else tell((way || 1) * Number(chosen));
          }}
        />
      )}
    </section>
  );
}
