import { useEffect, useState } from "react";

export type Theme = "daylight" | "lamp";
const KEY = "upper-shed-theme";

const stored = (): Theme => {
  try {
    return localStorage.getItem(KEY) === "lamp" ? "lamp" : "daylight";
  } catch {
    return "daylight";
  }
};

/** The theme of this device. */
export const useTheme = (): [Theme, () => void] => {
  const [theme, setTheme] = useState<Theme>(stored);
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
    try {
      localStorage.setItem(KEY, theme);
    } catch {
      // A device that keeps nothing starts in daylight next time.
    }
  }, [theme]);
  return [theme, () => setTheme((now) => (now === "lamp" ? "daylight" : "lamp"))];
};
