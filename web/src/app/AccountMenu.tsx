import { Dropdown } from "react-bootstrap";
import { signOut } from "../state/session";
import { faultText } from "../ui/Fault";
import { say } from "../ui/say";
import { words } from "../words";

export function AccountMenu({ username }: { username: string }) {
  const leave = () => {
    signOut().catch((error: unknown) => say({ text: faultText(error) }));
  };
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="quiet" size="sm" aria-label={words.header.account(username)}>
        {username}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Item as="button" onClick={leave}>
          {words.header.signOut}
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
