import { small } from "../api/small";
/** Day or night, kept on this device; follows the system until chosen. */
const KEY = "lodeline-night";

export const isNight = (): boolean => {
  const kept = small.get(KEY);
  return kept === null ? window.matchMedia("(prefers-color-scheme: dark)").matches : kept === "1";
};

export const applyNight = (night: boolean): void => {
  document.documentElement.classList.toggle("dark", night);
  document.documentElement.classList.toggle("light", !night);
  document.documentElement.style.colorScheme = night ? "dark" : "light";
};

export const keepNight = (night: boolean): void => {
  small.set(KEY, night ? "1" : "0");
  applyNight(night);
};
