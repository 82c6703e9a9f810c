/** The browser's own voice, where it has one that needs no network. */

function voice(): SpeechSynthesisVoice | undefined {
  if (!("speechSynthesis" in window)) return undefined;
  const local = window.speechSynthesis.getVoices().filter((each) => each.localService);
  return local.find((each) => each.lang.startsWith("en")) ?? local[0];
}

export function hasVoice(): boolean {
  return voice() !== undefined;
}

/** Say it at once; what is still being said is cut off, so that the clock does not lag. */
export function speak(text: string): void {
  const by = voice();
  if (!by) return;
  const said = new SpeechSynthesisUtterance(text);
  said.voice = by;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(said);
}

/** Tell when the voices have come: most browsers fetch them late. */
export function onVoices(tell: () => void): () => void {
  if (!("speechSynthesis" in window)) return () => undefined;
  window.speechSynthesis.addEventListener("voiceschanged", tell);
  return () => window.speechSynthesis.removeEventListener("voiceschanged", tell);
}
