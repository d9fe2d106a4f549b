// Moves things and keeps time. It holds no rule: what is right or wrong is said by the server.
"use strict";

// Keys: an element with data-key answers to that key; hidden or disabled ones do not.
function byKey(key) {
  const found = document.querySelectorAll(`[data-key="${CSS.escape(key)}"]`);
  return [...found].find((element) => !element.disabled && element.getClientRects().length > 0);
}

function neighbour(step) {
  const items = [...document.querySelectorAll(".checks > li")].filter((item) => item.querySelector(".line, .check"));
  const here = items.findIndex((item) => item.querySelector(".check"));
  return items[here + step]?.querySelector(".line");
}

// Letters are keys everywhere but where words are typed; a field for numbers needs no letters.
function typing(target, key) {
  const field = target.closest("input:not([type=radio]):not([type=checkbox]), textarea, select");
  if (!field) return false;
  return !(field.inputMode === "decimal" && /^[a-z?]$/i.test(key));
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
  if (event.key === "Escape" && typing(event.target, "")) { event.target.blur(); return; }
  if (typing(event.target, event.key) || document.querySelector("dialog[open]")) return;
  const key = event.key.toLowerCase();
  let target = null;
  if (key === "?") { document.getElementById("keys").showModal(); event.preventDefault(); return; }
  if (key === "j" || key === "arrowdown") target = neighbour(1);
  else if (key === "k" || key === "arrowup") target = neighbour(-1);
  else target = byKey(key);
  // Where a number is wanted and none is typed yet, P leads into its field.
  const first = document.querySelector("#panel [data-first]");
  if (key === "p" && first && first.value === "") { first.focus(); event.preventDefault(); return; }
  if (target) { target.click(); event.preventDefault(); }
});

// A tap on a part of a drawing moves on to the next of its answers; the drawing shows what is answered.
function showLooks() {
  for (const drawn of document.querySelectorAll("[data-cycle]")) {
    const chosen = document.querySelector(`input[name="${CSS.escape(drawn.dataset.cycle)}"]:checked`);
    drawn.dataset.seen = chosen ? chosen.value : "";
    for (const look of drawn.querySelectorAll("[data-look]")) {
      look.classList.toggle("shown", look.dataset.look === (drawn.dataset.seen || drawn.dataset.drawn));
    }
    drawn.classList.toggle("differs", Boolean(drawn.dataset.seen) && drawn.dataset.seen !== drawn.dataset.drawn);
  }
  const button = document.querySelector("button[data-rest]");
  if (button?.dataset.rest && document.querySelector("#ask input[type=radio]:checked")) {
    button.querySelector("span").textContent = button.dataset.rest;
  }
}

function cycle(drawn) {
  const answers = [...document.querySelectorAll(`input[name="${CSS.escape(drawn.dataset.cycle)}"]`)];
  const now = answers.find((input) => input.checked)?.value || drawn.dataset.drawn;
  const next = answers[(answers.findIndex((input) => input.value === now) + 1) % answers.length];
  next.checked = true;
  next.dispatchEvent(new Event("change", { bubbles: true }));
}

document.addEventListener("change", (event) => {
  showLooks();
  if (event.target.closest("[data-submit]")) event.target.form.requestSubmit();
});
document.addEventListener("DOMContentLoaded", showLooks);

document.addEventListener("click", (event) => {
  const drawn = event.target.closest("[data-cycle]");
  if (drawn) cycle(drawn);
  const opener = event.target.closest("[data-open]");
  if (opener) document.getElementById(opener.dataset.open).showModal();
  if (event.target.closest("[data-print]")) window.print();
  const filler = event.target.closest("[data-fill]");
  if (filler) {
    const form = filler.closest("form");
    for (const [name, value] of Object.entries(JSON.parse(filler.dataset.fill))) {
      const field = form.elements[name];
      if (field) { field.value = value; field.dispatchEvent(new Event("input", { bubbles: true })); }
    }
    filler.remove();
  }
});

