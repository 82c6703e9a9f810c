import { useEffect, useRef, useState } from "react";
import { Redirect, Route, Switch, useLocation } from "wouter";
import { takeAhead } from "../engine/ahead";
import { BenchScreen } from "../screens/bench/BenchScreen";
import { DIALOGS } from "../screens/bench/dialogs";
import { ARMED, armedKept } from "../state/armed";
import { openFrame, useOpenFrame } from "../state/frames";
import { useHabits } from "../state/habits";
import { watch } from "../state/outbox";
import { useSession } from "../state/session";
import { lazily } from "../ui/lazily";
import { nextLight, useLight } from "../ui/light";
import { signKeys, useKeys } from "../ui/useKeys";
import { focusOnceThere } from "../ui/focusOnceThere";
import { words } from "../words";
import { countHours } from "../words/clock";
import { Header, Tabs } from "./Header";
import { Notices, ServerTrouble } from "./Notices";
import { closeDialog, openDialog, useDialog } from "../ui/opening";
import { Place } from "./Place";
import { Toasts } from "./Toasts";
import { MainAction } from "../ui/kinds/MainAction";
import { SHARED } from "../state/sharingMark";

// What is opened now and then is fetched then, or ahead of time while nothing else happens.
const fetched = {
  outing: () => import("../screens/outing/OutingScreen"),
  run: () => import("../screens/run/RunScreen"),
  timer: () => import("../screens/run/TimerScreen"),
  log: () => import("../screens/log/LogScreen"),
  bag: () => import("../screens/bag/BagScreen"),
  keys: () => import("./KeysHelp"),
  signIn: () => import("./SignIn"),
  account: () => import("./Account"),
  dryRun: () => import("../parts/dryrun/DryRunBar"),
  shared: () => import("../parts/sharing/SharedSetUp"),
};
const OutingScreen = lazily(async () => (await fetched.outing()).OutingScreen);
const RunScreen = lazily(async () => (await fetched.run()).RunScreen);
const TimerScreen = lazily(async () => (await fetched.timer()).TimerScreen);
const LogScreen = lazily(async () => (await fetched.log()).LogScreen);
const BagScreen = lazily(async () => (await fetched.bag()).BagScreen);
const KeysHelp = lazily(async () => (await fetched.keys()).KeysHelp, true);
const DryRunBar = lazily(async () => (await fetched.dryRun()).DryRunBar, true);
// For builders: no page leads to it, and nobody's browser fetches it ahead.
const KindsScreen = lazily(async () => (await import("../screens/kinds/KindsScreen")).KindsScreen);
const SharedSetUp = lazily(async () => (await fetched.shared()).SharedSetUp, true);
const Account = lazily(async () => (await fetched.account()).Account, true);
const SignIn = lazily(async () => (await fetched.signIn()).SignIn, true);

export function App() {
  const dialog = useDialog();
  const [light, setLight] = useLight();
  const { practice } = useSession();
  const departures = useDepartures();
  // Whose account is looked at: what is typed there goes with them, in whichever page they left.
  const [accountOf, setAccountOf] = useState(departures);
  const [opened, setOpened] = useState(dialog);
  if (opened !== dialog) {
    setOpened(dialog);
    if (dialog === "account") setAccountOf(departures);
  }
  const [, navigate] = useLocation();
  const [shared, putAway] = useSharedSetUp();
  useHearingOfOtherDevices();
  useEndShown();
  useFetchedAhead();
  useTakenAhead();
  useScreenNamed();
  const { letterKeys, hours } = useHabits();
  // Before anything beneath is drawn.
  countHours(hours);
  useEffect(() => signKeys(letterKeys), [letterKeys]);
  useKeys("b", () => navigate("/"));
  useKeys("l", () => navigate("/log"));
  useKeys("k", () => navigate("/bag"));
  useKeys("g", () => navigate("/outing"));
  useKeys("n", () => setLight(nextLight(light)));
  useKeys("?", () => openDialog("keys"));

  return (
    <>
      <a className="skip" href="#main">
        {words.header.skip}
      </a>
      <Header light={light} setLight={setLight} />
      {practice && <DryRunBar />}
      <main id="main" tabIndex={-1}>
        <Notices />
        <ServerTrouble />
        <Place>
          <Switch key={departures}>
            <Route path="/">
              <BenchScreen />
            </Route>
            <Route path="/run">
              <RunScreen />
            </Route>
            <Route path="/timer">
              <TimerScreen />
            </Route>
            <Route path="/log/*?">
              <LogScreen />
            </Route>
            <Route path="/bag/*?">
              <BagScreen />
            </Route>
            <Route path="/kit">
              <Redirect to="/bag" replace />
            </Route>
            <Route path="/outing">
              <OutingScreen />
            </Route>
            <Route path="/kinds">
              <KindsScreen />
            </Route>
            <Route>
              <NoPage />
            </Route>
          </Switch>
        </Place>
        <ServerTrouble beneath />
        <Toasts />
      </main>
      <Tabs />
      <Place>
        {shared && <SharedSetUp fragment={shared} onClose={putAway} />}
        {dialog === "keys" && <KeysHelp onClose={() => closeDialog("keys")} />}
        {dialog === "account" && accountOf === departures && <Account onClose={() => closeDialog("account")} />}
        {dialog === "signIn" && <SignIn onClose={() => closeDialog("signIn")} />}
      </Place>
    </>
  );
}

