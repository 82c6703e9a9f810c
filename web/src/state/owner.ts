/** Whose browser this is just now; null for a guest. Set by the session, read by whoever writes frames. */
let name: string | null = null;

export function owner(): string | null {
  return name;
}

export function setOwner(account: string | null): void {
  name = account;
}
