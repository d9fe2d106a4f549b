// The bench test: a gate opens what comes after it, the clock runs from the tap, the first answer stops it.

const form = document.getElementById("bench");
const off = form?.querySelector("[data-off]");
const clock = form?.querySelector("[data-clock]");
const says = form?.querySelector("[data-says]");
let began = null;
let timer = null;
const planned = [];

function gates() {
  let open = true;
  for (const step of form.querySelectorAll("[data-step]")) {
    step.toggleAttribute("data-closed", !open);
    for (const part of step.querySelectorAll("input, button")) {
      if (part === off) part.disabled = !open;
      else if (part.name !== "gate" || !part.checked) part.disabled = !open;
    }
    const gate = step.querySelector('[name="gate"]');
    if (gate && !gate.checked) open = false;
  }
}

const seconds = () => (performance.now() - began) / 1000;

function stop(after) {
  if (began === null) return;
  clearInterval(timer);
  for (const one of planned.splice(0)) clearTimeout(one);
  if (after !== null) form.elements.namedItem("after").value = after.toFixed(1);
  clock.textContent = `${(after ?? seconds()).toFixed(1)} s`;
  began = null;
}

const choose = (name, value) => {
  const box = form.querySelector(`[name="${name}"][value="${value}"]`);
  if (box) box.checked = true;
};

// The page says of each answer whether the failsafe acted; the first that fits is what the bench shows.
const see = (acted) => { form.querySelector(`[data-stops="${acted}"]`).checked = true; };

async function simulated() {
  const got = await fetch(form.dataset.reading).then((answer) => answer.json()).catch(() => ({ error: "The bench does not answer." }));
  if (got.error) { say(got.error); return; }
  form.elements.namedItem("by").value = "bench";
  const watch = Number(form.dataset.watch);
  if (got.beeper !== null) planned.push(setTimeout(() => choose("beeper", "yes"), got.beeper * 1000));
  if (got.acted === null) planned.push(setTimeout(() => { see(""); stop(null); say("It did not act."); }, watch * 1000));
  else planned.push(setTimeout(() => { see("acted"); if (got.beeper === null) choose("beeper", "no"); end(got.acted, got.beeper); }, got.acted * 1000));
}

// The clock stops when it acts; the beeper may come a little later.
function end(acted, beeper) {
  const later = planned.splice(0);
  stop(acted);
  if (beeper === null || beeper <= acted) { for (const one of later) clearTimeout(one); return; }
  setTimeout(() => choose("beeper", "yes"), (beeper - acted) * 1000);
}

function say(words) {
  says.hidden = false;
  says.textContent = words;
}

if (form) {
  gates();
  form.addEventListener("change", (event) => {
    gates();
    if (event.target.matches("[data-stops]")) {
      stop(event.target.dataset.stops ? seconds() : null);
    }
  });
  off.addEventListener("click", () => {
    began = performance.now();
    says.hidden = true;
    form.elements.namedItem("by").value = "pilot";
    const watch = Number(form.dataset.watch);
    clearInterval(timer);
    timer = setInterval(() => {
      clock.textContent = `${seconds().toFixed(1)} s`;
      if (seconds() > watch) say("It should have acted by now. Stop the motors, and say what happened.");
    }, 100);
    if (form.querySelector("[data-simulated]")?.checked) simulated();
  });
}
