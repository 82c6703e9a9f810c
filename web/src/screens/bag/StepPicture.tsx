/** Small drawings of what the hands do; the words beside them say the same. */
export function StepPicture({ show }: { show: "wall" | "bare" | "filtered" | "cross" | "corners" | "cap" }) {
  return (
    <svg className="step-picture" viewBox="0 0 96 64" aria-hidden="true">
      {DRAWN[show]}
    </svg>
  );
}

const camera = (
  <>
    <rect className="draw-body" x="8" y="22" width="34" height="24" rx="2" />
    <rect className="draw-body" x="18" y="16" width="12" height="6" />
    <rect className="draw-body" x="42" y="25" width="14" height="18" />
  </>
);

const legs = <path className="draw-line" d="M25 46v4M25 50L15 62M25 50l10 12" />;
const rays = <path className="draw-ray" d="M92 28H62M92 34H62M92 40H62" />;

const DRAWN = {
  wall: (
    <>
      {camera}
      {legs}
      <rect className="draw-shade" x="80" y="6" width="12" height="56" />
      <path className="draw-ray" d="M78 34H60" />
    </>
  ),
  bare: (
    <>
      {camera}
      {legs}
      {rays}
    </>
  ),
  filtered: (
    <>
      {camera}
      {legs}
      {rays}
      <rect className="draw-dark" x="57" y="20" width="5" height="28" />
      <path className="draw-line" d="M2 18l12 4" />
      <rect className="draw-dark" x="2" y="15" width="8" height="7" />
    </>
  ),
  cross: (
    <>
      <rect className="draw-frame" x="4" y="4" width="88" height="56" />
      <path className="draw-stain" d="M4 4h16l28 22L76 4h16v12L60 32l32 16v12H76L48 38 20 60H4V48l32-16L4 16z" />
    </>
  ),
  corners: (
    <>
      <rect className="draw-frame" x="4" y="4" width="88" height="56" />
      <path className="draw-dark" d="M4 4h14Q8 10 4 20zM92 4v16Q88 10 78 4zM92 60H78q10-6 14-16zM4 60V44q4 10 14 16z" />
    </>
  ),
  cap: (
    <>
      {camera}
      {legs}
      <rect className="draw-dark" x="57" y="22" width="6" height="24" rx="2" />
    </>
  ),
} as const;
