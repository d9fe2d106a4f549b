// Buttons and fields that do something on the page: open, print, fill in, send at once.

document.addEventListener("click", (event) => {
  const opener = event.target.closest("[data-open]");
  if (opener) document.getElementById(opener.dataset.open).showModal();
  if (event.target.closest("[data-print]")) window.print();
  const filler = event.target.closest("[data-fill]");
  if (filler) {
    const form = filler.closest("form");
    for (const [name, value] of Object.entries(JSON.parse(filler.dataset.fill))) {
      const field = form.elements[name];
      if (field) { field.value = value; field.dispatchEvent(new Event("input", { bubbles: true })); }
    }
    filler.remove();
  }
});

// One tap for a group of the bag: its rows are filled in, to be seen and changed.
document.addEventListener("click", (event) => {
  const all = event.target.closest("[data-fill-all]");
  if (!all) return;
  for (const field of all.closest("fieldset").querySelectorAll("[data-all]")) {
    if (field.type === "checkbox") field.checked = true;
    else if (field.value === "") field.value = field.dataset.all;
  }
  all.disabled = true;
});

document.addEventListener("change", (event) => {
  if (event.target.closest("[data-submit]")) event.target.form.requestSubmit();
});
