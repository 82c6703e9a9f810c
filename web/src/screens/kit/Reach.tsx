import { Modal } from "react-bootstrap";
import { axis, ticks } from "../../parts/staff/axis";
import { useReach } from "../../questions/extras";
import { itemsOf } from "../../state/bag";
import { useBench } from "../../state/bench";
import type { Kit } from "../../state/kit";
import { Fault } from "../../ui/Fault";
import { words } from "../../words";
import { kitWords } from "../../words/kit";
import { timeText } from "../../words/times";
import { reachOf } from "./asks";

const WIDTH = 720;
const HEIGHT = 96;
const MIDDLE = 44;

/** The ladder of times this kit reaches from the bench's reading, lying down, with its gaps. */
export function Reach({ kit, onClose }: { kit: Kit; onClose: () => void }) {
  const [laid] = useBench();
  const glass = itemsOf(kit.items, "glass");
  const question = laid && reachOf(laid);
  const reach = useReach(question);
  const { shutter = "", aperture = "", iso = "" } = question?.reading ?? {};
  const say = kitWords.reach;
  const names = (ids: string[]) =>
    ids.map((id) => glass.find((item) => item.id === id)?.name ?? id).join(" + ") || say.bare;
  const found = reach.shown;
  return (
    <Modal show onHide={onClose} centered size="lg" scrollable aria-labelledby="reach-title">
      <Modal.Header closeButton closeLabel={words.keys.close}>
        <Modal.Title id="reach-title">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        <p className="mb-0">{say.intro(`${shutter} f/${aperture} ISO ${iso}`)}</p>
        <Fault error={reach.error} again={reach.again} />
        <div data-stale={reach.stale || undefined}>
          {found && (
            <>
              <Ladder rungs={found.rungs} gaps={found.gaps} title={names} />
              <ul className="plain-list">
                {found.gaps.length === 0 && <li>{say.noGaps}</li>}
                {found.gaps.map((gap) => (
                  <li key={gap.from_stops}>
                    <strong>
                      {say.gap(
                        timeText(gap.from_seconds),
                        timeText(gap.to_seconds),
                        (gap.to_stops - gap.from_stops).toFixed(1),
                      )}
                    </strong>
                    : {gap.bridges.map((bridge) => say.bridges[bridge]).join(", ") || say.unbridged}.
                  </li>
                ))}
              </ul>
              <p>{say.longestBare(timeText(found.longest_bare_seconds))}</p>
              <p className="mb-0">
                {found.purchase
                  ? say.buy(
                      found.purchase.stops.toFixed(0),
                      found.purchase.gap_stops_now.toFixed(1),
                      found.purchase.gap_stops_then.toFixed(1),
                    )
                  : say.buyNone}
              </p>
            </>
          )}
        </div>
      </Modal.Body>
    </Modal>
  );
}

interface LadderProps {
  rungs: { seconds: number; seconds_to: number; glass: string[] }[];
  gaps: { from_seconds: number; to_seconds: number }[];
  title: (ids: string[]) => string;
}

function Ladder({ rungs, gaps, title }: LadderProps) {
  const scale = axis(
    rungs.flatMap((rung) => [rung.seconds, rung.seconds_to]),
    WIDTH - 20,
    20,
  );
  return (
    <svg
      className="ladder"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={rungs.map((rung) => kitWords.reach.rung(timeText(rung.seconds), title(rung.glass))).join("; ")}
    >
      {gaps.map((gap) => (
        <rect
          key={gap.from_seconds}
          className="ladder-gap"
          x={scale(gap.from_seconds)}
          width={scale(gap.to_seconds) - scale(gap.from_seconds)}
          y={MIDDLE - 26}
          height={26}
        />
      ))}
      <line className="ladder-pole" x1={8} x2={WIDTH - 8} y1={MIDDLE} y2={MIDDLE} />
      {rungs.map((rung) => (
        <rect
          key={`${rung.seconds}-${rung.seconds_to}`}
          className="ladder-rung"
          x={scale(rung.seconds) - 1.5}
          width={Math.max(3, scale(rung.seconds_to) - scale(rung.seconds))}
          y={MIDDLE - 22}
          height={rung.seconds === rung.seconds_to ? 22 : 12}
        >
          <title>{kitWords.reach.rung(timeText(rung.seconds), title(rung.glass))}</title>
        </rect>
      ))}
      {ticks(scale, 52).map((tick) => (
        <g key={tick.label} transform={`translate(${scale(tick.seconds)} ${MIDDLE})`}>
          <line className="ladder-tick" y2={8} />
          <text y={26} textAnchor="middle">
            {tick.label}
          </text>
        </g>
      ))}
    </svg>
  );
}
