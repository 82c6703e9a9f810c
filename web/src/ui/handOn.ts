import { words } from "../words";
import { say } from "./say";

/** Whether this device has a sheet of its own to share by. */
export const sharesItself = (): boolean => typeof navigator.share === "function";

/** Copy a text, and say whether it went. */
export async function copyText(text: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    say({ text: words.handOn.copied });
  } catch {
    say({ text: words.handOn.notCopied });
  }
}

/** Hand a text on by the device's own sheet, else copy it. Whoever puts the sheet away has changed their mind. */
export async function handOn(data: { title: string; text: string }): Promise<void> {
  if (!sharesItself()) return copyText(data.text);
  await navigator.share(data).catch(() => undefined);
}
