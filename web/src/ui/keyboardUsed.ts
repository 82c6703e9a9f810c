/** Marks the page once somebody has pressed a key in it: from then on the keys of filters are shown. */
export function noteKeyboard(): void {
  document.addEventListener("keydown", () => (document.documentElement.dataset.keyboard = ""), { once: true });
}
