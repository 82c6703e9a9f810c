import type { Change, Copy } from "../questions/account";

type Held = { kind: Copy["kind"]; id: string; number: number; content: object | null; write: string };
type Moment = "answer" | "away" | "lost" | "broken";

/** An account's server as a page sees it: it counts changes, and can be away, lose answers or break. */
export class AccountServer {
  session: { signed_in: boolean; account: number | null; username: string | null; demo: boolean } = {
    signed_in: true,
    account: 1,
    username: "edda",
    demo: false,
  };
  held: Held[] = [];
  head = 0;
  /** Which count this is; a copy that was put back begins another, and shares numbers up to a point with those before. */
  epoch = "e0";
  shared: Record<string, number> = {};
  /** What the next requests meet, in turn; after that it answers. */
  moments: Moment[] = [];
  /** Every parcel that arrived, whether or not it was answered. */
  parcels: Change[][] = [];
  asked: string[] = [];
  /** Whether the results of a parcel stand in another order than what was sent. */
  backwards = false;
  refuses: (change: Change) => string | null = () => null;

  put(kind: Copy["kind"], id: string, content: object | null): void {
    this.head += 1;
    this.held = [...this.held.filter((held) => held.id !== id), { kind, id, number: this.head, content, write: "" }];
  }

  /** A copy of now, to be put back later. */
  copy(): () => void {
    const [held, head] = [[...this.held], this.head];
    return () => {
      this.shared[this.epoch] = head;
      [this.held, this.head, this.epoch] = [[...held], head, `${this.epoch}+`];
    };
  }

  fetch = async (request: Request): Promise<Response> => {
    const { pathname, searchParams } = new URL(request.url);
    this.asked.push(`${request.method} ${pathname}`);
    const moment = this.moments.shift() ?? "answer";
    if (moment === "away") throw new TypeError("nobody there");
    if (moment === "broken") return new Response("<h1>Bad gateway</h1>", { status: 502 });
    const response = await this.answer(request, pathname, searchParams);
    if (moment === "lost") throw new TypeError("the answer was lost");
    return response;
  };

  private async answer(request: Request, path: string, search: URLSearchParams): Promise<Response> {
    if (path === "/api/session") {
      if (request.method === "DELETE") this.session = { signed_in: false, account: null, username: null, demo: false };
      return Response.json(this.session);
    }
    const named = request.headers.get("X-Jackstaff-Account");
    const { account } = this.session;
    const fault = (status: number) =>
      Response.json({ errors: [{ field: "account", problem: "Not you.", instead: "Sign in." }] }, { status });
    if (account === null) return fault(401);
    if (named !== null && named !== String(account)) return fault(409);
    if (request.method === "GET") {
      const known = search.get("epoch");
      const { epoch, head } = this;
      if (known !== null && known !== epoch) {
        const shared = this.shared[known] ?? 0;
        return Response.json({ account, epoch, shared, head, until: shared, documents: [] });
      }
      const since = Number(search.get("since"));
      const documents = this.held
        .filter((held) => held.number > since)
        .toSorted((a, b) => a.number - b.number)
        .slice(0, 2);
      const until = documents.length === 2 ? (documents.at(-1)?.number ?? this.head) : this.head;
      return Response.json({ account, epoch, head, until, documents: documents.map(copyOf) });
    }
    const body = (await request.json()) as { account: number; epoch?: string; documents: Change[] };
    if (body.account !== account) return fault(409);
    if (body.epoch && body.epoch !== this.epoch) return fault(412);
    this.parcels.push(body.documents);
    const results = body.documents.map((change) => {
      const why = this.refuses(change);
      if (why !== null)
        return { write: change.write, held: null, refused: [{ field: "x", problem: why, instead: "Change it." }] };
      if (!this.held.some((known) => known.write === change.write)) {
        this.put(change.kind, change.id, change.content);
        const last = this.held.at(-1);
        if (last) last.write = change.write;
      }
      const held = this.held.find((known) => known.id === change.id);
      return { write: change.write, held: held && copyOf(held), refused: [] };
    });
    const { epoch, head } = this;
    return Response.json({ account, epoch, head, results: this.backwards ? results.toReversed() : results });
  }
}

function copyOf({ kind, id, number, content }: Held) {
  return { kind, id, number, content, changed_at: "2027-04-17T05:00:00Z" };
}
