import { Button, Toast, ToastContainer } from "react-bootstrap";
import { say, useSaid } from "../ui/say";

export function Toasts() {
  const said = useSaid();
  return (
    <ToastContainer position="bottom-center" className="toasts">
      {said && (
        <Toast key={said.key} onClose={() => say(null)} delay={8000} autohide>
          <Toast.Body>
            <span>{said.text}</span>
            {said.action && (
              <Button
                variant="quiet"
                size="sm"
                onClick={() => {
                  said.action?.act();
                  say(null);
                }}
              >
                {said.action.label}
              </Button>
            )}
          </Toast.Body>
        </Toast>
      )}
    </ToastContainer>
  );
}
