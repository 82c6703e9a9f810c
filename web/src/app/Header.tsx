import { useEffect } from "react";
import { Button } from "react-bootstrap";
import { AccountButton } from "../parts/account/AccountButton";
import { NavLink } from "../ui/NavLink";
import { Link, useLocation } from "wouter";
import { ARMED, armedKept } from "../state/armed";
import { cameraSeconds, watch } from "../state/clock";
import { useOpenFrame } from "../state/frames";
import { openDialog } from "../ui/opening";
import { type Light, nextLight } from "../ui/light";
import { useNow } from "../ui/useNow";
import { lazily } from "../ui/lazily";
import { goingOn, useOutings } from "../state/outings";
import { words } from "../words";
import { clockText } from "../words/times";

const Countdown = lazily(async () => (await import("../parts/leaving/Countdown")).Countdown, true);

interface Props {
  light: Light;
  setLight: (light: Light) => void;
}

const SCREENS = [
  ["/outing", words.nav.outing],
  ["/", words.nav.bench],
  ["/log", words.nav.log],
  ["/bag", words.nav.bag],
] as const;

export function Header({ light, setLight }: Props) {
  return (
    <header className="shell-header">
      <Link to="/" className="brand">
        <svg viewBox="0 0 24 28" width="22" height="26" aria-hidden="true">
          <path className="brand-pole" d="M2 1h3v26H2z" />
          <path className="brand-flag" d="M5 2h17l-4.5 5L22 12H5z" />
        </svg>
        {words.name}
      </Link>
      <nav className="shell-nav" aria-label={words.nav.label}>
        <ScreenLinks />
      </nav>
      <GoingOn />
      <OpenNow />
      <AccountButton />
      <Button
        variant="quiet"
        className="screen-light"
        aria-label={words.header.screen(words.lights[light])}
        onClick={() => setLight(nextLight(light))}
      >
        <span className="screen-light-sign" data-sign={light} aria-hidden="true" />
        {words.lights[light]}
      </Button>
      <Button variant="quiet" className="keys-button" onClick={() => openDialog("keys")} aria-label={words.header.keys}>
        ?
      </Button>
    </header>
  );
}

/** The same screens in reach of the thumb. */
export function Tabs() {
  return (
    <nav className="shell-tabs" aria-label={words.nav.label}>
      <ScreenLinks />
    </nav>
  );
}

function ScreenLinks() {
  return SCREENS.map(([to, label]) => (
    <NavLink key={to} to={to} end={to === "/"}>
      {label}
    </NavLink>
  ));
}

/** An open shutter, or a frame that is ready for one, is shown on every other screen. */
function OpenNow() {
  const frame = useOpenFrame();
  useNow(1000);
  // The run's own clock, found once by whichever page shows it.
  useEffect(() => {
    if (frame) void watch(frame);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [frame?.id]);
  const elsewhere = useLocation()[0] !== "/run";
  const armed = armedKept.useOne(ARMED);
  if (!elsewhere) return null;
  if (!frame)
    return (
      armed && (
        <Link to="/run" className="open-now">
          {words.header.frame}
        </Link>
      )
    );
  return (
    <Link to="/run" className="open-now">
      {words.header.open(clockText(cameraSeconds(frame)))}
    </Link>
  );
}

/** While an outing goes on: what comes next, and when to leave. */
function GoingOn() {
  const { outings, current } = useOutings();
  const now = useNow(GOES_ON_MS);
  return goingOn(outings, current, now) ? <Countdown /> : null;
}

const GOES_ON_MS = 10_000;
