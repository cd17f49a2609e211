/** Small things that a browser keeps for a person; where it keeps nothing, nothing is lost but comfort. */
const PREFIX = "neatveil.";

export function remember(name: string, value: string): void {
  try {
    window.localStorage.setItem(PREFIX + name, value);
  } catch {
    // private windows may refuse
  }
}

export function remembered(name: string): string | null {
  try {
    return window.localStorage.getItem(PREFIX + name);
  } catch {
    return null;
  }
}
