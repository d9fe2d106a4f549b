// What was asked for last is shown, whatever came in between.

// An answer belongs where its target stood when it was asked for. Another answer may have replaced that since, and this one would be lost;
// so a part that is replaced whole, marked with data-newest, takes it where it now stands, unless something newer is shown already.
let asked = 0;
const shown = new Map();

document.addEventListener("htmx:beforeRequest", ({ detail: { elt, target, xhr } }) => {
  if (!target.hasAttribute("data-newest")) return;
  const number = ++asked;
  elt.addEventListener("htmx:beforeOnLoad", function settle({ detail }) {
    if (detail.xhr !== xhr) return;
    elt.removeEventListener("htmx:beforeOnLoad", settle);
    if (number < (shown.get(target.id) ?? 0)) return;
    shown.set(target.id, number);
    detail.target = document.getElementById(target.id) ?? target;
  });
});