// The check in hand comes into view, after an answer and when the page is opened at it.
function cardIntoView() {
  const card = document.querySelector("#panel .check");
  if (!card) return null;
  const list = card.closest(".checks");
  if (list.scrollHeight > list.clientHeight + 4 && getComputedStyle(list).overflowY !== "visible") {
    // The check in hand, with a glimpse of the one before it where the card leaves room for that.
    const glimpse = Math.max(0, Math.min(60, list.clientHeight - card.offsetHeight - 12));
    list.scrollTop += card.getBoundingClientRect().top - list.getBoundingClientRect().top - glimpse;
  } else if (card.getBoundingClientRect().top < 0 || card.getBoundingClientRect().bottom > window.innerHeight) {
    card.scrollIntoView({ block: "nearest" });
  }
  return card;
}

document.addEventListener("DOMContentLoaded", () => {
  if (new URLSearchParams(location.search).has("check") && matchMedia("(min-width: 761px)").matches) cardIntoView();
});

// After an answer its first field is ready on a computer.
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target?.id !== "panel" && event.target.id !== "panel") return;
  document.getElementById("notices").replaceChildren();
  showLooks();
  const card = cardIntoView();
  if (!card) return;
  const wrong = card.querySelector("[aria-invalid=true]");
  const first = wrong || (matchMedia("(hover: hover)").matches ? card.querySelector("[data-first]") : null);
  if (first) first.focus({ preventScroll: true });
});

// A request that got no answer keeps what was typed and says so.
for (const name of ["htmx:sendError", "htmx:timeout"]) {
  document.addEventListener(name, () => {
    const notices = document.getElementById("notices");
    notices.innerHTML = "";
    const words = document.createElement("p");
    words.className = "notice";
    words.setAttribute("role", "alert");
    words.textContent = "Walk Round did not answer, so that was not saved. What you typed is still here; try again.";
    notices.append(words);
  });
}

// A new field starts with the time zone of this device.
document.addEventListener("DOMContentLoaded", () => {
  const zone = document.querySelector("input[name=timezone]");
  if (zone && zone.value === "") zone.value = Intl.DateTimeFormat().resolvedOptions().timeZone || "";
});

function beep(times) {
  try {
    const sound = new AudioContext();
    for (let i = 0; i < times; i += 1) {
      const tone = sound.createOscillator();
      const loud = sound.createGain();
      tone.frequency.value = 880;
      loud.gain.setValueAtTime(0.25, sound.currentTime + i * 0.3);
      loud.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + i * 0.3 + 0.22);
      tone.connect(loud).connect(sound.destination);
      tone.start(sound.currentTime + i * 0.3);
      tone.stop(sound.currentTime + i * 0.3 + 0.24);
    }
    setTimeout(() => sound.close(), times * 300 + 500);
  } catch { /* no sound on this device */ }
}

