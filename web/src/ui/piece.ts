/**
 * A piece of the program, asked for before the module loader hears of it. Several browsers remember for as long as the
 * page lives that a module could not be fetched, and never ask again; what was fetched here first comes from their cache.
 * The build puts this in the place of each `import()` (`vite.config.ts`).
 */

declare global {
  var jackstaffPiece: ((path: string, from: string) => Promise<unknown>) | undefined;
}

/** What a built module imports before it runs. */
const IMPORTS = /\b(?:from|import)\s*["'`](\.\/[\w.-]+\.js)["'`]/g;

const here = new Set<string>();

/** Ask for a module and all it imports; rejected where one of them cannot be had. */
async function ask(url: string): Promise<void> {
  if (here.has(url)) return;
  const asked = new Set([url]);
  let next = [url];
  while (next.length > 0) {
    const texts = await Promise.all(next.map(async (each) => [each, await textOf(each)] as const));
    const imported = texts.flatMap(([from, text]) =>
      [...text.matchAll(IMPORTS)].map(([, path = ""]) => new URL(path, from).href),
    );
    next = [...new Set(imported)].filter((each) => !asked.has(each) && !here.has(each));
    next.forEach((each) => asked.add(each));
  }
  asked.forEach((each) => here.add(each));
}

async function textOf(url: string): Promise<string> {
  const answer = await fetch(url);
  if (!answer.ok) throw new TypeError(`${url} was answered with ${answer.status}.`);
  return answer.text();
}

/** Let every `import()` of the built page be asked for first. */
export function askForPiecesFirst(): void {
  // What the page began with has come.
  for (const part of document.querySelectorAll<HTMLScriptElement | HTMLLinkElement>(
    "script[type=module][src], link[rel=modulepreload]",
  ))
    here.add("src" in part ? part.src : part.href);
  globalThis.jackstaffPiece = async (path, from) => {
    const url = new URL(path, from).href;
    await ask(url);
    return import(/* @vite-ignore */ url) as Promise<unknown>;
  };
}
