import { cornersOf } from "./hand.js";
import { edit, pick } from "./send.js";
import { state } from "./state.js";
import { endTaps } from "./taps.js";
import { draw, fit, selected, show, zoom } from "./view.js";

// Keys: a thing in hand moves by metres, the view by a part of itself.
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
let nudge = null;

function nudged(thing, corner, [x, y], far) {
  const by = far ? 10 : 1;
  if (!nudge) nudge = { thing, corner, x: 0, y: 0 };
  nudge.x += x * by;
  nudge.y += y * by;
  clearTimeout(nudge.timer);
  if (corner) {
    const [cx, cy] = cornersOf(thing)[Number(corner.dataset.corner)];
    if (nudge.from === undefined) nudge.from = [cx, cy];
    corner.setAttribute("transform", `translate(${nudge.from[0] + nudge.x} ${nudge.from[1] + nudge.y})`);
  } else thing.setAttribute("transform", `translate(${nudge.x} ${nudge.y})`);
  nudge.timer = setTimeout(() => {
    const done = nudge;
    nudge = null;
    const key = thing.dataset.thing;
    if (corner) edit({ do: "move", key, corner: corner.dataset.corner, at: `${done.from[0] + done.x},${-(done.from[1] + done.y)}` });
    else edit({ do: "move", key, at: `${done.x},${-done.y}` });
  }, 450);
}

document.addEventListener("keydown", (event) => {
  if (!state.svg || !state.svg.contains(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
  const thing = event.target.closest(".thing-on");
  const corner = event.target.closest(".corner");
  const arrow = ARROWS[event.key];
  if (arrow && thing?.classList.contains("held")) nudged(thing, corner, arrow, event.shiftKey);
  else if (arrow) { state.view.x += arrow[0] * 60 * state.view.mpp; state.view.y += arrow[1] * 60 * state.view.mpp; show(); }
  else if (event.key === "+" || event.key === "=") zoom(1.4);
  else if (event.key === "-") zoom(1 / 1.4);
  else if (event.key === "0") { fit(); draw(); }
  else if (event.key === "Escape" && state.taps) endTaps();
  else if (event.key === "Escape" && selected()) pick("");
  else if ((event.key === "Enter" || event.key === " ") && thing && !thing.classList.contains("held")) pick(thing.dataset.thing);
  else if ((event.key === "Delete" || event.key === "Backspace") && corner) edit({ do: "straighten", key: thing.dataset.thing, corner: corner.dataset.corner });
  else if ((event.key === "Delete" || event.key === "Backspace") && thing?.classList.contains("held")) edit({ do: "remove", key: thing.dataset.thing });
  else return;
  event.preventDefault();
  event.stopImmediatePropagation();
}, true);
