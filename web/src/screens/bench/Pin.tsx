import { words } from "../../words";

interface Props {
  /** What is pinned, in words. */
  what: string;
  floats: boolean;
  onFloat: () => void;
}

/** Exactly one of five quantities floats; a press on a pinned one lets it go and pins the one before. */
export function Pin({ what, floats, onFloat }: Props) {
  return (
    <button
      type="button"
      className="pin"
      aria-pressed={floats}
      aria-label={floats ? words.pins.floatsNow(what) : words.pins.letFloat(what)}
      onClick={onFloat}
    >
      <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
        {floats ? (
          <path d="M1 6c2.5-3 4.5-3 7 0s4.5 3 7 0M1 11c2.5-3 4.5-3 7 0s4.5 3 7 0" />
        ) : (
          <path d="M8 15V9M4.5 9h7L10 6.5V2h1M5 2h5M6 2v4.5L4.5 9" />
        )}
      </svg>
      <span>{floats ? words.pins.floats : words.pins.held}</span>
    </button>
  );
}
