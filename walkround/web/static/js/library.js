// The list of checks.

document.addEventListener("alpine:init", () => {
  const Alpine = window.Alpine;

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
});
