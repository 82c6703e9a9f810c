import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Fault = Schemas["Fault"];

/** A refusal of the server: where, what is wrong, what to give instead. */
export class Refused extends Error {
  readonly faults: Fault[];
  readonly status: number;

  constructor(status: number, faults: Fault[]) {
    super(faults.map((fault) => `${fault.problem} ${fault.instead}`).join(" "));
    this.status = status;
    this.faults = faults;
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {}

const csrf: Middleware = {
  onRequest({ request }) {
    const token = /(?:^|; )jackstaff_csrf=([^;]+)/.exec(document.cookie)?.[1];
    if (token && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

export const api = createClient<paths>({
  baseUrl: globalThis.location.origin,
  fetch: (request) => globalThis.fetch(request),
});
api.use(csrf);

/** The data of an answer, or a throw: Refused when the server said no, Unreachable when it said nothing. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Unreachable();
  }
  if (result.response.ok) return result.data as T;
  throw new Refused(result.response.status, (result.error as { errors?: Fault[] } | undefined)?.errors ?? []);
}
