// If the signal is lost here: the aircraft dragged over the plan, the path at once, the runs when it is let go.

const lost = document.getElementById("lost");
const svg = lost?.querySelector(".lost-svg");
const form = document.getElementById("lost-form");
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
const metres = Number(lost?.dataset.metres || 1);
const [launchEast, launchNorth] = (lost?.dataset.launch || "0,0").split(",").map(Number);
let drag = null;
let asking = false;
let wanted = false;
let settle = null;

const craft = () => svg.querySelector(".lost-craft");
const field = (name) => form.elements.namedItem(name);

function pointAt(event) {
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  return [at.x, at.y];
}

// The place is what the fields say, so that a drag and a number are the same thing.
function place(x, y) {
  craft().setAttribute("transform", `translate(${x} ${y})`);
  const [east, north] = [x - launchEast, -y - launchNorth];
  field("away").value = (Math.hypot(east, north) / metres).toFixed(0);
  field("bearing").value = (((Math.atan2(east, north) * 180) / Math.PI + 360) % 360).toFixed(0);
  showTrack();
}

async function showTrack() {
  if (asking) { wanted = true; return; }
  asking = true;
  wanted = false;
  const asked = new URLSearchParams(new FormData(form));
  const got = await fetch(`${lost.dataset.track}?${asked}`).then((answer) => (answer.ok ? answer.json() : null)).catch(() => null);
  asking = false;
  if (got?.d) svg.querySelector(".lost-path")?.setAttribute("d", got.d);
  svg.classList.add("dragging");
  if (wanted) showTrack();
}

const calculate = () => window.htmx.trigger(form, "change");
const at = () => craft().getAttribute("transform").match(/-?[\d.]+/g).map(Number);

// The plan and where it comes down are in view, up to so many times the plan; symbols keep their size on every screen.
const MOST = 3;
const home = svg ? { x: svg.viewBox.baseVal.x, y: svg.viewBox.baseVal.y, width: svg.viewBox.baseVal.width, height: svg.viewBox.baseVal.height } : null;

function fit() {
  const seen = svg.querySelector(".landings.most")?.getBBox();
  let [west, north, east, south] = [home.x, home.y, home.x + home.width, home.y + home.height];
  if (seen && !drag) {
    const [middleX, middleY] = [home.x + home.width / 2, home.y + home.height / 2];
    const [reachX, reachY] = [home.width * MOST / 2, home.height * MOST / 2];
    west = Math.max(middleX - reachX, Math.min(west, seen.x - 10));
    north = Math.max(middleY - reachY, Math.min(north, seen.y - 10));
    east = Math.min(middleX + reachX, Math.max(east, seen.x + seen.width + 10));
    south = Math.min(middleY + reachY, Math.max(south, seen.y + seen.height + 10));
  }
  svg.setAttribute("viewBox", `${west} ${north} ${east - west} ${south - north}`);
  const { width, height } = svg.viewBox.baseVal;
  svg.style.setProperty("--mpp", Math.max(width / svg.clientWidth, height / svg.clientHeight));
}

if (svg) {
  fit();
  window.addEventListener("resize", fit);
  svg.addEventListener("pointerdown", (event) => {
    if (event.button > 0) return;
    drag = { grabbed: Boolean(event.target.closest(".lost-craft")), x: event.clientX, y: event.clientY, moved: false };
    if (drag.grabbed) svg.setPointerCapture(event.pointerId);
  });
  svg.addEventListener("pointermove", (event) => {
    if (!drag?.grabbed) return;
    if (!drag.moved && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < 4) return;
    drag.moved = true;
    place(...pointAt(event));
  });
  svg.addEventListener("pointerup", (event) => {
    const done = drag;
    drag = null;
    if (!done) return;
    if (!done.grabbed && Math.hypot(event.clientX - done.x, event.clientY - done.y) < 6) place(...pointAt(event));
    else if (!done.moved) return;
    calculate();
  });
  svg.addEventListener("pointercancel", () => { drag = null; });
  svg.addEventListener("keydown", (event) => {
    const arrow = ARROWS[event.key];
    if (!arrow || !event.target.closest(".lost-craft")) return;
    event.preventDefault();
    const [x, y] = at();
    const by = event.shiftKey ? 25 : 5;
    place(x + arrow[0] * by, y + arrow[1] * by);
    clearTimeout(settle);
    settle = setTimeout(calculate, 350);
  });
}

// Another aircraft has other actions, heights and speeds: its page begins anew, at the same place.
if (form) {
  field("aircraft").addEventListener("change", (event) => {
    event.stopPropagation();
    const asked = new URLSearchParams(["aircraft", "away", "bearing"].map((name) => [name, field(name).value]));
    window.location.search = asked;
  });
}

// The drawing of an answer takes the place of the one over the plan.
document.addEventListener("htmx:afterSwap", () => {
  const fresh = document.querySelector("#lost-result #lost-over");
  if (!fresh || drag) return;
  const focused = document.activeElement?.closest?.(".lost-craft");
  svg.querySelector("#lost-over").replaceWith(fresh);
  fit();
  if (focused) craft().focus({ preventScroll: true });
});

// The whole area, told part by part; stopping it stops the server too.
let stopper = null;
async function whole() {
  const bar = document.getElementById("lost-progress");
  const stop = document.querySelector("[data-stop]");
  stopper?.abort();
  stopper = new AbortController();
  bar.hidden = stop.hidden = false;
  bar.value = 0;
  try {
    const answer = await fetch(`${lost.dataset.area}?${new URLSearchParams(new FormData(form))}`, { signal: stopper.signal });
    const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
    let text = "";
    for (;;) {
      const { value, done } = await reader.read();
      text += value || "";
      const lines = text.split("\n");
      text = lines.pop();
      for (const line of lines) told(JSON.parse(line), bar);
      if (done) break;
    }
  } catch (error) {
    if (error.name !== "AbortError") document.getElementById("lost-whole").textContent = "The area could not be calculated. Try again.";
  }
  bar.hidden = stop.hidden = true;
}

function told(line, bar) {
  bar.value = line.done;
  if (!line.cells) return;
  svg.querySelector("#lost-cells").innerHTML = line.cells;
  const side = document.getElementById("lost-whole");
  side.innerHTML = line.side;
  side.scrollIntoView({ block: "nearest" });
}

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-whole]")) { event.preventDefault(); whole(); }
  if (event.target.closest("[data-stop]")) stopper?.abort();
  const tried = event.target.closest("[data-try]")?.dataset.try;
  if (!tried) return;
  for (const [name, typed] of Object.entries(JSON.parse(tried))) field(name).value = typed;
  svg.querySelector("#lost-cells").innerHTML = "";
  document.getElementById("lost-whole").innerHTML = "";
  calculate();
});
