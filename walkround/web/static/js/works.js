// The hold coach: counts while a finger is on the button and says the words that the page brought for too short, right and too long.

const coach = document.querySelector(".coach-hold");

if (coach) {
  const [button, clock, words] = [coach.querySelector("button"), coach.querySelector(".still-clock"), coach.querySelector(".hold-words")];
  const least = Number(coach.dataset.least), most = Number(coach.dataset.most);
  let began = 0, timer = 0;
  const show = () => {
    const held = (performance.now() - began) / 1000;
    clock.textContent = `${held.toFixed(1)} s`;
    const now = most && held > most ? "long" : held < least ? "short" : "right";
    if (coach.dataset.now !== now) { coach.dataset.now = now; words.textContent = words.dataset[now]; }
  };
  const stop = () => { clearInterval(timer); timer = 0; };
  const start = (event) => {
    if (timer || (event.type === "keydown" && event.key !== " ")) return;
    event.preventDefault();
    began = performance.now(); show(); timer = setInterval(show, 50);
  };
  coach.hidden = false;
  button.addEventListener("pointerdown", start);
  button.addEventListener("keydown", start);
  for (const name of ["pointerup", "pointerleave", "pointercancel", "keyup", "blur"]) button.addEventListener(name, stop);
}
