/** Where the runtime and the core lie, beside the shell. */
export const ENGINE_URL = "/py/";
/** What is fetched to take the engine along. */
export const ENGINE_FILES = [
  "pyodide.mjs",
  "pyodide.asm.mjs",
  "pyodide.asm.wasm",
  "python_stdlib.zip",
  "pyodide-lock.json",
  "core.zip",
];

export interface ToEngine {
  id: number;
  name: string;
  body: string;
}

export type FromEngine =
  | { kind: "ready"; names: string[] }
  | { kind: "failed"; text: string }
  | { kind: "answer"; id: number; status: number; text: string };
