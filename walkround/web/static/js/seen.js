// A button that confirms several rows works once the last of them has been on the screen.

function watch(button) {
  const last = button.closest("fieldset, form").querySelector("li:last-child");
  if (!last || !("IntersectionObserver" in window)) return;
  button.disabled = true;
  const eye = new IntersectionObserver((seen) => {
    if (!seen.some((one) => one.isIntersecting)) return;
    button.disabled = false;
    eye.disconnect();
  });
  eye.observe(last);
}

const look = (root) => root.querySelectorAll("[data-after-seen]").forEach(watch);
look(document);
document.addEventListener("htmx:load", (event) => look(event.detail.elt));
