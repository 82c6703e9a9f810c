/** A notice of the system's own, for whoever has put the page away. */

export type MayNotify = "yes" | "ask" | "no";

export function mayNotify(): MayNotify {
  if (typeof Notification === "undefined") return "no";
  return { granted: "yes", default: "ask", denied: "no" }[Notification.permission] as MayNotify;
}

/** Ask for it; must be called from a press. */
export async function askToNotify(): Promise<MayNotify> {
  await Notification.requestPermission();
  return mayNotify();
}

/** Say it, unless the page is looked at; by the service worker where there is one, which a phone's browser asks for. */
export async function notify(title: string, body: string): Promise<void> {
  if (document.visibilityState === "visible" || mayNotify() !== "yes") return;
  const how = { body, tag: "jackstaff-end", icon: "/icon-192.png", requireInteraction: true };
  try {
    const registered = await navigator.serviceWorker.getRegistration();
    if (registered) await registered.showNotification(title, how);
    else new Notification(title, how);
  } catch {
    // The bell and the edge say it as well.
  }
}
