import { useEffect } from "react";
import { Button, ToggleButton, ToggleButtonGroup } from "react-bootstrap";
import { NavLink } from "../ui/NavLink";
import { Link, useLocation } from "wouter";
import { cameraSeconds, watch } from "../state/clock";
import { useOpenFrame } from "../state/frames";
import { useSession } from "../state/session";
import { type Light, LIGHTS } from "../ui/light";
import { useNow } from "../ui/useNow";
import { lazily } from "../ui/lazily";
import { goingOn, useOutings } from "../state/outings";
import { words } from "../words";
import { clockText } from "../words/times";

const Countdown = lazily(async () => (await import("../parts/leaving/Countdown")).Countdown, true);

interface Props {
  light: Light;
  setLight: (light: Light) => void;
  onKeys: () => void;
  onSignIn: () => void;
  onAccount: () => void;
}

const SCREENS = [
  ["/outing", words.nav.outing],
  ["/", words.nav.bench],
  ["/run", words.nav.run],
  ["/log", words.nav.log],
  ["/bag", words.nav.bag],
] as const;

export function Header({ light, setLight, onKeys, onSignIn, onAccount }: Props) {
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
      <ToggleButtonGroup
        type="radio"
        name="light"
        className="lights"
        aria-label={words.header.light}
        value={light}
        onChange={setLight}
      >
        {LIGHTS.map((tone) => (
          <ToggleButton key={tone} id={`light-${tone}`} value={tone} variant="segment" size="sm">
            {words.lights[tone]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <AccountButton onSignIn={onSignIn} onAccount={onAccount} />
      <Button variant="quiet" size="sm" className="keys-button" onClick={onKeys} aria-label={words.header.keys}>
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

/** An open shutter is shown on every other screen. */
function OpenNow() {
  const frame = useOpenFrame();
  useNow(1000);
  // The run's own clock, found once by whichever page shows it.
  useEffect(() => {
    if (frame) void watch(frame);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [frame?.id]);
  const elsewhere = useLocation()[0] !== "/run";
  if (!frame || !elsewhere) return null;
  return (
    <Link to="/run" className="open-now">
      {words.header.open(clockText(cameraSeconds(frame)))}
    </Link>
  );
}

function AccountButton({ onSignIn, onAccount }: Pick<Props, "onSignIn" | "onAccount">) {
  const { signedIn, username, practice } = useSession();
  if (practice) return null;
  if (!signedIn) {
    return (
      <Button variant="quiet" size="sm" onClick={onSignIn}>
        {words.header.signIn}
      </Button>
    );
  }
  return (
    <Button variant="quiet" size="sm" aria-label={words.header.account(username ?? "")} onClick={onAccount}>
      {username}
    </Button>
  );
}

/** While an outing goes on: what comes next, and when to leave. */
function GoingOn() {
  const { outings, current } = useOutings();
  const now = useNow(GOES_ON_MS);
  return goingOn(outings, current, now) ? <Countdown /> : null;
}

const GOES_ON_MS = 10_000;
