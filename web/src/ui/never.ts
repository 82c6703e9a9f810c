/** For questions that are only asked once they exist. */
export function never(): never {
  throw new Error("asked without a question");
}
