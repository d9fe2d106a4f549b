// The keyboard.

// Keys: an element with data-key answers to that key; hidden or disabled ones do not.
function byKey(key) {
  const found = document.querySelectorAll(`[data-key="${CSS.escape(key)}"]`);
  return [...found].find((element) => !element.disabled && element.getClientRects().length > 0);
}

function neighbour(step) {
  const items = [...document.querySelectorAll(".checks > li")].filter((item) => item.querySelector(".line, .check"));
  const here = items.findIndex((item) => item.querySelector(".check"));
  return items[here + step]?.querySelector(".line");
}

// Letters are keys everywhere but where words are typed; a field for numbers needs no letters.
function typing(target, key) {
  const field = target.closest("input:not([type=radio]):not([type=checkbox]), textarea, select");
  if (!field) return false;
  return !(field.inputMode === "decimal" && /^[a-z?]$/i.test(key));
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
  if (event.key === "Escape" && typing(event.target, "")) { event.target.blur(); return; }
  if (typing(event.target, event.key) || document.querySelector("dialog[open]")) return;
  const key = event.key.toLowerCase();
  let target = null;
  if (key === "?") { document.getElementById("keys").showModal(); event.preventDefault(); return; }
  if (key === "j" || key === "arrowdown") target = neighbour(1);
  else if (key === "k" || key === "arrowup") target = neighbour(-1);
  else target = byKey(key);
  // Where a number is wanted and none is typed yet, P leads into its field.
  const first = document.querySelector("#panel [data-first]");
  if (key === "p" && first && first.value === "") { first.focus(); event.preventDefault(); return; }
  if (target) { target.click(); event.preventDefault(); }
});
