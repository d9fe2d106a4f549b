// Parts touched on the drawing: shown as pressed at once, as saved only when the server has kept it. What is right is said by the server.

const page = document.querySelector("[data-touch]");
const AGAIN_MS = 700; // a second tap so soon after the first is the same tap
const tapped = new Map();
let chain = Promise.resolve();

const each = (part, change) => {
  for (const one of page.querySelectorAll(`[data-part="${CSS.escape(part)}"], [data-row="${CSS.escape(part)}"]`)) change(one);
};
const stateOf = (part) => page.querySelector(`.target[data-part="${CSS.escape(part)}"]`);
const show = (part, state) => each(part, (one) => {
  one.classList.remove("left", "ok", "fixed", "damaged", "pending");
  if (one.matches(".target, li")) one.classList.add(state);
  if (one.hasAttribute("aria-pressed") && state !== "pending") one.setAttribute("aria-pressed", String(state !== "left"));
});
const wrong = (words) => {
  const line = page.querySelector(".touch-wrong");
  line.textContent = words; line.hidden = !words;
};

const send = async (part, state, before) => {
  const body = new URLSearchParams({ stop: page.dataset.stop, part, state });
  try {
    const answer = await fetch(page.dataset.touch, { method: "POST", headers: { Accept: "application/json" }, body });
    const told = await answer.json();
    if (!answer.ok) throw new Error(told.words);
    show(part, state === "open" ? "left" : "ok");
    wrong("");
    for (const line of page.querySelectorAll(".touch-left")) line.textContent = told.left;
    for (const all of page.querySelectorAll("[name=together]")) {
      all.hidden = !told.together; all.querySelector("span").textContent = told.together;
    }
    for (const many of page.querySelectorAll(".touch-stops [aria-current] small")) many.textContent = told.here || "";
    if (told.next) location.assign(told.next);
  } catch (error) {
    show(part, before);
    wrong(error instanceof TypeError ? "Not saved: no connection. Tap it again." : error.message);
  }
};

const touch = (part) => {
  const now = performance.now();
  if (now - (tapped.get(part) ?? -AGAIN_MS) < AGAIN_MS) return;
  tapped.set(part, now);
  const target = stateOf(part);
  const before = ["left", "ok", "fixed", "damaged"].find((state) => target.classList.contains(state)) ?? "left";
  if (page.classList.contains("damaging") || before === "damaged") { location.assign(target.getAttribute("href")); return; }
  show(part, "pending");
  chain = chain.then(() => send(part, before === "left" ? "ok" : "open", before));
};

if (page) {
  const resting = page.hasAttribute("data-rests");
  page.addEventListener("click", (event) => {
    const on = event.target.closest("[data-part]");
    if (on && !resting) { event.preventDefault(); touch(on.dataset.part); }
    const mode = event.target.closest("[data-damage-mode]");
    if (mode) mode.setAttribute("aria-pressed", String(page.classList.toggle("damaging")));
  });
  document.addEventListener("keydown", (event) => {
    const on = document.activeElement?.closest?.(".target[data-part]");
    if (on && (event.key === "Enter" || event.key === " ")) { event.preventDefault(); on.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true })); return; }
    if (resting || event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(document.activeElement?.tagName ?? "")) return;
    const target = /^[1-9]$/.test(event.key) ? page.querySelectorAll(".target[data-part]")[Number(event.key) - 1] : null;
    if (target) { event.preventDefault(); touch(target.dataset.part); }
  });
}
