// What is asked of the server: one thing after the other, because each answer is a new plan and the next belongs into that one.

import { state } from "./state.js";

const INTO_PLAN = { target: "#plan", swap: "outerHTML" };
let before = Promise.resolve();

function inTurn(ask) {
  before = before.then(ask).catch(() => {});
}
export const send = (to, values) => inTurn(() => window.htmx.ajax("POST", `${state.plan.dataset[to]}?${state.plan.dataset.query}`, { ...INTO_PLAN, values }));
export const edit = (values) => send("edit", values);
export const pick = (key) => inTurn(() => window.htmx.ajax("GET", `${state.plan.dataset.see}?sel=${key}&${state.plan.dataset.query}`, INTO_PLAN));
