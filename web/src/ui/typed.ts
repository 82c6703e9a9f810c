/** The number typed, either decimal sign and either minus taken; undefined while it is none. */
export function typed(text: string): number | undefined {
  const number = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() === "" || Number.isNaN(number) ? undefined : number;
}
