export const account = {
  password: "Change password",
  current: "Password until now",
  next: "New password",
  nextHow: "Eight letters or more, none that everybody uses. Everybody signed in elsewhere is signed out.",
  change: "Change it",
  changed: "Your password is changed. Other browsers are signed out.",
  elsewhere: "Sign out everywhere else",
  elsewhereDone: "Every other browser is signed out.",
  end: "Delete account",
  endWhy:
    "This erases your log, pictures, bag, outings and looks, here and on the server, for good. Save everything first: it comes back into any account.",
  save: "Save everything as a file",
  saved: "Saved. Look at the file before you go on.",
  sure: "I have what I want to keep",
  proof: "Your password",
  erase: "Erase everything",
  ended: "The account is gone, with everything in it.",
  back: "Back",
  phone: {
    title: "Open on my phone",
    onlyHere:
      "This server answers this machine alone. Whoever looks after it can serve phones with make serve (docs/phone.md).",
    code: (address: string) => `A code for a phone's camera: ${address}`,
    point: "Point the phone's camera here, or type",
    trust: "The first time the phone has to trust this server:",
    certificate: "its certificate",
  },
};
