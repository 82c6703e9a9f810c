import type { PyodideInterface } from "pyodide";
import { ENGINE_URL, type FromEngine, type ToEngine } from "./protocol";

/** The core itself, asked in a worker: the same Python as the server's, in the same words. */

type Answer = (name: string, body: string) => [number, string];

/** What is used of the runtime's file system, which has no types of its own. */
interface Files {
  writeFile: (path: string, data: Uint8Array) => void;
}

async function boot(): Promise<{ answer: Answer; names: string[] }> {
  const at = new URL(ENGINE_URL, self.location.origin).href;
  const runtime = (await import(/* @vite-ignore */ `${at}pyodide.mjs`)) as {
    loadPyodide: (how: { indexURL: string }) => Promise<PyodideInterface>;
  };
  const [python, core] = await Promise.all([
    runtime.loadPyodide({ indexURL: at }),
    fetch(`${at}core.zip`).then((got) => {
      if (!got.ok) throw new Error(`core.zip: ${got.status}`);
      return got.arrayBuffer();
    }),
  ]);
  // Imported out of the archive as it is: unpacking six hundred time zones would take longer than all the rest.
  (python.FS as Files).writeFile("/core.zip", new Uint8Array(core));
  python.runPython("import sys; sys.path.insert(0, '/core.zip')");
  const answering = python.pyimport("jackstaff_core.answering") as {
    answer: (name: string, body: string) => { toJs: () => [number, string]; destroy: () => void };
    names: () => { toJs: () => string[] };
  };
  return {
    answer: (name, body) => {
      const found = answering.answer(name, body);
      const pair = found.toJs();
      found.destroy();
      return pair;
    },
    names: answering.names().toJs(),
  };
}

const say = (message: FromEngine) => self.postMessage(message);
const booted = boot();
booted.then(
  ({ names }) => say({ kind: "ready", names }),
  (error: unknown) => say({ kind: "failed", text: String(error) }),
);

self.addEventListener("message", ({ data }: MessageEvent<ToEngine>) => {
  void booted.then(({ answer }) => {
    try {
      const [status, text] = answer(data.name, data.body);
      say({ kind: "answer", id: data.id, status, text });
    } catch (error) {
      say({ kind: "answer", id: data.id, status: 500, text: JSON.stringify({ errors: [], trouble: String(error) }) });
    }
  });
});
