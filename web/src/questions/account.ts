import { answer, api, writeToken, type Schemas } from "../api/client";
import { useAsk } from "./ask";

export type Session = Schemas["Session"];
export type Start = Schemas["StartAnswer"];
export type Copy = Schemas["ChangesAnswer"]["documents"][number];
export type Change = Schemas["ChangeInput"];

/** Who is here and what they own, the starter, and the answer to its question: all a first visit needs. */
export function askStart(): Promise<Start> {
  return answer(api.GET("/api/start"));
}

export function askSession(): Promise<Session> {
  return answer(api.GET("/api/session"));
}

export async function askSignIn(username: string, password: string): Promise<Session> {
  // A page painted from what it remembers can be signed in on before the first answer has brought the token.
  if (writeToken() === undefined) await askSession();
  return answer(api.POST("/api/session", { body: { username, password } }));
}

export function askSignOut(): Promise<Session> {
  return answer(api.DELETE("/api/session"));
}

export function askPassword(current: string, next: string): Promise<Session> {
  return answer(api.POST("/api/account/password", { body: { current, new: next } }));
}

/** Sign every other browser of this account out. */
export function askElsewhere(): Promise<Session> {
  return answer(api.POST("/api/account/elsewhere"));
}

export function askEnd(password: string): Promise<Session> {
  return answer(api.POST("/api/account/end", { body: { password } }));
}

/** Where a phone finds this server, and the code to point its camera at. */
export function usePhone() {
  return useAsk("phone", {}, (_, signal) => answer(api.GET("/api/phone", { signal }))).shown;
}

/** What has changed in the account since a number. */
export function askChanges(since: number, limit: number, epoch: string | null): Promise<Schemas["ChangesAnswer"]> {
  return answer(api.GET("/api/replica", { params: { query: { since, limit, epoch } } }));
}

/** Send what was written here. */
export function sendChanges(
  account: number,
  documents: Change[],
  epoch: string | null,
): Promise<Schemas["ChangesResult"]> {
  return answer(api.POST("/api/replica", { body: { account, epoch, documents } }));
}
