// A round that goes on on another device shows here too: the panel is fetched anew when something was answered elsewhere.

const EVERY_MS = 8000;

function atWork() {
  const here = document.activeElement;
  if (here?.closest?.("#panel") && here.matches("input:not([type=hidden]), textarea, select")) return true;
  return Boolean(document.querySelector("#panel .aside:not([hidden]), #panel .which:not([hidden]), #panel .count:has([x-ref=seconds]) .plain:not([hidden])"));
}

async function look() {
  const panel = document.getElementById("panel");
  if (!panel?.dataset.stamp || document.hidden || atWork()) return;
  const told = await fetch(panel.dataset.stampAt).then((answer) => (answer.ok ? answer.text() : "")).catch(() => "");
  if (!told || told === document.getElementById("panel")?.dataset.stamp || atWork()) return;
  window.htmx.ajax("GET", location.href, { target: "#panel", swap: "outerHTML" });
}

setInterval(look, EVERY_MS);
document.addEventListener("visibilitychange", look);
