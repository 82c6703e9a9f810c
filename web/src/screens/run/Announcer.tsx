import { runWords } from "../../words/run";

/** Says the few moments that matter to those who listen rather than look. */
export function Announcer({ left, needed }: { left: number; needed: number }) {
  const say = runWords.announce;
  const text =
    left <= 0 ? say.mark : left <= 10 && needed > 20 ? say.tenLeft : left <= needed / 2 ? say.half : say.opened;
  return (
    <p className="visually-hidden" aria-live="assertive">
      {text}
    </p>
  );
}
