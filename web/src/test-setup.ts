import "@testing-library/jest-dom/vitest";

// jsdom knows no widths: every page is wide, and light
window.matchMedia = () =>
  ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined }) as never;
