// The flight.

import { beep, clock } from "./sound.js";

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

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
});
