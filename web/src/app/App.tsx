import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { BenchScreen } from "../screens/bench/BenchScreen";
import { useOpenFrame } from "../state/frames";
import { watch } from "../state/outbox";
import { useSession } from "../state/session";
import { useSaid } from "../ui/say";
import { nextLight, useLight } from "../ui/light";
import { useKeys } from "../ui/useKeys";
import { words } from "../words";
import { Header, Tabs } from "./Header";
import { Notices } from "./Notices";
import { Place } from "./Place";

const OutingScreen = lazy(async () => ({ default: (await import("../screens/outing/OutingScreen")).OutingScreen }));
const RunScreen = lazy(async () => ({ default: (await import("../screens/run/RunScreen")).RunScreen }));
const LogScreen = lazy(async () => ({ default: (await import("../screens/log/LogScreen")).LogScreen }));
const KitScreen = lazy(async () => ({ default: (await import("../screens/kit/KitScreen")).KitScreen }));
const Toasts = lazy(async () => ({ default: (await import("./Toasts")).Toasts }));
const KeysHelp = lazy(async () => ({ default: (await import("./KeysHelp")).KeysHelp }));
const Account = lazy(async () => ({ default: (await import("./Account")).Account }));
const SignIn = lazy(async () => ({ default: (await import("./SignIn")).SignIn }));

export function App() {
  const [dialog, setDialog] = useState<"keys" | "signIn" | "account" | null>(null);
  const [light, setLight] = useLight();
  const said = useSaid().length > 0;
  const navigate = useNavigate();
  useHearingOfOtherDevices();
  useEndShown();
  useKeys("b", () => void navigate("/"));
  useKeys("l", () => void navigate("/log"));
  useKeys("k", () => void navigate("/kit"));
  useKeys("g", () => void navigate("/outing"));
  useKeys("n", () => setLight(nextLight(light)));
  useKeys("?", () => setDialog("keys"));

  return (
    <>
      <a className="skip" href="#main">
        {words.header.skip}
      </a>
      <Header
        light={light}
        setLight={setLight}
        onKeys={() => setDialog("keys")}
        onSignIn={() => setDialog("signIn")}
        onAccount={() => setDialog("account")}
      />
      <main id="main" tabIndex={-1}>
        <Notices />
        <Place>
          <Routes>
            <Route path="/" element={<BenchScreen />} />
            <Route path="/run" element={<RunScreen />} />
            <Route path="/log/*" element={<LogScreen />} />
            <Route path="/kit" element={<KitScreen />} />
            <Route path="/outing" element={<OutingScreen />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </Place>
        <Suspense fallback={null}>{said && <Toasts />}</Suspense>
      </main>
      <Tabs />
      <Place>
        {dialog === "keys" && <KeysHelp onClose={() => setDialog(null)} />}
        {dialog === "account" && <Account onClose={() => setDialog(null)} />}
        {dialog === "signIn" && <SignIn onClose={() => setDialog(null)} />}
      </Place>
    </>
  );
}

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
  const onRun = useLocation().pathname === "/run";
  const needed = account !== null && (running || onRun);
  useEffect(() => (needed ? watch() : undefined), [needed, account]);
}
