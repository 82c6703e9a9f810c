import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  server: { proxy: { "/api": process.env.JACKSTAFF_API ?? "http://127.0.0.1:8001" } },
  // One file of some 600 kB, sent compressed from the same machine, starts sooner than several.
  build: { target: "es2022", assetsInlineLimit: 0, sourcemap: false, chunkSizeWarningLimit: 800 },
  test: { environment: "jsdom", include: ["src/**/*.test.{ts,tsx}"] },
});
