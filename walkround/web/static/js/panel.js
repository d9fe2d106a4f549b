// The panel of the walk: what is in hand stays in view.

import { showLooks } from "./looks.js";

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

// Links within the walk change the panel alone. There are dozens on a screen, so one listener serves them all. The address goes along,
// except with data-panel="here".
document.addEventListener("click", (event) => {
  const link = event.target.closest("a[data-panel]");
  if (!link || event.defaultPrevented || event.button || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
  event.preventDefault();
  const push = link.dataset.panel === "here" ? "false" : "true";
  window.htmx.ajax("GET", link.getAttribute("href"), { source: link, target: "#panel", swap: "outerHTML", push }).catch(() => {});
});

document.addEventListener("DOMContentLoaded", () => {
  const asked = new URLSearchParams(location.search);
  if ((asked.has("check") || asked.has("station")) && matchMedia("(min-width: 761px)").matches) cardIntoView();
});

// After an answer its first field is ready on a computer.
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id !== "panel") return; // the parts beside it are told too
  document.getElementById("notices").replaceChildren();
  showLooks();
  const card = cardIntoView();
  if (!card) return;
  const wrong = card.querySelector("[aria-invalid=true]");
  const first = wrong || (matchMedia("(hover: hover)").matches ? card.querySelector("[data-first]") : null);
  if (first) first.focus({ preventScroll: true });
});
