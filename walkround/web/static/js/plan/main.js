// The plan of a field: pan, zoom, drag, taps, keys.

import "./keys.js";
import { begin, end, lower, move } from "./hand.js";
import { pick } from "./send.js";
import { state } from "./state.js";
import { drawTaps, sendTaps, shape } from "./taps.js";
import { draw, fit, say, zoom } from "./view.js";

const fingers = new Map();

const spread = () => {
  const [a, b] = [...fingers.values()];
  return { wide: Math.hypot(a.x - b.x, a.y - b.y), x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
};

document.addEventListener("pointerdown", (event) => {
  if (!state.svg || !state.svg.contains(event.target) || event.button > 0) return;
  fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
  state.svg.setPointerCapture(event.pointerId);
  if (fingers.size === 1) begin(event);
  else { lower(); state.drag = null; }
});
document.addEventListener("pointermove", (event) => {
  if (!fingers.has(event.pointerId)) return;
  if (fingers.size === 2) {
    const before = spread();
    fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
    const now = spread();
    state.view.x -= (now.x - before.x) * state.view.mpp;
    state.view.y -= (now.y - before.y) * state.view.mpp;
    zoom(now.wide / Math.max(1, before.wide), now);
    return;
  }
  fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
  if (state.drag) move(event);
});
for (const name of ["pointerup", "pointercancel"]) {
  document.addEventListener(name, (event) => {
    if (!fingers.delete(event.pointerId)) return;
    if (name === "pointerup") end(event);
    else {
      lower();
      state.drag = null;
    }
  });
}

document.addEventListener("wheel", (event) => {
  if (!state.svg || !state.svg.contains(event.target) || !(event.ctrlKey || state.svg.contains(document.activeElement))) return;
  event.preventDefault();
  zoom(event.deltaY < 0 ? 1.15 : 1 / 1.15, { x: event.clientX, y: event.clientY });
}, { passive: false });

document.addEventListener("click", (event) => {
  if (!state.plan) return;
  const way = event.target.closest("[data-zoom]")?.dataset.zoom;
  if (way === "fit") { fit(); draw(); } else if (way) zoom(way === "in" ? 1.5 : 1 / 1.5);
  const picked = event.target.closest("[data-pick]");
  if (picked) { event.preventDefault(); pick(picked.dataset.pick); }
  if (event.target.closest("[data-tap]")) {
    state.taps = [];
    state.plan.classList.add("tapping");
    say(shape() === "point" ? "Tap where it stands." : shape() === "line" ? "Tap along it, then Done." : "Tap its corners in order, then Done.");
    if (state.map.getBoundingClientRect().top < 0 || state.map.getBoundingClientRect().top > window.innerHeight / 2) state.map.scrollIntoView({ block: "start" });
  }
  if (event.target.closest("[data-tapped]")) sendTaps();
});

// Only the sizes that a kind has are asked for.
function sizes() {
  const kind = document.getElementById("f-kind");
  const chosen = kind?.selectedOptions[0]?.dataset;
  if (!chosen || !document.getElementById("new-mark")) return;
  document.getElementById("f-height").closest(".field").hidden = !chosen.stands;
  document.getElementById("f-radius").closest(".field").hidden = !chosen.round;
}
document.addEventListener("change", (event) => {
  if (event.target.id !== "f-kind") return;
  sizes();
  if (state.taps) { state.taps = []; drawTaps(); }
});

function setUp() {
  state.plan = document.getElementById("plan");
  state.map = state.plan?.querySelector(".plan-map") || null;
  state.svg = state.map?.querySelector(".plan-svg") || null;
  if (!state.svg) return;
  fingers.clear();
  state.taps = null;
  state.first = { ...state.svg.viewBox.baseVal, x: state.svg.viewBox.baseVal.x, y: state.svg.viewBox.baseVal.y, width: state.svg.viewBox.baseVal.width, height: state.svg.viewBox.baseVal.height };
  state.lift = null;
  state.svg.classList.add("roomy");
  if (!state.view) fit();
  draw();
  sizes();
}

let focused = null;
document.addEventListener("htmx:beforeSwap", () => {
  const inside = state.svg?.contains(document.activeElement) ? document.activeElement : null;
  focused = inside ? { key: inside.closest(".thing-on")?.dataset.thing, corner: inside.closest(".corner")?.dataset.corner } : null;
});
document.addEventListener("htmx:afterSwap", (event) => {
  if (document.getElementById("plan") === state.plan && event.target.id !== "plan") return;
  setUp();
  if (!focused || !state.svg) return;
  const thing = focused.key ? state.svg.querySelector(`.thing-on[data-thing="${CSS.escape(focused.key)}"]`) : null;
  (thing?.querySelector(`.corner[data-corner="${focused.corner}"]`) || thing?.querySelector(".grip") || state.svg).focus({ preventScroll: true });
});
for (const name of ["htmx:sendError", "htmx:timeout"]) document.addEventListener(name, () => { if (state.svg) lower(); });
document.addEventListener("DOMContentLoaded", setUp);
window.addEventListener("resize", () => { if (state.svg) { state.svg.dataset.mpp = ""; draw(); } });
