import { Button, Form } from "react-bootstrap";
import type { Laid } from "../../state/bench";
import type { Outing } from "../../state/outings";
import { FoldedChoice } from "../../ui/kinds/FoldedChoice";
import { handOn } from "../../ui/handOn";
import { SidePanel } from "../../ui/SidePanel";
import { say as toast } from "../../ui/say";
import { words } from "../../words";
import { bagWords } from "../../words/bag";
import { outingWords } from "../../words/outing";
import { FramesLeft, SwapList } from "./Ahead";
import { Files } from "./Files";
import { LeaveRests } from "./Leave";
import { LightTable } from "./LightTable";
import { Hazards, PackList } from "./PackList";
import { planText } from "./planText";
import { PlanForm } from "./PlanForm";
import { Readings } from "./Readings";
import type { Plan } from "./usePlan";

export type Panel = "place" | "readings" | "pack" | "hazards" | "others" | "table" | "leave";

interface Props {
  panel: Panel;
  outing: Outing;
  outings: readonly Outing[];
  laid: Laid | null;
  plan: Plan;
  /** Whether somebody has to do without a forecast. */
  blind: boolean;
  behindId: string;
  set: (change: Partial<Outing>) => void;
  keep: (outing: Outing) => void;
  choose: (id: string) => void;
  forget: (outing: Outing) => void;
  onBehind: (id: string) => void;
  onEdit: (change: Partial<Outing>, message: string) => void;
  onNew: () => void;
  onClose: () => void;
}

/** All of an outing that its first view leaves out, each thing in its one place. */
export function Panels(props: Props) {
  const { panel, outing, outings, laid, plan, set, onClose } = props;
  const { light, swaps, ready, nameOf } = plan;
  return (
    <SidePanel title={outingWords.panels[panel]} onClose={onClose}>
      {panel === "place" && (
        <PlanForm
          key={outing.id}
          outing={outing}
          set={set}
          kinds={plan.water?.kinds ?? []}
          end={plan.end}
          light={props.blind ? undefined : light.shown}
          onEdit={props.onEdit}
        />
      )}
      {panel === "readings" && <Readings key={outing.id} outing={outing} set={set} laid={laid} light={light.shown} />}
      {panel === "pack" && <PackList outing={outing} set={set} plan={plan} />}
      {panel === "hazards" && <Hazards outing={outing} set={set} />}
      {panel === "leave" && <LeaveRests outing={outing} outings={outings} tide={plan.water} />}
      {panel === "table" && (
        <>
          {!props.blind && <SwapList outing={outing} swaps={swaps} planned={plan.glassPlanned} nameOf={nameOf} />}
          {plan.end !== null && <FramesLeft outing={outing} laid={laid} seconds={plan.seconds} end={plan.end} />}
          {!props.blind && light.shown && <LightTable outing={outing} light={light.shown} />}
          <div className="quiet-actions no-print">
            <Button variant="quiet" disabled={!ready} onClick={() => window.print()}>
              {outingWords.sheet.print}
            </Button>
            <Button
              variant="quiet"
              disabled={!ready}
              onClick={() => void handOn({ title: outing.name, text: planText(outing, plan) })}
            >
              {words.handOn.share}
            </Button>
          </div>
        </>
      )}
      {panel === "others" && <Others {...props} />}
    </SidePanel>
  );
}

/** The other outings: to look at, begin, copy, lay behind, put away, and as files. */
function Others({ outing, outings, laid, plan, behindId, set, keep, choose, forget, onBehind, onNew }: Props) {
  const say = outingWords;
  const named = (each: Outing) => [each.id, each.archived ? say.archived(each.name) : each.name] as const;
  const leaveBy = plan.water?.leave_by == null ? null : Date.parse(plan.water.leave_by);
  return (
    <>
      <Form.Group>
        <span className="form-label">{say.which}</span>
        <div>
          <FoldedChoice
            label={say.which}
            value={outing.id}
            choices={outings.toSorted((a, b) => Number(a.archived) - Number(b.archived)).map(named)}
            onValue={choose}
          />
        </div>
      </Form.Group>
      <div className="quiet-actions">
        <Button variant="quiet" onClick={onNew}>
          {say.fresh.open}
        </Button>
        <Button
          variant="quiet"
          onClick={() =>
            keep({
              ...outing,
              id: crypto.randomUUID(),
              name: bagWords.copyOf(outing.name).slice(0, 60),
              readings: [],
              packed: [],
            })
          }
        >
          {bagWords.copy}
        </Button>
        <Button variant="quiet" onClick={() => set({ archived: !outing.archived })}>
          {outing.archived ? say.unarchive : say.archive}
        </Button>
        <Button
          variant="quiet"
          onClick={() => {
            forget(outing);
            toast({
              text: say.forgotten(outing.name),
              action: { label: bagWords.undo, act: () => keep(outing) },
            });
          }}
        >
          {say.forget}
        </Button>
      </div>
      {outings.length > 1 && (
        <Form.Group>
          <span className="form-label">{say.compare.label}</span>
          <div>
            <FoldedChoice
              label={say.compare.label}
              value={behindId}
              choices={[["", say.compare.none] as const, ...outings.filter(({ id }) => id !== outing.id).map(named)]}
              onValue={onBehind}
            />
          </div>
        </Form.Group>
      )}
      <h3>{say.files.title}</h3>
      <Files
        outing={outing}
        keep={keep}
        light={plan.light.shown}
        swaps={plan.swaps}
        leaveBy={leaveBy}
        ready={plan.ready && laid !== null}
        nameOf={plan.nameOf}
      />
    </>
  );
}
