import { useState } from "react";
import { askReadout, type Step, useReadout } from "../../questions/bench";
import { meaningText } from "../../words/times";

/** The shortest dial there is, so that 30 s are thirty by a watch and not a mark's 32. */
const NO_DIAL_S = 1;
/** A watch has no marks: its bare number is seconds, never a fraction of one. */
const BARE = /^[\d.,]+$/;

interface Read {
  /** As it can be read one way only, by the API as by people. */
  label: string;
  seconds: number;
}

export interface TypedTime {
  text: string;
  type: (text: string) => void;
  /** The one meaning; null while there is none, or more than one. */
  read: Read | null;
  meanings: Read[];
  problem: string | null;
  /** The one meaning, waited for where it is still being asked: a press that is quick is not a press too early. */
  settled: () => Promise<Read | null>;
  /** Which of several is meant. */
  choose: (meaning: Read) => void;
}

/** What most dials end at, where no body is known [s]. */
const USUAL_DIAL_S = 30;

/** A shutter time as one types it from a display: what it may mean is asked, never guessed. */
export function useShutterText(start = "", step: Step = "third", dialLimit = USUAL_DIAL_S): TypedTime {
  return useTyped(start, (text) => ({ text, step, dial_limit: dialLimit }));
}

/** A time by a watch: a bare number is seconds. */
export function useWatchText(start = ""): TypedTime {
  return useTyped(start, (text) => ({
    text: BARE.test(text) ? `${text} s` : text,
    step: "third",
    dial_limit: NO_DIAL_S,
  }));
}

function useTyped(start: string, question: (text: string) => Parameters<typeof askReadout>[0]): TypedTime {
  const [text, setText] = useState(start);
  const [chosen, setChosen] = useState<Read | null>(null);
  const typed = text.trim();
  const readout = useReadout(typed === "" ? null : question(typed));
  const meanings = typed === "" ? [] : meaningsOf(readout.answer);
  const read = chosen ?? onlyOf(meanings);
  return {
    text,
    type: (next) => {
      setText(next);
      setChosen(null);
    },
    read,
    settled: async () => {
      if (read !== null || typed === "" || readout.answer) return read;
      // Why it cannot be read is said beside the field.
      return await askReadout(question(typed)).then(
        (answer) => onlyOf(meaningsOf(answer)),
        () => null,
      );
    },
    meanings: chosen ? [] : meanings,
    problem: typed === "" ? null : (readout.error?.message ?? null),
    choose: (meaning) => {
      setText(meaning.label);
      setChosen(meaning);
    },
  };
}

type Readout = Awaited<ReturnType<typeof askReadout>>;

function meaningsOf(readout: Readout | undefined): Read[] {
  return (readout?.readings ?? []).map(({ mark, seconds }) => ({ label: meaningText(mark, seconds), seconds }));
}

function onlyOf(meanings: Read[]): Read | null {
  return meanings.length === 1 ? (meanings[0] ?? null) : null;
}
