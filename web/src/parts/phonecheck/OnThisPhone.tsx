import { useState } from "react";
import { Button } from "react-bootstrap";
import { failed, usePhoneCheck } from "../../state/phoneCheck";
import { phoneWords as say } from "../../words/phoneCheck";
import { PhoneCheck } from "./dialog";

/** Before a long frame: what this phone cannot do, as it was tried; or that nobody has tried it. */
export function OnThisPhone() {
  const check = usePhoneCheck();
  const [open, setOpen] = useState(false);
  const fails = check ? failed(check) : [];
  const told = check === null || (fails.length > 0 && !check.known);
  // The dialog goes on where the last failure is gone.
  if (!told && !open) return null;
  return (
    <div className="on-this-phone">
      {check && fails.length > 0 && (
        <p className="run-note" role="status">
          <strong>{say.failing}</strong> {fails.map((what) => say.names[what].toLowerCase()).join(", ")}.
        </p>
      )}
      <Button variant="link" className="plain-link" onClick={() => setOpen(true)}>
        {check ? say.more : say.never}
      </Button>
      {open && <PhoneCheck onClose={() => setOpen(false)} />}
    </div>
  );
}
