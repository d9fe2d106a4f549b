// The verdict.

const HOLD_MS = 700;

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

  // Signing asks twice; on a later launch the button is held instead. A key or a screen reader is asked twice all the same.
  Alpine.data("signing", () => ({
    asked: false, timer: null, held: false,
    get unasked() { return !this.asked; },
    ask(event) {
      const button = event.currentTarget;
      if ("hold" in button.dataset && event.detail > 0) { button.classList.toggle("too-short", !this.held); return; }
      this.asked = true; this.$nextTick(() => this.$refs.sure.focus());
    },
    hold(event) {
      const button = event.currentTarget;
      button.classList.add("holding");
      this.timer = setTimeout(() => { this.held = true; button.disabled = true; button.form.requestSubmit(); }, HOLD_MS);
    },
    release(event) { clearTimeout(this.timer); event.currentTarget.classList.remove("holding"); },
  }));
});
