import { edit, pick } from "./send.js";
import { state } from "./state.js";
import { tapped } from "./taps.js";
import { draw, selected, show } from "./view.js";

// Dragging: the view, a thing in hand, or one of its corners.
export function cornersOf(thing) {
  return [...thing.querySelectorAll(".corner")].map((corner) => corner.getAttribute("transform").match(/-?[\d.]+/g).map(Number));
}

// A copy of the thing on a sheet of its own, laid over the picture.
function raise(thing) {
  if (state.settle) draw();
  state.lift = state.svg.cloneNode(false);
  const { clientWidth: wide, clientHeight: high } = state.map;
  state.lift.setAttribute("viewBox", `${state.view.x - wide * state.view.mpp / 2} ${state.view.y - high * state.view.mpp / 2} ${wide * state.view.mpp} ${high * state.view.mpp}`);
  for (const name of ["tabindex", "role", "aria-label", "aria-roledescription"]) state.lift.removeAttribute(name);
  state.lift.setAttribute("aria-hidden", "true");
  state.lift.classList.remove("roomy");
  state.lift.classList.add("lift");
  const copy = thing.cloneNode(true);
  for (const part of copy.querySelectorAll("[tabindex]")) part.removeAttribute("tabindex");
  if (thing.dataset.thing === "launch") state.lift.append(state.svg.querySelector(".launch-ring").cloneNode(true));
  state.lift.append(copy);
  state.svg.after(state.lift);
  return copy;
}

export function lower() {
  state.lift?.remove();
  state.lift = null;
  state.svg.querySelector(".raised")?.classList.remove("raised");
}

export function begin(event) {
  const thing = event.target.closest(".thing-on");
  const corner = event.target.closest(".corner");
  const middle = event.target.closest(".middle");
  const held = thing?.classList.contains("held") && !state.taps;
  state.drag = { x: event.clientX, y: event.clientY, view: { ...state.view }, thing, held, corner: held ? corner : null, middle: held ? middle : null, moved: false };
  if (state.drag.corner) state.drag.points = cornersOf(thing);
  if (held && !state.drag.middle) state.drag.copy = raise(thing);
}

export function move(event) {
  const dx = event.clientX - state.drag.x;
  const dy = event.clientY - state.drag.y;
  if (!state.drag.moved && Math.hypot(dx, dy) < 6) return;
  if (!state.drag.moved && state.drag.copy) state.drag.thing.classList.add("raised");
  state.drag.moved = true;
  if (state.drag.corner) {
    const at = Number(state.drag.corner.dataset.corner);
    const points = state.drag.points.map(([x, y], i) => (i === at ? [x + dx * state.view.mpp, y + dy * state.view.mpp] : [x, y]));
    state.drag.to = points[at];
    state.drag.copy.querySelectorAll(".corner")[at].setAttribute("transform", `translate(${points[at][0]} ${points[at][1]})`);
    const body = state.drag.copy.querySelector(".body");
    body.setAttribute("d", `M${points.map((p) => p.join(",")).join(" L")}${body.getAttribute("d").endsWith("Z") ? "Z" : ""}`);
  } else if (state.drag.copy) {
    state.drag.by = [dx * state.view.mpp, dy * state.view.mpp];
    state.lift.style.transform = `translate(${dx}px, ${dy}px)`;
  } else {
    state.view.x = state.drag.view.x - dx * state.view.mpp;
    state.view.y = state.drag.view.y - dy * state.view.mpp;
    show();
  }
}

export function end(event) {
  const done = state.drag;
  state.drag = null;
  if (!done) return;
  const key = done.thing?.dataset.thing;
  if (!done.copy && done.moved) draw();
  if (!done.moved) lower();
  if (!done.moved) {
    if (state.taps) tapped(event);
    else if (done.middle) edit({ do: "bend", key, corner: done.middle.dataset.bend });
    else if (done.thing && !done.held) pick(key);
    else if (!done.thing && selected()) pick("");
  } else if (done.corner) {
    edit({ do: "move", key, corner: done.corner.dataset.corner, at: `${done.to[0].toFixed(2)},${(-done.to[1]).toFixed(2)}` });
  } else if (done.copy) {
    edit({ do: "move", key, at: `${done.by[0].toFixed(2)},${(-done.by[1]).toFixed(2)}` });
  }
}
