/**
 * Give the focus to the first element of a selector as soon as there is one, unless somebody has gone on by then.
 * Returns how to give it up.
 */
export function focusOnceThere(selector: string): () => void {
  const found = () => {
    const element = document.querySelector<HTMLElement>(selector);
    if (!element) return false;
    const { activeElement } = document;
    // Where somebody has gone on already, nobody is called back.
    if (activeElement !== document.body && !activeElement?.closest("header, nav")) return true;
    element.tabIndex = -1;
    element.focus({ preventScroll: true });
    return true;
  };
  const seen = new MutationObserver(() => {
    if (found()) seen.disconnect();
  });
  if (!found()) seen.observe(document.body, { childList: true, subtree: true });
  return () => {
    seen.disconnect();
  };
}
