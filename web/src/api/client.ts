import createClient, { type Middleware } from "openapi-fetch";
import { hearClock } from "./clock";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Fault = Schemas["Fault"];

/** A refusal: where, what is wrong, what to give instead. */
export class Refused extends Error {
  readonly faults: Fault[];
  readonly status: number;

  constructor(status: number, faults: Fault[]) {
    super(faults.map((fault) => `${fault.problem} ${fault.instead}`).join(" "));
    this.status = status;
    this.faults = faults;
  }
}

/** No answer that means anything: nobody was there, or whoever was there could not. */
export class Unreachable extends Error {
  /** What came back instead of an answer, null when nothing came. */
  readonly status: number | null;

  constructor(status: number | null = null) {
    super();
    this.status = status;
  }
}

/** Who answers. Whatever can answer a request may take the server's place here; nothing else is told. */
export const transport = { fetch: (request: Request): Promise<Response> => globalThis.fetch(request) };

/** The account that this page shows: named with each request, so that a write meant for one never lands in another. */
const shown: { account: number | null } = { account: null };

export function nameAccount(account: number | null): void {
  shown.account = account;
}

/** What a write must echo; the first answer of the server brings it. */
export function writeToken(): string | undefined {
  return /(?:^|; )jackstaff_csrf=([^;]+)/.exec(document.cookie)?.[1];
}

const named: Middleware = {
  onRequest({ request }) {
    const token = writeToken();
    if (token && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    if (shown.account !== null) request.headers.set("X-Jackstaff-Account", String(shown.account));
    return request;
  },
};

export const api = createClient<paths>({
  baseUrl: globalThis.location.origin,
  fetch: async (request) => {
    const from = Date.now();
    const got = await transport.fetch(request);
    hearClock(request, got, from);
    return got;
  },
});
api.use(named);

/** The data of an answer, or a throw: Refused where the answer is no, Unreachable where there is none. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Unreachable();
  }
  const { response } = result;
  if (response.ok) return result.data as T;
  const faults = (result.error as { errors?: Fault[] } | undefined)?.errors;
  if (!faults || faults.length === 0) throw new Unreachable(response.status);
  throw new Refused(response.status, faults);
}
