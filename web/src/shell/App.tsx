import { useState } from "react";
import { Navigate, Route, Routes, useNavigate } from "react-router";
import { BenchScreen } from "../bench/BenchScreen";
import { KitScreen } from "../kit/KitScreen";
import { OutingScreen } from "../outing/OutingScreen";
import { CardPage } from "../log/CardPage";
import { ComparePage } from "../log/ComparePage";
import { FilesPage } from "../log/FilesPage";
import { FramePage } from "../log/FramePage";
import { FramesPage } from "../log/FramesPage";
import { GlassPage } from "../log/GlassPage";
import { LessonsPage } from "../log/LessonsPage";
import { LogLayout } from "../log/LogLayout";
import { MeasurePage } from "../log/MeasurePage";
import { RunScreen } from "../run/RunScreen";
import { words } from "../words";
import { Header, Tabs } from "./Header";
import { KeysHelp } from "./KeysHelp";
import { nextLight, useLight } from "./light";
import { SignIn } from "./SignIn";
import { Toasts } from "./Toasts";
import { useKeptInStep } from "./useSession";
import { useKeys } from "./useKeys";

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
