import { useState } from "react";

/** The three lights one reads this by. The page's first script sets it before anything is painted. */
export type Light = "noon" | "dusk" | "red";

export const LIGHTS: Light[] = ["noon", "dusk", "red"];

export function nextLight(light: Light): Light {
  return LIGHTS[(LIGHTS.indexOf(light) + 1) % LIGHTS.length] ?? "noon";
}

/** What the browser draws around the page takes the page's ground. */
export function colourTheWindow(): void {
  const ground = getComputedStyle(document.documentElement).getPropertyValue("--ground").trim();
  document.querySelector("meta[name=theme-color]")?.setAttribute("content", ground);
}

export function useLight(): [Light, (light: Light) => void] {
  const [light, setLight] = useState(() => (document.documentElement.dataset.light ?? "noon") as Light);
  const change = (chosen: Light) => {
    document.documentElement.dataset.light = chosen;
    document.documentElement.dataset.bsTheme = chosen === "noon" ? "light" : "dark";
    document.cookie = `jackstaff_light=${chosen}; path=/; max-age=31536000; samesite=lax`;
    setLight(chosen);
    colourTheWindow();
  };
  return [light, change];
}
