import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/barlow/latin-600.css";
import "@fontsource/barlow/latin-700.css";
import "bootstrap/dist/css/bootstrap.min.css";
import "./theme/lights.css";
import "./theme/controls.css";
import "./app/app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Refused } from "./api/client";
import { App } from "./app/App";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // A refusal stays a refusal; silence is asked again.
      retry: (failures, error) => !(error instanceof Refused) && failures < 2,
      networkMode: "always",
      refetchOnWindowFocus: false,
    },
  },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
