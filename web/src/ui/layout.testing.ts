/** Radix measures itself; jsdom has no layout. */
import { vi } from "vitest";

export function stubLayout(): void {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
}
