import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";
import { ENGINE_FILES } from "./src/engine/protocol.ts";

/** Where the core and the standard library lie, made for a browser by tools/engine.py and tools/bytecode.mjs. */
const MADE = "../build/py/";
const CORE = `${MADE}core.zip`;

/** The engine's files beside the shell, and a list of what a page needs without a network. */
function takenAlong(): Plugin {
  const from = (name: string) => (name.endsWith(".zip") ? MADE + name : `node_modules/pyodide/${name}`);
  return {
    name: "taken-along",
    apply: "build",
    enforce: "post",
    generateBundle: {
      // After the chunks that held nothing but styles are gone: what is listed has to be there.
      order: "post",
      handler(_, bundle) {
        const shell = Object.keys(bundle).filter((name) => !name.endsWith(".html") && name !== "sw.js");
        let engine = 0;
        if (existsSync(CORE))
          for (const name of ENGINE_FILES) {
            const source = readFileSync(from(name));
            engine += source.byteLength;
            this.emitFile({ type: "asset", fileName: `py/${name}`, source });
          }
        const always = ["/light.js", "/pennant.svg", "/manifest.webmanifest", "/icon-192.png", "/icon-512.png"];
        const build = createHash("sha256")
          .update(shell.toSorted().join("\n"))
          .update(existsSync(CORE) ? readFileSync(CORE) : "")
          .digest("hex");
        const list = { build: build.slice(0, 16), engine, shell: [...shell.map((name) => `/${name}`), ...always] };
        this.emitFile({ type: "asset", fileName: "files.json", source: JSON.stringify(list) });
      },
    },
  };
}

/** Each piece that is fetched later is asked for before the module loader hears of it (`src/ui/piece.ts`). */
function piecesAskedFirst(): Plugin {
  return {
    name: "pieces-asked-first",
    apply: "build",
    enforce: "post",
    generateBundle: {
      // After the styles that belong to each have been found by its `import()`.
      order: "post",
      handler(_, bundle) {
        for (const chunk of Object.values(bundle))
          if (chunk.type === "chunk")
            chunk.code = chunk.code.replace(
              /\bimport\((["'`])(\.\/[\w.-]+\.js)\1\)/g,
              (_call, _quote, path: string) => `globalThis.jackstaffPiece("${path}",import.meta.url)`,
            );
      },
    },
  };
}

/** A screen that is not the first one. */
const SCREEN = /\/src\/screens\/(?!bench)([a-z]+)\//;
const isPage = (id: string) => !/\/(sw|worker)\.ts$/.test(id);
/**
 * In few files, because on a weak signal each is another wait: the libraries of the first view (the same from one build
 * to the next), the rest of it, the engine, what several others share, the dialogs, and each screen by itself.
 */
const FILES = [
  { name: "libraries", tags: ["$initial" as const], test: /node_modules/, priority: 5 },
  { name: "first", tags: ["$initial" as const], test: isPage, priority: 4 },
  { name: "engine", test: (id: string) => isPage(id) && /\/src\/engine\//.test(id), priority: 3.5 },
  { name: "shared", test: (id: string) => isPage(id) && !SCREEN.test(id), minShareCount: 2, priority: 3 },
  { name: "dialogs", test: (id: string) => isPage(id) && !SCREEN.test(id), priority: 2 },
  { name: (id: string) => SCREEN.exec(id)?.[1] ?? null, priority: 1 },
];

export default defineConfig({
  plugins: [react(), piecesAskedFirst(), takenAlong()],
  worker: { format: "es" },
  // Answers kept by one build are not taken for another's.
  define: { "import.meta.env.VITE_BUILD": JSON.stringify(process.env.SOURCE_DATE_EPOCH ?? String(Date.now())) },
  server: { proxy: { "/api": process.env.JACKSTAFF_API ?? "http://127.0.0.1:8001" } },
  css: {
    preprocessorOptions: {
      // Bootstrap's own sources still speak the older Sass.
      scss: { quietDeps: true, silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"] },
    },
  },
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    sourcemap: false,
    // Styles alone: a module that is asked for ahead and does not come is remembered as missing, too.
    modulePreload: {
      resolveDependencies: (_url, files, { hostType }) =>
        hostType === "html" ? files : files.filter((file) => file.endsWith(".css")),
    },
    rolldownOptions: {
      input: { main: "index.html", sw: "src/engine/sw.ts" },
      // The service worker's own name never changes: that is how a browser finds a newer one.
      output: {
        entryFileNames: ({ name }) => (name === "sw" ? "sw.js" : "assets/[name]-[hash].js"),
        codeSplitting: { groups: FILES },
      },
    },
  },
  test: {
    environment: "node",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["./test.setup.ts"],
    // No test judges how fast the machine is.
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
