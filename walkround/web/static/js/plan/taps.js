import { send } from "./send.js";
import { state } from "./state.js";
import { metresAt, say } from "./view.js";

// Taps that make a new thing.
export function drawTaps() {
  const path = state.taps.length ? `M${state.taps.map(([x, y]) => `${x},${y}`).join(" L")}${state.taps.length === 1 ? " h0" : ""}` : "";
  state.svg.querySelector(".drawing").setAttribute("d", path);
  state.plan.querySelector("[data-tapped]").hidden = state.taps.length === 0;
}

export function endTaps() {
  state.taps = null;
  state.plan.classList.remove("tapping");
  state.svg.querySelector(".drawing").setAttribute("d", "");
  say("");
}

export function sendTaps() {
  const values = Object.fromEntries(new FormData(document.getElementById("new-mark")));
  values.at = state.taps.map(([x, y]) => `${x.toFixed(2)},${(-y).toFixed(2)}`).join(" ");
  endTaps();
  send("add", values);
}

export const shape = () => document.getElementById("f-kind").selectedOptions[0].dataset.shape;

export function tapped(event) {
  state.taps.push(metresAt(event));
  drawTaps();
  if (shape() === "point") sendTaps();
  else say(shape() === "line" ? "Tap along it, then Done." : "Tap its corners in order, then Done.");
}
