import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  server: { proxy: { "/api": process.env.JACKSTAFF_API ?? "http://127.0.0.1:8001" } },
  build: { target: "es2022", assetsInlineLimit: 0, sourcemap: false },
  test: { environment: "jsdom", include: ["src/**/*.test.{ts,tsx}"] },
});
