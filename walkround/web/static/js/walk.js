// Parts of the walk that move by themselves.

import "./live.js";
import { beep } from "./sound.js";

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

  // The two ways out of a check: a fault with a note, a skip with a reason.
  Alpine.data("card", () => ({
    mode: "plain",
    init() { if (this.$el.dataset.mode) this.mode = this.$el.dataset.mode; },
    get faulting() { return this.mode === "fault"; },
    // The rows of a group lead to the one that is faulty.
    which() {
      this.mode = this.mode === "fault" ? "plain" : "fault";
      this.$refs.fault.disabled = this.mode !== "fault";
      this.$root.querySelector("[data-row]").focus();
    },
    get busy() { return this.mode !== "plain"; },
    get notFaulting() { return this.mode !== "fault"; },
    get notSkipping() { return this.mode !== "skip"; },
    fault() { this.mode = "fault"; this.$nextTick(() => this.$refs.note.focus()); },
    skip() { this.mode = "skip"; this.$nextTick(() => this.$refs.reason.focus()); },
    cancel() { this.mode = "plain"; },
  }));

  // A count that runs on the wall clock and sends itself when it is full. Where the aircraft has a signal of its own, its tap is
  // noted; told "not yet", the count waits for it, and says when it is late.
  Alpine.data("countdown", () => ({
    need: 0, left: 0, running: false, spoken: "", timer: null, began: 0, late_s: 0, signals: false, heard: false, waits: false, over: false, late: false,
    get idle() { return !this.running; },
    get notWaiting() { return !(this.running && this.signals && !this.heard); },
    get notAsking() { return !(this.running && this.late_s && !this.waits && !this.heard); },
    get notOver() { return !(this.running && this.over); },
    get onTime() { return !this.late; },
    init() {
      const given = this.$el.dataset;
      this.need = Number(given.seconds); this.left = this.need;
      this.signals = "late" in given; this.late_s = Number(given.late || 0);
      if ("begun" in given) this.start();
    },
    start() {
      this.began = performance.now(); this.running = true; this.over = this.late = this.heard = this.waits = false;
      this.spoken = `Counting ${this.need} seconds.`;
      if (this.signals) this.$refs.signal.value = "";
      this.timer = setInterval(() => this.tick(), 100);
    },
    gone() { return (performance.now() - this.began) / 1000; },
    tick() {
      const gone = this.gone();
      this.left = gone < this.need ? Math.ceil(this.need - gone) : Math.floor(gone);
      if (gone < this.need) return;
      if (this.waits && !this.heard) {
        if (!this.over) { this.over = true; this.spoken = "Waiting for its own signal."; beep(1); }
        if (gone > this.late_s && !this.late) { this.late = true; this.spoken = "Slow today."; }
        return;
      }
      this.finish();
    },
    wait() { this.waits = true; this.spoken = "Waiting for its own signal."; },
    came() { this.$refs.signal.value = this.gone().toFixed(1); this.heard = true; this.spoken = "Noted."; if (this.over) this.finish(); },
    finish() {
      clearInterval(this.timer); this.running = false; this.left = 0; this.spoken = "Done."; beep(2);
      this.$refs.seconds.value = this.gone().toFixed(1);
      this.$refs.seconds.form.requestSubmit();
    },
    stop() { clearInterval(this.timer); this.running = this.over = this.late = false; this.left = this.need; this.spoken = "Stopped."; },
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

  // Large keys write into the number above them.
  Alpine.data("keypad", () => ({
    press(event) {
      const field = this.$el.closest("form").querySelector("[name=number]");
      const key = event.currentTarget.dataset.digit;
      field.value = key === "⌫" ? field.value.slice(0, -1) : field.value + key;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    },
  }));

  // Satellites as they come: each new number with its time, drawn; how they are judged is said by the server.
  Alpine.data("satellites", () => ({
    begun: 0, changed: 0, counts: [], timer: null,
    init() { this.timer = setInterval(() => this.look(), 5000); },
    less() { this.set(-1); },
    more() { this.set(1); },
    set(step) {
      this.$refs.now.value = Math.max(0, (Number.parseInt(this.$refs.now.value, 10) || 0) + step);
      this.$refs.now.dispatchEvent(new Event("change", { bubbles: true }));
    },
    seen() {
      const now = performance.now();
      this.begun ||= now; this.changed = now;
      this.counts.push([Math.round((now - this.begun) / 1000), Number.parseInt(this.$refs.now.value, 10) || 0]);
      this.draw();
    },
    look() {
      if (!this.counts.length) return;
      this.draw();
      this.$refs.now.form.dispatchEvent(new Event("look"));
    },
    draw() {
      const stood = Math.round((performance.now() - this.changed) / 1000);
      this.$refs.stood.value = stood;
      this.$refs.counts.value = this.counts.map((one) => one.join(":")).join(" ");
      const until = Math.max(30, this.counts.at(-1)[0] + stood);
      const points = this.counts.flatMap(([at, n], i) => [[at, i ? this.counts[i - 1][1] : n], [at, n]]);
      points.push([until, this.counts.at(-1)[1]]);
      this.$refs.line.setAttribute("points", points.map(([at, n]) => `${(at / until) * 120},${40 - Math.min(20, n) * 2}`).join(" "));
    },
    destroy() { clearInterval(this.timer); },
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
});
