// What is asked of the server.

import { state } from "./state.js";

export function send(url, values) {
  window.htmx.ajax("POST", `${url}?${state.plan.dataset.query}`, { target: "#plan", swap: "outerHTML", values });
}
export const edit = (values) => send(state.plan.dataset.edit, values);
export const pick = (key) => window.htmx.ajax("GET", `${state.plan.dataset.see}?sel=${key}&${state.plan.dataset.query}`, { target: "#plan", swap: "outerHTML" });
