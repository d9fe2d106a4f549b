// Drawings that are tapped to answer.

// A tap on a part of a drawing moves on to the next of its answers; the drawing shows what is answered.
export function showLooks() {
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

document.addEventListener("change", showLooks);
document.addEventListener("DOMContentLoaded", showLooks);
document.addEventListener("click", (event) => {
  const drawn = event.target.closest("[data-cycle]");
  if (drawn) cycle(drawn);
});