function clock(seconds) {
  return `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;
}

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

  // The two ways out of a check: a fault with a note, a skip with a reason.
  Alpine.data("card", () => ({
    mode: "plain",
    get busy() { return this.mode !== "plain"; },
    get notFaulting() { return this.mode !== "fault"; },
    get notSkipping() { return this.mode !== "skip"; },
    fault() { this.mode = "fault"; this.$nextTick(() => this.$refs.note.focus()); },
    skip() { this.mode = "skip"; this.$nextTick(() => this.$refs.reason.focus()); },
    cancel() { this.mode = "plain"; },
  }));

  // A count that runs on the wall clock and sends itself when it is full.
  Alpine.data("countdown", () => ({
    need: 0, left: 0, running: false, spoken: "", timer: null, began: 0,
    get idle() { return !this.running; },
    init() { this.need = Number(this.$el.dataset.seconds); this.left = this.need; },
    start() {
      this.began = performance.now(); this.running = true; this.spoken = `Counting ${this.need} seconds.`;
      this.timer = setInterval(() => this.tick(), 100);
    },
    tick() {
      const gone = (performance.now() - this.began) / 1000;
      this.left = Math.max(0, Math.ceil(this.need - gone));
      if (gone < this.need) return;
      clearInterval(this.timer); this.running = false; this.spoken = "Done."; beep(2);
      this.$refs.seconds.value = gone.toFixed(1);
      this.$refs.seconds.form.requestSubmit();
    },
    stop() { clearInterval(this.timer); this.running = false; this.left = this.need; this.spoken = "Stopped."; },
    destroy() { clearInterval(this.timer); },
  }));

  // Time in the air, from the server's own start.
  Alpine.data("elapsed", () => ({
    shown: "", over: false, zero: 0, planned: 0, timer: null,
    get inTime() { return !this.over; },
    init() {
      this.zero = performance.now() - Number(this.$el.dataset.elapsed) * 1000;
      this.planned = Number(this.$el.dataset.planned);
      this.tick(); this.timer = setInterval(() => this.tick(), 250);
    },
    tick() {
      const gone = (performance.now() - this.zero) / 1000;
      this.shown = clock(gone);
      if (gone >= this.planned && !this.over) { this.over = true; beep(4); }
    },
    destroy() { clearInterval(this.timer); },
  }));

  // Stick after stick, one at a time; the answer leads on to the next.
  Alpine.data("stickTests", () => ({
    at: 0, count: 0,
    get first() { return this.at === 0; },
    init() { this.count = Number(this.$el.dataset.count); },
    away(index) { return index !== this.at; },
    onward() { if (this.at < this.count - 1) { this.at += 1; this.show(); } },
    back() { this.at -= 1; this.show(); },
    // The large drawing beside the panel follows.
    show() {
      for (const scene of document.querySelectorAll("[data-scene]")) {
        scene.toggleAttribute("hidden", Number(scene.dataset.scene) !== this.at);
      }
    },
  }));

  // A number with a button on each side, for thumbs.
  Alpine.data("stepper", () => ({
    less() { this.set(-1); },
    more() { this.set(1); },
    set(step) {
      const now = Number.parseInt(this.$refs.number.value, 10) || 0;
      this.$refs.number.value = Math.max(0, now + step);
    },
  }));

  // The library: what holds the words, and is on today's list or not, stays to be seen.
  Alpine.data("sieve", () => ({
    said: "",
    look() {
      const words = this.$refs.words.value.trim().toLowerCase();
      const wanted = this.$refs.today.checked ? "yes" : this.$refs.not.checked ? "no" : "";
      let seen = 0;
      for (const list of this.$root.querySelectorAll(".station-list")) {
        let here = 0;
        for (const row of list.querySelectorAll("li")) {
          row.hidden = !row.textContent.toLowerCase().includes(words) || (wanted !== "" && row.dataset.today !== wanted);
          here += row.hidden ? 0 : 1;
        }
        list.hidden = here === 0 && (words !== "" || wanted !== "");
        seen += here;
      }
      this.said = `${seen} checks shown.`;
    },
  }));

  // Signing asks twice.
  Alpine.data("signing", () => ({
    asked: false,
    get unasked() { return !this.asked; },
    ask() { this.asked = true; this.$nextTick(() => this.$refs.sure.focus()); },
  }));
});

// What only a secure page may ask of the device. Where it may not, or the device says no, the way by hand stands beside it.
async function keepScreenOn() {
  const says = document.querySelector("[data-awake]");
  if (!says) return;
  try {
    await navigator.wakeLock.request("screen");
    says.hidden = true;
  } catch {
    says.hidden = false;
  }
}
document.addEventListener("DOMContentLoaded", keepScreenOn);
document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible") keepScreenOn(); });

document.addEventListener("DOMContentLoaded", () => {
  for (const button of document.querySelectorAll("[data-locate]")) {
    if (!window.isSecureContext || !navigator.geolocation) continue;
    button.hidden = false;
    button.addEventListener("click", () => {
      const says = document.getElementById(`${button.dataset.locate}-says`);
      says.textContent = "Asking this device.";
      navigator.geolocation.getCurrentPosition(
        ({ coords }) => {
          document.getElementById(button.dataset.locate).value = `${coords.latitude.toFixed(6)}, ${coords.longitude.toFixed(6)}`;
          says.textContent = `Taken, to about ${Math.ceil(coords.accuracy)} m. Check it on the plan.`;
        },
        () => { says.textContent = "This device gave no position. Type or paste it."; },
        { enableHighAccuracy: true, timeout: 20000, maximumAge: 0 },
      );
    });
  }
});
