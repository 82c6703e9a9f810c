import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  // Answers kept by one build are not taken for another's.
  define: { "import.meta.env.VITE_BUILD": JSON.stringify(process.env.SOURCE_DATE_EPOCH ?? String(Date.now())) },
  server: { proxy: { "/api": process.env.JACKSTAFF_API ?? "http://127.0.0.1:8001" } },
  css: {
    preprocessorOptions: {
      // Bootstrap's own sources still speak the older Sass.
      scss: { quietDeps: true, silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"] },
    },
  },
  build: { target: "es2022", assetsInlineLimit: 0, sourcemap: false },
  test: { environment: "node", include: ["src/**/*.test.{ts,tsx}"], setupFiles: ["./test.setup.ts"] },
});
