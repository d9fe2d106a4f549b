// The flight: a clock, its calls, notes from the air. Times and texts come with the page; without a connection they go on.

import { clock } from "../sound.js";
import { forgetPage, keepPage } from "./keep.js";
import { add, send, waiting } from "./queue.js";
import { canSpeak, say, speak, speaks } from "./voice.js";

const LATE_S = 3; // a call that old is no longer said
const LOOK_MS = 4000;
const AGAIN_MS = 1500; // a note that did not get through is sent again
const OLD_MS = 2000;
let flight = null;
let said = 0;

const part = (name) => document.querySelector(`[data-part="${name}"]`);
const show = (element, shown) => { if (element) element.hidden = !shown; };
const write = (name, text) => { const element = part(name); if (element && element.textContent !== text) element.textContent = text; };
const kept = (name) => localStorage.getItem(`walkround-${name}-${flight.round}`);
const now = () => Date.now() + flight.offset;
const gone = () => (now() - flight.tookOff) / 1000;
const hour = (moment) => new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: flight.zone });

// The server's clock is the clock. A page shown again from this device says an old time: then what was known goes on.
function offset(round, serverNow) {
  const key = `walkround-clock-${round}`;
  const known = localStorage.getItem(key);
  const fresh = serverNow - Date.now();
  if (known !== null && fresh < Number(known) - OLD_MS) return Number(known);
  localStorage.setItem(key, String(fresh));
  return fresh;
}

function setUp() {
  const page = document.querySelector("[data-flight]");
  if (!page) { flight = null; return; }
  const read = JSON.parse(page.dataset.flight);
  flight = { ...read, offset: offset(read.round, read.now) };
  showVoice();
  if (read.landed) forgetPage();
  if (!read.tookOff || read.landed) return;
  said = gone();
  keepPage();
  tick();
  flush();
}

function phase(seconds) {
  if (seconds < 0) return ["Take off in", -seconds + 0.999];
  if (seconds < flight.turn) return ["Turn back in", flight.turn - seconds + 0.999];
  if (seconds < flight.land) return ["Land in", flight.land - seconds + 0.999];
  return ["Land now, over by", seconds - flight.land];
}

function tick() {
  if (!flight?.tookOff || flight.landed) return;
  const landed = waiting(flight.round).find((note) => note.kind === "landed");
  const seconds = landed ? (new Date(landed.at) - flight.tookOff) / 1000 : gone();
  const [label, left] = landed ? ["Landed after", seconds] : phase(seconds);
  write("label", label);
  write("digits", seconds < 0 ? String(Math.floor(left)) : clock(left));
  write("flown", clock(Math.max(0, seconds)));
  part("digits")?.classList.toggle("late", !landed && seconds >= flight.land);
  show(part("scrub"), seconds < flight.scrub && !landed);
  show(part("land"), !landed);
  const path = part("path");
  if (path) {
    const here = path.getPointAtLength(path.getTotalLength() * Math.min(1, Math.max(0, seconds / flight.end)));
    part("aircraft").setAttribute("transform", `translate(${here.x} ${here.y})`);
    part("flown-path").setAttribute("stroke-dasharray", `${1000 * Math.min(1, Math.max(0, seconds / flight.end))} 1000`);
  }
  if (!landed) callOut(seconds);
}

function callOut(seconds) {
  const due = flight.calls.filter((call) => call.at > said && call.at <= seconds && seconds - call.at < LATE_S);
  said = Math.max(said, seconds);
  if (!due.length) return;
  const call = due.at(-1);
  write("said", call.text);
  say(call.text, call.tone);
}

// Notes: kept here first, then sent.
function note(kind, values) {
  add(flight.round, flight.notes, kind, now(), values);
  tick();
  flush();
}

function told(sent, answer) {
  if (sent.round !== flight?.round) return;
  if (answer === null) { alone(true); setTimeout(flush, AGAIN_MS); return; }
  alone(false);
  if (answer.error) write("refused", answer.error);
  else if (sent.kind === "charge" && answer.flight) refit(answer);
  if (sent.kind === "landed") location.reload();
}

// The rest of the flight anew, after a charge was read here or on another device.
function refit(answer) {
  Object.assign(flight, answer.flight);
  write("said", answer.words);
  say(answer.words, "time");
  write("turn-at", answer.turn_words);
}

function pending() {
  const notes = waiting(flight.round);
  const words = { landed: "landing", charge: "charge", seen: "last seen" };
  show(part("unsaved"), notes.length > 0);
  write("unsaved-what", notes.map((one) => `${words[one.kind]} ${hour(one.at)}`).join(", "));
  const seen = notes.filter((one) => one.kind === "seen").at(-1);
  if (seen) write("last-seen", `${hour(seen.at)}: ${[seen.values.point, seen.values.words].filter(Boolean).join(", ")}. Not saved yet.`);
}

async function flush() {
  if (flight) await send(told);
  if (flight) pending();
}

function alone(is) {
  const key = `walkround-alone-${flight.round}`;
  if (is && !kept("alone")) localStorage.setItem(key, String(now()));
  if (!is) localStorage.removeItem(key);
  const since = kept("alone");
  show(part("alone"), Boolean(since));
  if (since) write("alone-since", hour(Number(since)));
}

// Whether the server is there, and whether the flight was ended on another device.
async function asked(url) {
  try {
    const answer = await fetch(url, { headers: { Accept: "application/json" }, signal: AbortSignal.timeout(LOOK_MS) });
    return answer.ok && answer.headers.get("content-type")?.startsWith("application/json") ? await answer.json() : null;
  } catch { return null; }
}
async function look() {
  if (!flight?.tookOff || flight.landed) return;
  const here = flight;
  const state = await asked(`${here.state}?charges=${here.charges}`);
  if (here !== flight) return;
  alone(state === null);
  if (state === null) return;
  flight.offset = state.now - Date.now();
  localStorage.setItem(`walkround-clock-${flight.round}`, String(flight.offset));
  if (waiting(flight.round).length) await flush();
  else if (state.flight) refit(state);
  else if (state.landed) location.reload();
}

function showVoice() {
  write("speaks", speaks() ? (canSpeak() ? "on" : "tones") : "off");
  part("voice")?.setAttribute("aria-pressed", String(speaks()));
}

document.addEventListener("click", (event) => {
  const opens = event.target.closest("[data-opens]");
  if (opens) document.getElementById(opens.dataset.opens).showModal();
  if (event.target.closest("[data-closes]")) event.target.closest("dialog").close();
  if (event.target.closest('[data-part="voice"]')) {
    speak(!speaks());
    showVoice();
    if (speaks()) say("Calls are on.", "time");
  }
});
document.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-note]");
  if (!form || !flight?.tookOff) return;
  event.preventDefault();
  const values = Object.fromEntries(new FormData(form, event.submitter));
  if (event.submitter?.dataset.point) values.point = event.submitter.dataset.point;
  note(form.dataset.note, values);
  form.closest("dialog")?.close();
  form.reset();
});
setInterval(tick, 200);
setInterval(look, LOOK_MS);
window.addEventListener("online", look);
document.addEventListener("DOMContentLoaded", setUp);
document.addEventListener("htmx:afterSwap", setUp);
