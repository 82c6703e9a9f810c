import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../ui/opened";
import { PhoneCheck } from "../parts/phonecheck/dialog";
import { TakeAlong } from "../parts/takealong/TakeAlong";
import { useOpenFrame } from "../state/frames";
import { changePassword, endAccount, signOut, signOutElsewhere, useSession } from "../state/session";
import { saveEverything } from "../state/takeOut";
import { Fault } from "../ui/Fault";
import { faultText } from "../ui/faultText";
import { say } from "../ui/say";
import { words } from "../words";
import { accountWords } from "../words/account";
import { ClockChoice } from "./ClockChoice";
import { OnPhone } from "./OnPhone";

type Page = "account" | "password" | "end" | "phone";

/** Who is signed in, the way out, another password, and the end of the account. */
export function Account({ onClose }: { onClose: () => void }) {
  const { username } = useSession();
  const [page, setPage] = useState<Page>("account");
  const back = () => setPage("account");
  if (page === "phone") return <PhoneCheck onClose={back} />;
  return (
    <Modal show onHide={onClose} centered aria-labelledby="account-title">
      <Modal.Header closeButton closeLabel={words.close}>
        <Modal.Title id="account-title">{words.header.account(username ?? "")}</Modal.Title>
      </Modal.Header>
      {page === "account" && <Overview onPage={setPage} onClose={onClose} />}
      {page === "password" && <NewPassword onBack={back} onClose={onClose} />}
      {page === "end" && <End onBack={back} onClose={onClose} />}
    </Modal>
  );
}

function Overview({ onPage, onClose }: { onPage: (page: Page) => void; onClose: () => void }) {
  const open = useOpenFrame() !== undefined;
  const [asked, setAsked] = useState(false);
  const leave = async () => {
    if (open && !asked) {
      setAsked(true);
      return;
    }
    try {
      await signOut();
    } catch (error) {
      say({ text: faultText(error) });
    }
    onClose();
  };
  const elsewhere = async () => {
    try {
      await signOutElsewhere();
      say({ text: accountWords.elsewhereDone });
    } catch (error) {
      say({ text: faultText(error) });
    }
  };
  return (
    <>
      <Modal.Body className="stacked">
        {asked && open && (
          <p className="fault mb-0" role="alert">
            {words.header.openAsks}
          </p>
        )}
        <p className="mb-0">{words.header.signOutWhy}</p>
        <div className="stacked">
          <Button variant="quiet" onClick={() => onPage("password")}>
            {accountWords.password}
          </Button>
          <Button variant="quiet" onClick={() => void elsewhere()}>
            {accountWords.elsewhere}
          </Button>
          <Button variant="quiet" onClick={() => onPage("end")}>
            {accountWords.end}
          </Button>
        </div>
        <ClockChoice />
        <TakeAlong />
        <Button variant="quiet" onClick={() => onPage("phone")}>
          {words.checkPhone}
        </Button>
        <OnPhone />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.close}
        </Button>
        <Button variant="signal" onClick={() => void leave()}>
          {asked && open ? words.header.openGo : words.header.signOut}
        </Button>
      </Modal.Footer>
    </>
  );
}

interface Step {
  onBack: () => void;
  onClose: () => void;
}

/** What a form sends: once at a time, what is refused stays on screen with what was typed. */
function useSending(send: () => Promise<void>, done: string, onClose: () => void) {
  const [problem, setProblem] = useState<unknown>(null);
  const [sending, setSending] = useState(false);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    setSending(true);
    try {
      await send();
      say({ text: done });
      onClose();
    } catch (error) {
      setProblem(error);
      setSending(false);
    }
  };
  return { problem, sending, submit: (event: SubmitEvent) => void submit(event) };
}

function NewPassword({ onBack, onClose }: Step) {
  const [current, setCurrent] = useState("");
  const [next, setNext] = useState("");
  const { problem, sending, submit } = useSending(() => changePassword(current, next), accountWords.changed, onClose);
  return (
    <Form onSubmit={submit}>
      <Modal.Body className="stacked">
        <PasswordField id="password-current" label={accountWords.current} value={current} onChange={setCurrent} />
        <PasswordField id="password-new" label={accountWords.next} value={next} onChange={setNext} made />
        <p className="quiet mb-0">{accountWords.nextHow}</p>
        <Fault error={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onBack}>
          {accountWords.back}
        </Button>
        <Button variant="signal" type="submit" disabled={sending}>
          {accountWords.change}
        </Button>
      </Modal.Footer>
    </Form>
  );
}

function End({ onBack, onClose }: Step) {
  const [password, setPassword] = useState("");
  const [sure, setSure] = useState(false);
  const { problem, sending, submit } = useSending(() => endAccount(password), accountWords.ended, onClose);
  const save = async () => {
    try {
      await saveEverything((part, of) => say({ text: accountWords.part(part, of) }));
      say({ text: accountWords.saved });
    } catch (error) {
      say({ text: faultText(error) });
    }
  };
  return (
    <Form onSubmit={submit}>
      <Modal.Body className="stacked">
        <p className="mb-0">{accountWords.endWhy}</p>
        <Button variant="quiet" onClick={() => void save()}>
          {accountWords.save}
        </Button>
        <Form.Check
          id="end-sure"
          label={accountWords.sure}
          checked={sure}
          onChange={(event) => setSure(event.target.checked)}
        />
        <PasswordField id="end-password" label={accountWords.proof} value={password} onChange={setPassword} />
        <Fault error={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onBack}>
          {accountWords.back}
        </Button>
        <Button variant="quiet" type="submit" disabled={!sure || sending}>
          {accountWords.erase}
        </Button>
      </Modal.Footer>
    </Form>
  );
}

interface FieldProps {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** A password that is being made, not remembered. */
  made?: boolean;
}

function PasswordField({ id, label, value, onChange, made = false }: FieldProps) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type="password"
        required
        maxLength={120}
        autoComplete={made ? "new-password" : "current-password"}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Form.Group>
  );
}
