import { useState } from "react";
import { Navigate, Route, Routes, useNavigate } from "react-router";
import { BenchScreen } from "../screens/bench/BenchScreen";
import { KitScreen } from "../screens/kit/KitScreen";
import { OutingScreen } from "../screens/outing/OutingScreen";
import { CardPage } from "../screens/log/CardPage";
import { ComparePage } from "../screens/log/ComparePage";
import { FilesPage } from "../screens/log/FilesPage";
import { FramePage } from "../screens/log/FramePage";
import { FramesPage } from "../screens/log/FramesPage";
import { GlassPage } from "../screens/log/GlassPage";
import { LessonsPage } from "../screens/log/LessonsPage";
import { LogLayout } from "../screens/log/LogLayout";
import { MeasurePage } from "../screens/log/MeasurePage";
import { RunScreen } from "../screens/run/RunScreen";
import { words } from "../words";
import { Header, Tabs } from "./Header";
import { KeysHelp } from "./KeysHelp";
import { nextLight, useLight } from "../ui/light";
import { SignIn } from "./SignIn";
import { Toasts } from "./Toasts";
import { useKeptInStep } from "../state/session";
import { useKeys } from "../ui/useKeys";

export function App() {
  const [dialog, setDialog] = useState<"keys" | "signIn" | null>(null);
  const [light, setLight] = useLight();
  const navigate = useNavigate();
  useKeptInStep();
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
      <Header light={light} setLight={setLight} onKeys={() => setDialog("keys")} onSignIn={() => setDialog("signIn")} />
      <main id="main" tabIndex={-1}>
        <Routes>
          <Route path="/" element={<BenchScreen />} />
          <Route path="/run" element={<RunScreen />} />
          <Route path="/log" element={<LogLayout />}>
            <Route index element={<FramesPage />} />
            <Route path="frame/:id" element={<FramePage />} />
            <Route path="compare/:one/:other" element={<ComparePage />} />
            <Route path="glass" element={<GlassPage />} />
            <Route path="measure" element={<MeasurePage />} />
            <Route path="lessons" element={<LessonsPage />} />
            <Route path="card" element={<CardPage />} />
            <Route path="files" element={<FilesPage />} />
          </Route>
          <Route path="/kit" element={<KitScreen />} />
          <Route path="/outing" element={<OutingScreen />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
        <Toasts />
      </main>
      <Tabs />
      {dialog === "keys" && <KeysHelp onClose={() => setDialog(null)} />}
      {dialog === "signIn" && <SignIn onClose={() => setDialog(null)} />}
    </>
  );
}
