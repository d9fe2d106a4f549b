// What the page says when no answer comes.

// A request that got no answer keeps what was typed and says so.
for (const name of ["htmx:sendError", "htmx:timeout"]) {
  document.addEventListener(name, () => {
    const notices = document.getElementById("notices");
    notices.innerHTML = "";
    const words = document.createElement("p");
    words.className = "notice";
    words.setAttribute("role", "alert");
    words.textContent = "Walk Round did not answer, so that was not saved. What you typed is still here; try again.";
    notices.append(words);
  });
}
