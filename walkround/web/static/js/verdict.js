// The verdict.

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

  // Signing asks twice.
  Alpine.data("signing", () => ({
    asked: false,
    get unasked() { return !this.asked; },
    ask() { this.asked = true; this.$nextTick(() => this.$refs.sure.focus()); },
  }));
});
