// What is seen of the plan: drawn, shifted, zoomed.

import { ROOM, state } from "./state.js";

export const selected = () => state.svg.querySelector(".thing-on.held");
const bounded = (mpp) => Math.min(20, Math.max(0.02, mpp));

export function fit() {
  state.view = { x: state.first.x + state.first.width / 2, y: state.first.y + state.first.height / 2, mpp: Math.max(state.first.width / state.map.clientWidth, state.first.height / state.map.clientHeight) };
}

// Draw the view anew.
export function draw() {
  clearTimeout(state.settle);
  const { clientWidth: wide, clientHeight: high } = state.map;
  state.view.mpp = bounded(state.view.mpp);
  const [w, h] = [wide * state.view.mpp * ROOM, high * state.view.mpp * ROOM];
  state.svg.setAttribute("viewBox", `${state.view.x - w / 2} ${state.view.y - h / 2} ${w} ${h}`);
  state.svg.style.transform = "";
  state.drawn = { ...state.view };
  if (state.svg.dataset.mpp === String(state.view.mpp)) return; // a shift alone styles nothing anew
  state.svg.dataset.mpp = state.view.mpp;
  state.svg.style.setProperty("--mpp", state.view.mpp);
  state.svg.classList.toggle("near", state.view.mpp < 0.6);
  state.svg.classList.toggle("far", state.view.mpp > 1.6);
  const bar = state.plan.querySelector(".scale-bar");
  const most = state.view.mpp * 150;
  const step = 10 ** Math.floor(Math.log10(most));
  const metres = step * (most / step >= 5 ? 5 : most / step >= 2 ? 2 : 1);
  bar.hidden = false;
  bar.querySelector("i").style.width = `${metres / state.view.mpp}px`;
  bar.querySelector("b").textContent = metres >= 1000 ? `${metres / 1000} km` : `${metres} m`;
}

// Shift the picture to the view; it is drawn when the hand rests.
export function show() {
  const scale = state.drawn.mpp / state.view.mpp;
  state.svg.style.transform = `translate(${(state.drawn.x - state.view.x) / state.view.mpp}px, ${(state.drawn.y - state.view.y) / state.view.mpp}px) scale(${scale})`;
  clearTimeout(state.settle);
  state.settle = setTimeout(draw, 160);
}

export function zoom(times, at) {
  const box = state.map.getBoundingClientRect();
  const dx = at ? at.x - box.left - box.width / 2 : 0;
  const dy = at ? at.y - box.top - box.height / 2 : 0;
  const before = state.view.mpp;
  state.view.mpp = bounded(before / times);
  state.view.x += dx * (before - state.view.mpp);
  state.view.y += dy * (before - state.view.mpp);
  show();
}

export const metresAt = (event) => {
  const box = state.map.getBoundingClientRect();
  return [state.view.x + (event.clientX - box.left - box.width / 2) * state.view.mpp, state.view.y + (event.clientY - box.top - box.height / 2) * state.view.mpp];
};
export const say = (words) => { state.plan.querySelector(".plan-says").textContent = words; };
