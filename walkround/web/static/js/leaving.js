// What an answer replaces goes at once.
//
// htmx tells every element that leaves, in two events each: six hundred of them for one tap. Nothing here listens, and what was hung on
// a clock or on another element lets go by itself once its own element has left the page.

document.addEventListener("htmx:beforeCleanupElement", ({ target }) => {
  if (target.childElementCount) target.replaceChildren();
});
