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

  // A count that runs on the wall clock and sends itself when it is full.
  Alpine.data("countdown", () => ({
    need: 0, left: 0, running: false, spoken: "", timer: null, began: 0,
    get idle() { return !this.running; },
    init() {
      this.need = Number(this.$el.dataset.seconds); this.left = this.need;
      if ("begun" in this.$el.dataset) this.start();
    },
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
