// Controls of which a part lies outside the nearest box that cuts off, and panels that scroll sideways.
const wanted = "button, input, select, a, [role=slider], [role=combobox], label";
const name = (e) => (e.getAttribute("aria-label") || e.textContent.trim() || e.type || "").slice(0, 60);
const found = new Set();
for (const control of document.querySelectorAll(wanted)) {
  const r = control.getBoundingClientRect();
  const own = getComputedStyle(control);
  if (r.width === 0 || r.height === 0 || own.visibility === "hidden" || own.opacity === "0") continue;
  // rows of cards and lists scroll sideways on purpose
  if (control.closest("ol, ul, [role=menu], [data-pass]")) continue;
  if (r.right > innerWidth + 1 || r.left < -1) found.add(`beyond the window: ${name(control)}`);
  for (let box = control.parentElement; box && box !== document.body; box = box.parentElement) {
    const how = getComputedStyle(box).overflowX;
    if (how === "visible") continue;
    const b = box.getBoundingClientRect();
    if (r.left < b.left - 1 || r.right > b.right + 1) found.add(`outside its panel: ${name(control)}`);
    break;
  }
}
return [...found];
