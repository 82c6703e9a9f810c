/** Words of the quick drills. */
export const practice = {
  title: "Practice",
  why: "One small question at a time, from your own filters, worked out by the bench itself. Nothing here goes into your log.",
  kinds: {
    dial: "Stops along the dial",
    notation: "What a rim says",
    stack: "Stacks",
    trade: "F-stop and ISO",
    one_reading: "One reading remembered",
    light: "Light that moves",
    plausible: "Can that be?",
    defect: "What went wrong",
  },
  how: {
    time: "As you would say it: 1/4, 8 s, 2m08",
    stops: "A number of stops: 10, or 6 2/3",
  },
  answer: "Your answer",
  check: "Check",
  next: "Next question",
  due: (n: number) =>
    n === 0 ? "Nothing is due: this one is the nearest." : n === 1 ? "1 kind is due." : `${n} kinds are due.`,
  choices: "Choose one, or press its number",
  pictured: "A frame with one fault",
  staff: "The sum, on the staff",
  progress: "How it sits",
  none: "not asked yet",
  again: (when: string) => `again ${when}`,
  now: "again now",
  lately: (right: number, of: number) => `${right} of the last ${of} right`,
  source: "Kinds that sit are asked more seldom, by Leitner's boxes (1972); faults of your own log come up more often.",
};
