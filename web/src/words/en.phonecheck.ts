/** Words of the phone that is tried before it goes into the field: what was found, and what to do about it. */
type Found = [found: string, cure?: string];

const rows = {
  bell: {
    works: ["You heard it."],
    refused: ["The browser makes no sound.", "Allow sound for this page, then try again."],
    not_heard: [
      "You did not hear it.",
      "Turn the volume up and silent mode off. Until it is heard, watch the flashing edge of the screen.",
    ],
  },
  vibration: {
    works: ["You felt it."],
    absent: ["This browser cannot vibrate.", "Rely on the bell and the flashing edge."],
    not_felt: ["You did not feel it.", "Rely on the bell, or look for vibration in the phone's settings."],
  },
  awake: {
    works: ["The screen stays on while a shutter is open."],
    absent: ["This browser lets the screen go dark.", "Set the phone's own screen time-out to never before you go."],
    refused: [
      "The phone would not keep the screen on.",
      "Switch the battery saver off, or set the phone's own screen time-out to never.",
    ],
    lost: [
      "The phone took it back after a moment.",
      "Switch the battery saver off, or set the phone's own screen time-out to never.",
    ],
  },
  notices: {
    works: ["A notice comes when you look elsewhere."],
    absent: ["This browser gives no notices.", "Keep the page in view towards the end of a frame."],
    denied: ["Notices are switched off for this page.", "Allow them in the browser's settings for this page."],
    unanswered: ["You have not allowed notices yet.", "Try again and allow them, or keep the page in view."],
  },
  storage: {
    works: ["The browser promises to keep your log."],
    refused: [
      "The browser may clear your log when space is short.",
      "Put the page on the home screen, then try again; sign in, so that the account has a copy.",
    ],
    insecure: ["Nothing is promised on an insecure page.", "Open the page over https; see docs/phone.md."],
  },
  along: {
    works: ["All of it is here: no signal is needed."],
    not_taken: ["It is not taken along yet.", "Press Use offline while there is a signal."],
    incomplete: ["A part of it is missing here.", "Press Use offline again with a good signal."],
    insecure: ["An insecure page cannot be taken along.", "Open the page over https; see docs/phone.md."],
  },
  camera: {
    holds: ["It holds its exposure: it can watch the light."],
    tells: ["It tells its exposure: it can watch the light."],
    tells_nothing: [
      "It neither holds nor tells its exposure.",
      "It cannot watch the light. Meter again on the way, or let the outing's light count.",
    ],
    insecure: ["No camera on an insecure page.", "Open the page over https; see docs/phone.md."],
    refused: ["The camera is not allowed.", "Allow it in the address bar to let the phone watch the light."],
    none: ["There is no camera.", "Meter again on the way, or let the outing's light count."],
    busy: ["Another application has the camera.", "Close it there, then try again."],
  },
  away: {
    works: ["It was put away for a minute, stayed, and rang."],
    silent: [
      "It stayed, but no bell was heard.",
      "Keep the page in view towards the end of a frame, or take it out of the battery saver.",
    ],
    thrown: [
      "The browser threw the page away.",
      "The frame goes on by the clock, but nothing rings: keep the page in view, and close other applications.",
    ],
  },
  clock: {
    works: ["It agrees with the server's."],
    off: ["", "Let the phone set its clock by itself, or see which of the two is right."],
    unknown: ["No server has told the time yet.", "Try again with a signal."],
  },
} satisfies Record<string, Record<string, Found>>;

export const phoneCheck = {
  title: "Check this phone",
  why: "Thirty seconds, before your first dawn. The browser will ask for notices and for the camera; no picture is kept.",
  start: "Try everything",
  again: "Try everything again",
  trying: "Trying …",
  untried: "Not tried.",
  names: {
    bell: "End bell",
    vibration: "Vibration",
    awake: "Screen",
    notices: "Notices",
    storage: "Your log",
    along: "Without a signal",
    camera: "Camera",
    away: "Put away",
    clock: "Clock",
  },
  rows: rows as Record<keyof typeof rows, Record<string, Found>>,
  marks: { works: "works", fails: "fails", absent: "not there" },
  asked: { bell: "Did you hear the bell?", vibration: "Did it shake?", away: "Did it ring while it was away?" },
  yes: "Yes",
  no: "No",
  take: "Use offline",
  awayWhy: "Put the phone in your pocket for a minute: does the page stay, and does it ring?",
  awayStart: "Put it away now",
  awayGo: "Lock the phone or go to another application. Come back when it has rung, or after a minute.",
  awayEarly: (seconds: number) => `You came back after ${seconds} s. It rings after a minute: put it away once more.`,
  rang: "A minute is over. Come back.",
  off: (gap: string, ahead: boolean) => `It is ${gap} ${ahead ? "ahead of" : "behind"} the server's.`,
  at: (when: string) => `Tried ${when}.`,
  save: "Save as text",
  file: "jackstaff-phone.txt",
  heading: (when: string) => `Jackstaff on this phone, tried ${when}`,
  close: "Close",
  failing: "What fails on this phone:",
  more: "What to do",
  never: "Check this phone before a long frame",
};
