import { type PhoneCheck, type Result, TRIED, type Tried } from "../../state/phoneCheck";
import { phoneWords as say } from "../../words/phoneCheck";
import { timeText } from "../../words/times";

/** What was found, and what to do about it where something is to be done. */
export function found(what: Tried, { why, seconds }: Result): [string, string | null] {
  const [text, cure] = say.rows[what][why] ?? [why];
  if (what === "clock" && why === "off" && seconds !== undefined)
    return [say.off(timeText(Math.abs(seconds)), seconds > 0), cure ?? null];
  return [text, cure ?? null];
}

/** The whole check as lines of text, for whoever looks after the phone. */
export function asText({ results }: PhoneCheck, when: string, browser: string): string {
  const lines = TRIED.map((what) => {
    const result = results[what];
    if (!result) return `${say.names[what]}: ${say.untried}`;
    const [text, cure] = found(what, result);
    return [`${say.names[what]}: ${say.marks[result.how]}. ${text}`, ...(cure ? [`  ${cure}`] : [])].join("\n");
  });
  return [say.heading(when), browser, "", ...lines, ""].join("\n");
}
