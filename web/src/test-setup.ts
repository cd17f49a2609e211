import "@testing-library/jest-dom/vitest";

// jsdom knows no widths: every page is wide, and light
window.matchMedia = () =>
  ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined }) as never;

// Two neighbours of one key: React keeps the wrong one on the page. It only says so here.
const say = console.error;
console.error = (...said: unknown[]) => {
  if (String(said[0]).includes("two children with the same key"))
    throw new Error(`Neighbours share the key ${String(said[1])}.`);
  say(...said);
};
