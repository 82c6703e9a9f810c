import "../theme/bootstrap.scss";
import "../theme/fonts.css";
import "../theme/lights.css";
import "../theme/controls.css";
import "../theme/blocks.css";
import "../ui/kinds/kinds.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { recall } from "../engine/ahead";
import { App } from "./App";
import { askForPiecesFirst } from "../ui/piece";
import { noteKeyboard } from "../ui/keyboardUsed";
import { hearFrom, openUp } from "./start";

const client = new QueryClient({ defaultOptions: { queries: { networkMode: "always", refetchOnWindowFocus: false } } });

askForPiecesFirst();
noteKeyboard();
const root = document.getElementById("root");
const opened = openUp(client);
// What was taken along answers from the first question on.
void Promise.all([opened, recall()]).then(([known]) => {
  if (!root) return;
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
  // Silence is no answer: whoever is here goes on with what this browser has.
  const hear = () => void hearFrom(client, known).catch(() => window.setTimeout(hear, ASK_AGAIN_MS));
  hear();
});

const ASK_AGAIN_MS = 4000;
