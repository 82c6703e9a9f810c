import { Button } from "react-bootstrap";
import { useLocation } from "wouter";
import { unmetered } from "../../state/bench";
import { disarm } from "../../state/running";
import { say as toast } from "../../ui/say";
import { runWords } from "../../words/run";

/** Another picture with the same gear: the camera is blind, so reading and focus begin again. */
export function Reframe() {
  const [, navigate] = useLocation();
  return (
    <Button
      variant="quiet"
      onClick={() => {
        unmetered();
        disarm();
        navigate("/");
        toast({ text: runWords.reframed });
      }}
    >
      {runWords.reframe}
    </Button>
  );
}
