/** The theme and the size of everything, kept in this browser. */

import { create } from "zustand";

export type Theme = "paper" | "slate";
export type Size = "usual" | "large";

interface Appearance {
  theme: Theme;
  size: Size;
  set: (change: Partial<Pick<Appearance, "theme" | "size">>) => void;
}

const KEY = "hob-appearance";

function kept(): { theme: Theme; size: Size } {
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Appearance>;
    return { theme: found.theme === "slate" ? "slate" : "paper", size: found.size === "large" ? "large" : "usual" };
  } catch {
    return { theme: "paper", size: "usual" };
  }
}

export const useAppearance = create<Appearance>((set, get) => ({
  ...kept(),
  set: (change) => {
    set(change);
    const { theme, size } = get();
    localStorage.setItem(KEY, JSON.stringify({ theme, size }));
    applyAppearance();
  },
}));

/** Writes the appearance to the page. */
export function applyAppearance(): void {
  const { theme, size } = useAppearance.getState();
  document.documentElement.dataset["theme"] = theme;
  document.documentElement.dataset["size"] = size;
}
