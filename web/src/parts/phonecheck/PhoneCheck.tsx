import { useEffect, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { Modal } from "../../ui/opened";
import { take } from "../../engine/takeAlong";
import { remember } from "../../state/habits";
import {
  cameBack,
  keepResult,
  type PhoneCheck as Kept,
  type Result,
  TRIED,
  type Tried,
  usePhoneCheck,
  wasThrownAway,
} from "../../state/phoneCheck";
import { queueBell, wake } from "../../ui/bell";
import { saveAs } from "../../ui/saveAs";
import { dateAndClock } from "../../words/clock";
import { phoneWords as say } from "../../words/phoneCheck";
import { ITS_OWN } from "../../words/zone";
import { asText, found } from "./report";
import { tryAlong, tryAwake, tryCamera, tryClock, tryNotices, tryStorage } from "./tries";
import { type Away, useAway } from "./useAway";
import "./phonecheck.css";

/** Thirty seconds with a phone before its first dawn: each thing the field needs is tried, and what to do is said. */
export function PhoneCheck({ onClose }: { onClose: () => void }) {
  const check = usePhoneCheck();
  const { trying, asked, start, answer } = useTries();
  const away = useAway((why) => keepResult("away", { how: why === "works" ? "works" : "fails", why }));
  const takeAlong = async () => {
    await take();
    keepResult("along", await tryAlong());
  };
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="phone-check">
      <Modal.Header closeButton closeLabel={say.close}>
        <Modal.Title id="phone-check">{say.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="stacked">
        {!check && <p className="mb-0">{say.why}</p>}
        <ul className="phone-check">
          {TRIED.map((what) => (
            <Row
              key={what}
              what={what}
              result={check?.results[what]}
              at={asked.includes(what) ? "asked" : trying.includes(what) ? "trying" : "rest"}
            >
              {(what === "bell" || what === "vibration") && asked.includes(what) && (
                <Ask question={say.asked[what]} onAnswer={(yes) => answer(what, yes)} />
              )}
              {what === "along" && check?.results.along?.how === "fails" && (
                <Button variant="quiet" onClick={() => void takeAlong()}>
                  {say.take}
                </Button>
              )}
              {what === "away" && <PutAway away={away} />}
            </Row>
          ))}
        </ul>
        {check && <p className="quiet mb-0">{say.at(dateAndClock(Date.parse(check.at), ITS_OWN))}</p>}
      </Modal.Body>
      <Modal.Footer>
        {check && (
          <Button variant="quiet" onClick={() => save(check)}>
            {say.save}
          </Button>
        )}
        <Button variant="signal" disabled={trying.length > 0} onClick={() => void start()}>
          {check ? say.again : say.start}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

interface RowProps {
  what: Tried;
  result: Result | undefined;
  at: "rest" | "trying" | "asked";
  children: React.ReactNode;
}

function Row({ what, result, at, children }: RowProps) {
  const rests = at === "rest";
  const [text, cure] = result && rests ? found(what, result) : [rests ? say.untried : say.trying, null];
  return (
    <li data-testid={`check-${what}`}>
      <strong>{say.names[what]}</strong>
      <div>
        {at !== "asked" && (
          <p className="mb-0" role="status">
            {result && rests && <Mark how={result.how} />}
            {text}
          </p>
        )}
        {cure && <p className="quiet mb-0">{cure}</p>}
        {children}
      </div>
    </li>
  );
}

/** Told by shape and in words, for Red has no green. */
function Mark({ how }: { how: Result["how"] }) {
  return (
    <>
      <span className="phone-check-mark" aria-hidden="true">
        {{ works: "✓", fails: "!", absent: "–" }[how]}
      </span>
      <span className="visually-hidden">{say.marks[how]}: </span>
    </>
  );
}

function Ask({ question, onAnswer }: { question: string; onAnswer: (yes: boolean) => void }) {
  return (
    <div className="phone-check-asked" role="group" aria-label={question}>
      <span>{question}</span>
      <Button variant="quiet" onClick={() => onAnswer(true)}>
        {say.yes}
      </Button>
      <Button variant="quiet" onClick={() => onAnswer(false)}>
        {say.no}
      </Button>
    </div>
  );
}

function PutAway({ away: { stage, seconds, start, answer } }: { away: Away }) {
  if (stage === "asked") return <Ask question={say.asked.away} onAnswer={answer} />;
  if (stage === "going") return <p className="mb-0">{say.awayGo}</p>;
  return (
    <>
      {stage === "early" && <p className="mb-0">{say.awayEarly(seconds)}</p>}
      {stage === "idle" && <p className="quiet mb-0">{say.awayWhy}</p>}
      <Button variant="quiet" onClick={() => void start()}>
        {say.awayStart}
      </Button>
    </>
  );
}

/** Everything that one press can try, one after the other where the browser asks back. */
function useTries() {
  const [trying, setTrying] = useState<Tried[]>([]);
  const [asked, setAsked] = useState<Tried[]>([]);
  const awake = useRef<(() => void) | null>(null);
  useEffect(() => {
    if (wasThrownAway()) {
      cameBack();
      keepResult("away", { how: "fails", why: "thrown" });
    }
    return () => awake.current?.();
  }, []);
  const come = (what: Tried, result: Result) => {
    keepResult(what, result);
    setTrying((before) => before.filter((each) => each !== what));
  };
  const ask = (what: Tried) => {
    setAsked((before) => [...before.filter((each) => each !== what), what]);
    setTrying((before) => before.filter((each) => each !== what));
  };

  const start = async () => {
    setTrying(TRIED.filter((what) => what !== "away"));
    setAsked([]);
    const shaken = "vibrate" in navigator && navigator.vibrate([300, 150, 300]);
    const loud = await wake();
    if (loud) {
      queueBell(0);
      ask("bell");
    } else come("bell", { how: "fails", why: "refused" });
    if (shaken) ask("vibration");
    else come("vibration", { how: "absent", why: "absent" });
    awake.current?.();
    const held = await tryAwake((lost) => keepResult("awake", lost));
    awake.current = held.release;
    come("awake", held.result);
    come("storage", await tryStorage());
    come("along", await tryAlong());
    come("clock", tryClock());
    come("notices", await tryNotices());
    come("camera", await tryCamera());
  };
  const answer = (what: "bell" | "vibration", yes: boolean) => {
    setAsked((before) => before.filter((each) => each !== what));
    const no: Result = what === "bell" ? { how: "fails", why: "not_heard" } : { how: "absent", why: "not_felt" };
    keepResult(what, yes ? { how: "works", why: "works" } : no);
    if (what === "bell") remember({ heard: yes ? new Date().toISOString() : null });
  };
  return { trying, asked, start, answer };
}

function save(check: Kept): void {
  const when = dateAndClock(Date.parse(check.at), ITS_OWN);
  saveAs(say.file, new Blob([asText(check, when, navigator.userAgent)], { type: "text/plain" }));
}
