import { Button, Modal } from "react-bootstrap";
import { signOut, useSession } from "../state/session";
import { faultText } from "../ui/faultText";
import { say } from "../ui/say";
import { words } from "../words";

/** Who is signed in, and the way out. */
export function Account({ onClose }: { onClose: () => void }) {
  const { username } = useSession();
  const leave = async () => {
    try {
      await signOut();
    } catch (error) {
      say({ text: faultText(error) });
    }
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="account-title">
      <Modal.Header closeButton closeLabel={words.keys.close}>
        <Modal.Title id="account-title">{words.header.account(username ?? "")}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="mb-0">{words.header.signOutWhy}</p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {words.keys.close}
        </Button>
        <Button variant="signal" onClick={() => void leave()}>
          {words.header.signOut}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
