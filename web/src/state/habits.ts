/** Small habits of this browser's person: how long the lead-in is, who closes the shutter. */
const LEAD_UNDER = "jackstaff.lead";
const CLOSING_UNDER = "jackstaff.closing";

export function leadIn(): number {
  return Number(localStorage.getItem(LEAD_UNDER) ?? 2);
}

export function rememberLead(seconds: number): void {
  localStorage.setItem(LEAD_UNDER, String(seconds));
}

/** A dial time closes itself; in bulb it is a hand unless the person said otherwise last time. */
export function closesAt(onDial: boolean): "hand" | "mark" {
  if (onDial) return "mark";
  return localStorage.getItem(CLOSING_UNDER) === "mark" ? "mark" : "hand";
}

export function rememberClosing(closing: "hand" | "mark"): void {
  sessionStorage.setItem(CLOSING_UNDER, closing);
  localStorage.setItem(CLOSING_UNDER, closing);
}

/** Who closes the exposure that is running now. */
export function closingNow(): "hand" | "mark" {
  return (sessionStorage.getItem(CLOSING_UNDER) ?? localStorage.getItem(CLOSING_UNDER)) === "mark" ? "mark" : "hand";
}
