import { Button, Toast, ToastContainer } from "react-bootstrap";
import { unsay, useSaid } from "../ui/say";

const STANDS_MS = 8000;

/** What was just done, each with its own way back, the latest nearest to the thumb. */
export function Toasts() {
  const said = useSaid();
  return (
    <ToastContainer position="bottom-center" className="toasts">
      {said.map((one) => (
        <Toast key={one.key} onClose={() => unsay(one.key)} delay={STANDS_MS} autohide>
          <Toast.Body>
            <span>{one.text}</span>
            {one.action && (
              <Button
                variant="quiet"
                size="sm"
                onClick={() => {
                  one.action?.act();
                  unsay(one.key);
                }}
              >
                {one.action.label}
              </Button>
            )}
          </Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  );
}
