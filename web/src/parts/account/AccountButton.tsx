import { Button } from "react-bootstrap";
import { useSession } from "../../state/session";
import { words } from "../../words";
import { openDialog } from "../../ui/opening";

/** Who is signed in, or the way to; a dry run has no account. */
export function AccountButton() {
  const { signedIn, username, practice } = useSession();
  if (practice) return null;
  if (!signedIn) {
    return (
      <Button variant="quiet" className="account-button" onClick={() => openDialog("signIn")}>
        {words.header.signIn}
      </Button>
    );
  }
  return (
    <Button
      variant="quiet"
      className="account-button"
      aria-label={words.header.account(username ?? "")}
      onClick={() => openDialog("account")}
    >
      {username}
    </Button>
  );
}
