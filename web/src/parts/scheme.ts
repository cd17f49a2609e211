/** Light or dark: the system's setting until a person chooses. */
import { create } from "zustand";

type Scheme = "light" | "dark";
const KEY = "neatveil-scheme";
const system = window.matchMedia("(prefers-color-scheme: dark)");

function chosen(): Scheme | null {
  const value = localStorage.getItem(KEY);
  return value === "light" || value === "dark" ? value : null;
}

function apply(scheme: Scheme): Scheme {
  document.documentElement.dataset["scheme"] = scheme;
  return scheme;
}

export const useScheme = create<{ scheme: Scheme; toggle: () => void }>((set, get) => ({
  scheme: apply(chosen() ?? (system.matches ? "dark" : "light")),
  toggle: () => {
    const next = get().scheme === "light" ? "dark" : "light";
    localStorage.setItem(KEY, next);
    set({ scheme: apply(next) });
  },
}));

system.addEventListener("change", (event) => {
  if (chosen() === null) useScheme.setState({ scheme: apply(event.matches ? "dark" : "light") });
});
