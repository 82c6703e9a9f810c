import type { ReactNode } from "react";
import { Button } from "react-bootstrap";
import { Link } from "wouter";
import { WatchLight } from "../../parts/lightwatch/WatchLight";
import { RenderingList } from "../../parts/looks/RenderingList";
import type { Exposure } from "../../questions/bench";
import type { Looks, Rendering } from "../../questions/looks";
import { type Bench, type Laid } from "../../state/bench";
import type { BenchLight } from "../../state/benchLight";
import { RowLine } from "../../ui/kinds/RowLine";
import { SidePanel } from "../../ui/SidePanel";
import { words } from "../../words";
import { rateText } from "../../words/rate";
import { PhoneMatch } from "./PhoneMatch";
import { purposeText } from "./purposeText";
import type { PhoneMatchState } from "./usePhoneMatch";
import { watchedLight } from "./watchedLight";
import { Working } from "./Working";
import "./more.css";

export type Opened = "light" | "setUp" | "looks" | "purpose" | "extras" | "together" | "share";

interface Props {
  laid: Laid;
  answer: Exposure | undefined;
  stale: boolean;
  light: BenchLight;
  looks: Looks | undefined;
  renderings: { shown: Rendering[]; stale: boolean; seconds: number } | null;
  phone: PhoneMatchState;
  onOpen: (panel: Opened) => void;
  onClose: () => void;
  /** Whether what is on can be named as one. */
  nameable: boolean;
  advice: ReactNode;
  shot: ReactNode;
  /** Nearest speeds; none while the time is not what is worked out. */
  speeds: ReactNode;
  subjects: ReactNode;
  ways: ReactNode;
}

/** All that the first view of the bench leaves out, each thing in its one place. */
export function MorePanel(props: Props) {
  const { laid, answer, stale, light, looks, renderings, phone, onOpen, onClose, nameable } = props;
  const { bench } = laid;
  return (
    <SidePanel title={words.more.title} onClose={onClose}>
      {props.advice}
      {props.shot}
      {props.speeds}
      {props.subjects}
      {renderings && (
        <RenderingList
          renderings={renderings.shown}
          stale={renderings.stale}
          looks={looks}
          seconds={renderings.seconds}
        />
      )}
      {props.ways}
      <div className="more-lines">
        <RowLine name={words.light.title} result={lightSaid(light)} onOpen={() => onOpen("light")} />
        <RowLine name={words.looks.title} result={wishes(bench, looks)} onOpen={() => onOpen("looks")} />
        <RowLine name={words.purpose.title} result={purposeText(bench)} onOpen={() => onOpen("purpose")} />
        <RowLine
          name={words.setUp.title}
          result={words.setUp.summary(
            laid.body?.name ?? words.setUp.noBody,
            laid.lens ? `${laid.focalMm} mm` : "",
            bench.scale === "exact" ? "" : words.bench.scales.as_marked,
          )}
          onOpen={() => onOpen("setUp")}
        />
        <RowLine name={words.extras.title} why={words.extras.open} onOpen={() => onOpen("extras")} />
      </div>
      {!light.watch && (
        <WatchLight known={watchedLight(light)}>
          <PhoneMatch phone={phone} />
        </WatchLight>
      )}
      <p className="more-foot">
        {nameable && (
          <Button variant="quiet" onClick={() => onOpen("together")}>
            {words.nameStack.open}
          </Button>
        )}
        <Button variant="quiet" onClick={() => onOpen("share")}>
          {words.more.share}
        </Button>
        <Link to="/timer" className="plain-link">
          {words.more.timer}
        </Link>
      </p>
      {answer && <Working answer={answer} laid={laid} stale={stale} />}
    </SidePanel>
  );
}

function lightSaid({ plausible, fits, rate, watch, moving, said }: BenchLight): string {
  const say = words.light;
  if (watch && rate?.moved_stops != null) return `${rateText(rate.stops_per_minute)}, ${say.watched}`;
  if (said && moving) return `${rateText(moving.stops_per_minute)}, ${say.saidSo}`;
  if (rate?.counts) return `${rateText(rate.stops_per_minute)}, ${say.readings(rate.used)}`;
  if (plausible) return rateText(plausible.stops_per_minute);
  return fits ? say.seen : say.steady;
}

function wishes(bench: Bench, looks: Looks | undefined): string {
  const { wants } = bench.scene;
  if (wants.length === 0) return words.looks.noWish;
  if (looks?.conflict) return words.looks.conflict;
  return wants.map((want) => words.looks.wished(want.look, want.kind)).join(", ");
}
