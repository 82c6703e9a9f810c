/** The number typed, either decimal sign and either minus taken; undefined while it is none. */
export function typed(text: string): number | undefined {
  const number = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() === "" || Number.isNaN(number) ? undefined : number;
}

/** Seconds, or minutes and seconds, as a time [s]; null is none. */
export function typedSeconds(text: string): number | null {
  const parts = text.trim().split(":");
  if (parts.length > 3 || parts.some((part) => !/^\d{1,5}(\.\d)?$/.test(part))) return null;
  const seconds = parts.reduce((sum, part) => sum * 60 + Number(part), 0);
  return seconds <= 86_400 ? seconds : null;
}
