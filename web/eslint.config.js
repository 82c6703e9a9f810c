import js from "@eslint/js";
import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import boundaries from "eslint-plugin-boundaries";
import importX from "eslint-plugin-import-x";
import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import reactRefresh from "eslint-plugin-react-refresh";
import globals from "globals";
import tseslint from "typescript-eslint";

const LEAVES = ["ui", "words", "theme"];
/** Who may import whom: each floor those below it, everybody the leaves; screens never each other. */
const FLOORS = {
  app: ["app", "screens", "parts", "state", "questions", "engine", "api", ...LEAVES],
  screens: ["parts", "state", "questions", "api", ...LEAVES],
  parts: ["parts", "state", "questions", "engine", "api", ...LEAVES],
  state: ["state", "questions", "api", ...LEAVES],
  questions: ["questions", "api", ...LEAVES],
  engine: ["engine", "api"],
  api: ["api"],
  ui: ["ui", "api", "words", "theme"],
  words: ["words"],
  theme: ["theme"],
};

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts", "public", "eslint.config.js"] },
  js.configs.recommended,
  tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.strict,
  reactHooks.configs.flat["recommended-latest"],
  reactRefresh.configs.vite,
  {
    languageOptions: {
      globals: globals.browser,
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    plugins: { boundaries, "import-x": importX },
    settings: {
      "import/resolver": { typescript: true },
      "import-x/resolver-next": [createTypeScriptImportResolver()],
      // Without these two the cycle rule reads no TypeScript file and finds nothing, silently.
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
      "import-x/extensions": [".ts", ".tsx"],
      "boundaries/include": ["src/**/*"],
      "boundaries/dependency-nodes": ["import", "export", "dynamic-import"],
      "boundaries/elements": [
        { type: "screens", pattern: "src/screens/*", capture: ["screen"] },
        ...Object.keys(FLOORS)
          .filter((floor) => floor !== "screens")
          .map((floor) => ({ type: floor, pattern: `src/${floor}` })),
      ],
    },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "import-x/no-cycle": ["error", { ignoreExternal: true }],
      "boundaries/no-unknown-dependencies": "error",
      "boundaries/dependencies": [
        "error",
        {
          default: "disallow",
          checkInternals: true,
          policies: [
            ...Object.entries(FLOORS).map(([from, allowed]) => ({
              from: { element: { type: from } },
              allow: { to: { element: { type: allowed } } },
            })),
            {
              from: { element: { type: "screens" } },
              allow: {
                to: { element: { type: "screens", captured: { screen: "{{ from.element.captured.screen }}" } } },
              },
            },
          ],
        },
      ],
    },
  },
);
