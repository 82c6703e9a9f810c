import { lazily } from "../../ui/lazily";

/** The check, fetched when somebody wants it. */
export const PhoneCheck = lazily(async () => (await import("./PhoneCheck")).PhoneCheck, true);
