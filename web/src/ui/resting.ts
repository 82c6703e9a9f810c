/** Whether a moment has only just changed (see Moment); keys and remotes ask this. */
export function isResting(): boolean {
  return document.querySelector(".moment[data-resting]") !== null;
}
