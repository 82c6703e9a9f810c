import { Form } from "react-bootstrap";
import type { SaidLight } from "../../state/bench";
import { Choice } from "../../ui/fields";
import { nowMs } from "../../ui/worldClock";
import { words } from "../../words";
import "./light-moves.css";

const WAYS = [-1, 0, 1] as const;
const PACES = [3, 5, 10, 20];
const FIRST_PACE = 10;

/** Whether the light falls, holds or rises, in one tap, and how fast in words: asked where nothing better is known. */
export function LightMoves({ said, onSay }: { said: SaidLight | null; onSay: (said: SaidLight) => void }) {
  const says = words.light.moves;
  const way = said === null ? null : Math.sign(said.stopMinutes);
  const pace = said && said.stopMinutes !== 0 ? Math.abs(said.stopMinutes) : FIRST_PACE;
  const tell = (stopMinutes: number) => onSay({ at: new Date(nowMs()).toISOString(), stopMinutes });
  return (
    <div className="light-moves">
      <Choice
        name="light-moves"
        label={says.title}
        value={way}
        choices={WAYS.map((each) => [each, says.ways[each]] as const)}
        onValue={(each) => tell(each * pace)}
        wide
      />
      {way !== null && way !== 0 && (
        <Form.Select
          size="sm"
          aria-label={says.pace}
          value={pace}
          onChange={(event) => tell(way * Number(event.target.value))}
        >
          {PACES.map((minutes) => (
            <option key={minutes} value={minutes}>
              {says.paces(minutes)}
            </option>
          ))}
        </Form.Select>
      )}
    </div>
  );
}
