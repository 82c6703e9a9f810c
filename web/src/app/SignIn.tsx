import { type SubmitEvent, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Modal } from "../ui/opened";
import { TakeAlong } from "../parts/takealong/TakeAlong";
import { words } from "../words";
import { signIn, useSession } from "../state/session";
import { Fault } from "../ui/Fault";

export function SignIn({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<unknown>(null);

  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    try {
      await signIn(username, password);
      onClose();
    } catch (error) {
      setProblem(error);
    }
  };

  return (
    <Modal show onHide={onClose} centered aria-labelledby="sign-in-title">
      <Form onSubmit={(event) => void submit(event)}>
        <Modal.Header closeButton closeLabel={words.entry.cancel}>
          <Modal.Title id="sign-in-title">{words.session.title}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="stacked">
          {session.demo && <p className="quiet mb-0">{words.session.demo}</p>}
          <Form.Group controlId="sign-in-name">
            <Form.Label>{words.session.name}</Form.Label>
            <Form.Control
              // The field is what this dialog is for.
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus
              required
              maxLength={120}
              autoComplete="username"
              value={username}
              onChange={(event) => setUsername(event.target.value)}
            />
          </Form.Group>
          <Form.Group controlId="sign-in-password">
            <Form.Label>{words.session.password}</Form.Label>
            <Form.Control
              type="password"
              required
              maxLength={120}
              autoComplete="current-password"
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </Form.Group>
          <Fault error={problem} />
          <p className="quiet mb-0">{words.session.guest}</p>
          <TakeAlong />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {words.entry.cancel}
          </Button>
          <Button variant="signal" type="submit">
            {words.session.enter}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
