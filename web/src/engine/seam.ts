import { transport } from "../api/client";
import { type Engines, takesLong } from "./engines";

interface Asking {
  name: string;
  body: string;
}

/** How long the server has before the engine is asked as well [ms]: a key press, and what takes long anywhere. */
const PATIENCE_MS = { quick: 150, long: 1200 };
/** How long a server that was not there is not waited for again [ms]. */
const GONE_MS = 15_000;

/** The question in a request, as the core's table knows it; null for everything that only a server can answer. */
export async function questionIn(request: Request, names: ReadonlySet<string>): Promise<Asking | null> {
  const { pathname, searchParams } = new URL(request.url);
  const name = pathname.replace(/^\/api\//, "");
  if (!names.has(name)) return null;
  if (request.method === "POST") return { name, body: await request.clone().text() };
  if (request.method !== "GET" || searchParams.size === 0) return null;
  // What is asked by an address is text; numbers in it are numbers.
  const fields = [...searchParams].map(([key, text]) => [
    key,
    text !== "" && Number.isFinite(Number(text)) ? Number(text) : text,
  ]);
  return { name, body: JSON.stringify(Object.fromEntries(fields)) };
}

function isQuestion({ method, headers }: Request): boolean {
  return method === "GET" || (headers.get("Content-Type")?.startsWith("application/json") ?? false);
}

/** The engine as far as it is: there, or on its way once somebody needs it. */
export interface Beside {
  there: () => Engines | null;
  coming: () => Promise<Engines>;
  /** Told whether the server was there when it was last asked. */
  onSignal: (signal: boolean) => void;
}

/**
 * Let the engine answer what needs no account where the server does not, or not soon: whoever asks never sees which.
 * What comes back takes the seam out again.
 */
export function answerBeside({ there, coming, onSignal }: Beside): () => void {
  const before = transport.fetch;
  const served = async (request: Request) => {
    const got = await before(request);
    if (isNobody(request, got)) throw new TypeError("nobody of ours answered");
    return got;
  };
  /** The same, with an end to silence. */
  const inTime = (request: Request) => {
    let timer = 0;
    const silence = new Promise<never>((_, reject) => {
      timer = window.setTimeout(() => reject(new TypeError("silence")), SILENCE_MS);
    });
    return Promise.race([served(request), silence]).finally(() => window.clearTimeout(timer));
  };
  let goneUntil = 0;
  const onAbort = () => {
    goneUntil = Date.now() + GONE_MS;
    onSignal(false);
  };
  const missing = (request: Request, error: unknown) => {
    request.signal.throwIfAborted();
    // Only silence is the engine's business; a server that answers badly is told as it is.
    if (!(error instanceof TypeError)) throw error;
    onAbort();
  };
  const here = async (engine: Engines, { name, body }: Asking, signal: AbortSignal) => {
    const { status, text } = await engine.ask(name, body, signal);
    signal.throwIfAborted();
    return new Response(text, { status, headers: { "Content-Type": "application/json" } });
  };
  const back = () => {
    if (goneUntil === 0) return;
    goneUntil = 0;
    // The next question may be long in coming: whether somebody answers again is asked at once.
    void served(new Request(new URL("/api/health", location.href))).then(
      () => onSignal(true),
      () => undefined,
    );
  };
  window.addEventListener("online", back);
  transport.fetch = async (request) => {
    // A picture or an archive is no question, and not held twice.
    if (!isQuestion(request)) return served(request);
    const copy = request.clone();
    const engine = there();
    if (!engine) {
      try {
        const got = await inTime(request);
        onSignal(true);
        return got;
      } catch (error) {
        missing(request, error);
        const arrived = await coming().catch(() => null);
        const late = arrived && (await questionIn(copy, arrived.names));
        if (!arrived || !late) throw error;
        return here(arrived, late, request.signal);
      }
    }
    const asking = await questionIn(copy, engine.names);
    if (!asking) return inTime(request);
    const ours = () => here(engine, asking, request.signal);
    if (Date.now() < goneUntil || !navigator.onLine) return ours();
    const theirs = inTime(request);
    const slow = new Promise<"slow">((resolve) =>
      setTimeout(() => resolve("slow"), takesLong(asking.name) ? PATIENCE_MS.long : PATIENCE_MS.quick),
    );
    try {
      const first = await Promise.race([theirs, slow]);
      if (first !== "slow") {
        onSignal(true);
        // A server that has its hands full, or whose records fail, need not be asked for a sum.
        return first.status === BUSY ? await ours() : first;
      }
    } catch (error) {
      missing(request, error);
      return ours();
    }
    // What comes of it is worth knowing, whoever was quicker.
    theirs.then(
      () => onSignal(true),
      (error: unknown) => error instanceof TypeError && !request.signal.aborted && onAbort(),
    );
    return Promise.any([theirs, ours()]).catch(() => theirs);
  };
  return () => {
    window.removeEventListener("online", back);
    transport.fetch = before;
  };
}

/** How long nobody says anything before it is taken that nobody is there [ms]. */
const SILENCE_MS = 15_000;
const BUSY = 503;
const GATEWAY = new Set([502, 503, 504]);

/** Whether it was not our server that answered, but a gateway with nobody behind it, or a page of somebody on the way. */
function isNobody({ url }: Request, got: Response): boolean {
  if (!new URL(url).pathname.startsWith("/api/")) return false;
  const type = got.headers.get("Content-Type") ?? "";
  return GATEWAY.has(got.status) ? !type.includes("json") : type.startsWith("text/html");
}
