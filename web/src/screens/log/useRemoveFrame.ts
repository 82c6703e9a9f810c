import { useLocation } from "wouter";
import { addFrame, type Frame, removeFrame } from "../../state/frames";
import { say } from "../../ui/say";
import { logWords } from "../../words/log";

/** Removing is at once and can be undone: the frame comes back under its own key. */
export function useRemoveFrame(): (frame: Frame) => Promise<void> {
  const [, navigate] = useLocation();
  return async (frame) => {
    await removeFrame(frame.id);
    navigate("/log");
    say({ text: logWords.removed, action: { label: logWords.undo, act: () => void addFrame(frame) } });
  };
}