/** A set-up that stands in the address, and the way to take it out of there. */
function useSharedSetUp(): [string | null, () => void] {
  const there = () => (globalThis.location.hash.startsWith(SHARED) ? globalThis.location.hash : null);
  const [shared, setShared] = useState(there);
  useEffect(() => {
    const look = () => setShared(there());
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  const putAway = () => {
    history.replaceState(history.state, "", globalThis.location.pathname + globalThis.location.search);
    setShared(null);
  };
  return [shared, putAway];
}

/** An address that is none of ours. */
function NoPage() {
  const [, go] = useLocation();
  return (
    <div className="no-page">
      <h1>{words.noPage.title}</h1>
      <p>{words.noPage.why}</p>
      <MainAction onAct={() => go("/")}>{words.toBench}</MainAction>
    </div>
  );
}

/**
 * How often somebody has left, or a dry run has begun or ended: what was being typed goes with them, and is not kept
 * among another's things. What a guest began stays for whom they sign in as.
 */
function useDepartures(): number {
  const { account, practice } = useSession();
  const now = practice ? "practice" : account;
  const [last, setLast] = useState(now);
  const [departures, setDepartures] = useState(0);
  if (now !== last) {
    setLast(now);
    if (last !== null || practice) setDepartures(departures + 1);
  }
  return departures;
}

const TITLES: Record<string, string> = {
  "": words.nav.bench,
  run: words.nav.run,
  timer: words.more.timer,
  log: words.nav.log,
  bag: words.nav.bag,
  outing: words.nav.outing,
  kinds: words.nav.bench,
};

/** Each screen has its title, and whoever comes to it by a link starts at its heading. */
function useScreenNamed(): void {
  const screen = useLocation()[0].split("/")[1] ?? "";
  const before = useRef(screen);
  useEffect(() => {
    document.title = words.titled(TITLES[screen] ?? words.noPage.title);
    if (before.current === screen) return;
    before.current = screen;
    return focusOnceThere("main h1");
  }, [screen]);
}

/** Fetched while the page idles, what a running frame needs first, so that a network that goes away takes no screen along. */
function useFetchedAhead(): void {
  useEffect(() => {
    let missing: (() => Promise<unknown>)[] = [fetched.run, ...DIALOGS, ...Object.values(fetched)];
    let timer = 0;
    const ahead = async () => {
      const left: typeof missing = [];
      for (const fetchPart of missing) await fetchPart().catch(() => left.push(fetchPart));
      missing = left;
      // What cannot be had now is asked for again later, and at once when it is opened.
      if (missing.length > 0) timer = window.setTimeout(() => void ahead(), AGAIN_MS);
    };
    timer = window.setTimeout(() => void ahead(), AHEAD_MS);
    return () => window.clearTimeout(timer);
  }, []);
}

/** Whoever has set up a frame works with this: the core is fetched by itself, when the hands rest. */
function useTakenAhead(): void {
  const decided = armedKept.useOne(ARMED) !== null;
  useEffect(() => {
    if (decided) takeAhead(() => openFrame() !== undefined);
  }, [decided]);
}

const AHEAD_MS = 3000;
const AGAIN_MS = 20_000;

/** A frame that was running has ended, on whichever page or device: its end is shown here, too. */
function useEndShown(): void {
  const id = useOpenFrame()?.id;
  const last = useRef<string | undefined>(undefined);
  useEffect(() => {
    const before = last.current;
    last.current = id;
    if (before !== undefined && before !== id)
      void import("../state/running").then((running) => running.showEndOf(before));
  }, [id]);
}

/** Run waits for what other devices open, and a running frame for what they do to it; nothing else asks by itself. */
function useHearingOfOtherDevices(): void {
  const { account } = useSession();
  const running = useOpenFrame() !== undefined;
  const onRun = useLocation()[0] === "/run";
  const needed = account !== null && (running || onRun);
  useEffect(() => (needed ? watch() : undefined), [needed, account]);
}
