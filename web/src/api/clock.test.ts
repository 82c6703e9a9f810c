import { describe, expect, it, vi } from "vitest";
import { clockOff, hearClock, onClock } from "./clock";

const asked = (method: string) => new Request("http://localhost/api/exposure", { method });
const at = (stamp: string | null) => new Response(null, stamp === null ? {} : { headers: { Date: stamp } });

describe("how this clock stands to the server's", () => {
  it("is learnt from an answer nobody can have kept, as near as its stamp and its way allow", () => {
    vi.useFakeTimers({ now: Date.parse("2027-04-17T04:00:10.400Z") });
    const told = vi.fn();
    onClock(told);
    const sent = Date.now() - 400;
    // Kept answers, answers without a stamp and slow ones tell nothing.
    hearClock(asked("GET"), at("Sat, 17 Apr 2027 03:00:00 GMT"), sent);
    hearClock(asked("POST"), at(null), sent);
    hearClock(asked("POST"), at("nonsense"), sent);
    hearClock(asked("POST"), at("Sat, 17 Apr 2027 03:00:00 GMT"), Date.now() - 5000);
    expect(clockOff()).toBeNull();
    hearClock(asked("POST"), at("Sat, 17 Apr 2027 03:59:00 GMT"), sent);
    expect(clockOff()).toEqual({ ahead: 69_700, within: 700 });
    // The same again is no news; a clock that has been set is.
    hearClock(asked("POST"), at("Sat, 17 Apr 2027 03:59:00 GMT"), sent);
    expect(told).toHaveBeenCalledTimes(1);
    hearClock(asked("POST"), at("Sat, 17 Apr 2027 04:00:10 GMT"), sent);
    expect(clockOff()?.ahead).toBe(-300);
    expect(told).toHaveBeenCalledTimes(2);
    vi.useRealTimers();
  });
});
