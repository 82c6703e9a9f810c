import { Button } from "react-bootstrap";
import type { Matched } from "../../questions/lightWatch";
import { remember, useHabits } from "../../state/habits";
import { watchWords as say } from "../../words/watch";

interface Props {
  phone: Matched | undefined;
}

/** Phone and camera are matched once, with nothing forgotten; and again whenever somebody likes. */
export function PhoneMatch({ phone }: Props) {
  const { phoneMatch } = useHabits();
  if (!phone) return null;
  return (
    <p className="mb-0">
      <Button variant="link" className="plain-link" onClick={() => remember({ phoneMatch: phone.match })}>
        {phoneMatch === null ? say.match : say.matchAgain}
      </Button>{" "}
      <span className="quiet">{phoneMatch === null ? say.matchWhy : say.matched}</span>
    </p>
  );
}

/** A reading that does not fit what the phone sees is asked about. */
export function ForgottenFilter({ phone }: Props) {
  if (!phone?.advice) return null;
  return (
    <p className="light-watch-why mb-0" role="alert">
      <strong>{phone.advice.text}</strong>
    </p>
  );
}
