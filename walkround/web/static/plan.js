// Moves the plan of a field: pan, zoom, drag, taps, keys. What may lie where is said by the server after each change.
"use strict";

(() => {
  let view = null; // middle of what is seen in m, and metres for one pixel; kept while the plan is swapped
  let drawn = null; // the view as it was last drawn; a moved view is that picture, shifted, until the hand rests
  let plan = null;
  let map = null;
  let svg = null;
  let first = null;
  let lift = null; // what is being dragged, on a sheet of its own, so that nothing else is painted anew
  let settle = null;
  let taps = null; // points being tapped in, or null
  const fingers = new Map();
  let drag = null;
  const ROOM = 2; // the picture is so many times as wide and high as its frame

  const selected = () => svg.querySelector(".thing-on.held");
  const bounded = (mpp) => Math.min(20, Math.max(0.02, mpp));

  function fit() {
    view = { x: first.x + first.width / 2, y: first.y + first.height / 2, mpp: Math.max(first.width / map.clientWidth, first.height / map.clientHeight) };
  }

  // Draw the view anew.
  function draw() {
    clearTimeout(settle);
    const { clientWidth: wide, clientHeight: high } = map;
    view.mpp = bounded(view.mpp);
    const [w, h] = [wide * view.mpp * ROOM, high * view.mpp * ROOM];
    svg.setAttribute("viewBox", `${view.x - w / 2} ${view.y - h / 2} ${w} ${h}`);
    svg.style.transform = "";
    drawn = { ...view };
    if (svg.dataset.mpp === String(view.mpp)) return; // a shift alone styles nothing anew
    svg.dataset.mpp = view.mpp;
    svg.style.setProperty("--mpp", view.mpp);
    svg.classList.toggle("near", view.mpp < 0.6);
    svg.classList.toggle("far", view.mpp > 1.6);
    const bar = plan.querySelector(".scale-bar");
    const most = view.mpp * 150;
    const step = 10 ** Math.floor(Math.log10(most));
    const metres = step * (most / step >= 5 ? 5 : most / step >= 2 ? 2 : 1);
    bar.hidden = false;
    bar.querySelector("i").style.width = `${metres / view.mpp}px`;
    bar.querySelector("b").textContent = metres >= 1000 ? `${metres / 1000} km` : `${metres} m`;
  }

  // Shift the picture to the view; it is drawn when the hand rests.
  function show() {
    const scale = drawn.mpp / view.mpp;
    svg.style.transform = `translate(${(drawn.x - view.x) / view.mpp}px, ${(drawn.y - view.y) / view.mpp}px) scale(${scale})`;
    clearTimeout(settle);
    settle = setTimeout(draw, 160);
  }

  function zoom(times, at) {
    const box = map.getBoundingClientRect();
    const dx = at ? at.x - box.left - box.width / 2 : 0;
    const dy = at ? at.y - box.top - box.height / 2 : 0;
    const before = view.mpp;
    view.mpp = bounded(before / times);
    view.x += dx * (before - view.mpp);
    view.y += dy * (before - view.mpp);
    show();
  }

  const metresAt = (event) => {
    const box = map.getBoundingClientRect();
    return [view.x + (event.clientX - box.left - box.width / 2) * view.mpp, view.y + (event.clientY - box.top - box.height / 2) * view.mpp];
  };
  const say = (words) => { plan.querySelector(".plan-says").textContent = words; };

  function send(url, values) {
    window.htmx.ajax("POST", `${url}?${plan.dataset.query}`, { target: "#plan", swap: "outerHTML", values });
  }
  const edit = (values) => send(plan.dataset.edit, values);
  const pick = (key) => window.htmx.ajax("GET", `${plan.dataset.see}?sel=${key}&${plan.dataset.query}`, { target: "#plan", swap: "outerHTML" });

  // Taps that make a new thing.
  function drawTaps() {
    const path = taps.length ? `M${taps.map(([x, y]) => `${x},${y}`).join(" L")}${taps.length === 1 ? " h0" : ""}` : "";
    svg.querySelector(".drawing").setAttribute("d", path);
    plan.querySelector("[data-tapped]").hidden = taps.length === 0;
  }

  function endTaps() {
    taps = null;
    plan.classList.remove("tapping");
    svg.querySelector(".drawing").setAttribute("d", "");
    say("");
  }

  function sendTaps() {
    const values = Object.fromEntries(new FormData(document.getElementById("new-mark")));
    values.at = taps.map(([x, y]) => `${x.toFixed(2)},${(-y).toFixed(2)}`).join(" ");
    endTaps();
    send(plan.dataset.add, values);
  }

  const shape = () => document.getElementById("f-kind").selectedOptions[0].dataset.shape;

  function tapped(event) {
    taps.push(metresAt(event));
    drawTaps();
    if (shape() === "point") sendTaps();
    else say(shape() === "line" ? "Tap along it, then Done." : "Tap its corners in order, then Done.");
  }

  // Dragging: the view, a thing in hand, or one of its corners.
  function cornersOf(thing) {
    return [...thing.querySelectorAll(".corner")].map((corner) => corner.getAttribute("transform").match(/-?[\d.]+/g).map(Number));
  }

  // A copy of the thing on a sheet of its own, laid over the picture.
  function raise(thing) {
    if (settle) draw();
    lift = svg.cloneNode(false);
    const { clientWidth: wide, clientHeight: high } = map;
    lift.setAttribute("viewBox", `${view.x - wide * view.mpp / 2} ${view.y - high * view.mpp / 2} ${wide * view.mpp} ${high * view.mpp}`);
    for (const name of ["tabindex", "role", "aria-label", "aria-roledescription"]) lift.removeAttribute(name);
    lift.setAttribute("aria-hidden", "true");
    lift.classList.remove("roomy");
    lift.classList.add("lift");
    const copy = thing.cloneNode(true);
    for (const part of copy.querySelectorAll("[tabindex]")) part.removeAttribute("tabindex");
    if (thing.dataset.thing === "launch") lift.append(svg.querySelector(".launch-ring").cloneNode(true));
    lift.append(copy);
    svg.after(lift);
    return copy;
  }

  function lower() {
    lift?.remove();
    lift = null;
    svg.querySelector(".raised")?.classList.remove("raised");
  }

  function begin(event) {
    const thing = event.target.closest(".thing-on");
    const corner = event.target.closest(".corner");
    const middle = event.target.closest(".middle");
    const held = thing?.classList.contains("held") && !taps;
    drag = { x: event.clientX, y: event.clientY, view: { ...view }, thing, held, corner: held ? corner : null, middle: held ? middle : null, moved: false };
    if (drag.corner) drag.points = cornersOf(thing);
    if (held && !drag.middle) drag.copy = raise(thing);
  }

  function move(event) {
    const dx = event.clientX - drag.x;
    const dy = event.clientY - drag.y;
    if (!drag.moved && Math.hypot(dx, dy) < 6) return;
    if (!drag.moved && drag.copy) drag.thing.classList.add("raised");
    drag.moved = true;
    if (drag.corner) {
      const at = Number(drag.corner.dataset.corner);
      const points = drag.points.map(([x, y], i) => (i === at ? [x + dx * view.mpp, y + dy * view.mpp] : [x, y]));
      drag.to = points[at];
      drag.copy.querySelectorAll(".corner")[at].setAttribute("transform", `translate(${points[at][0]} ${points[at][1]})`);
      const body = drag.copy.querySelector(".body");
      body.setAttribute("d", `M${points.map((p) => p.join(",")).join(" L")}${body.getAttribute("d").endsWith("Z") ? "Z" : ""}`);
    } else if (drag.copy) {
      drag.by = [dx * view.mpp, dy * view.mpp];
      lift.style.transform = `translate(${dx}px, ${dy}px)`;
    } else {
      view.x = drag.view.x - dx * view.mpp;
      view.y = drag.view.y - dy * view.mpp;
      show();
    }
  }

  function end(event) {
    const done = drag;
    drag = null;
    if (!done) return;
    const key = done.thing?.dataset.thing;
    if (!done.copy && done.moved) draw();
    if (!done.moved) lower();
    if (!done.moved) {
      if (taps) tapped(event);
      else if (done.middle) edit({ do: "bend", key, corner: done.middle.dataset.bend });
      else if (done.thing && !done.held) pick(key);
      else if (!done.thing && selected()) pick("");
    } else if (done.corner) {
      edit({ do: "move", key, corner: done.corner.dataset.corner, at: `${done.to[0].toFixed(2)},${(-done.to[1]).toFixed(2)}` });
    } else if (done.copy) {
      edit({ do: "move", key, at: `${done.by[0].toFixed(2)},${(-done.by[1]).toFixed(2)}` });
    }
  }

  const spread = () => {
    const [a, b] = [...fingers.values()];
    return { wide: Math.hypot(a.x - b.x, a.y - b.y), x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  };

  document.addEventListener("pointerdown", (event) => {
    if (!svg || !svg.contains(event.target) || event.button > 0) return;
    fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
    svg.setPointerCapture(event.pointerId);
    if (fingers.size === 1) begin(event);
    else { lower(); drag = null; }
  });
  document.addEventListener("pointermove", (event) => {
    if (!fingers.has(event.pointerId)) return;
    if (fingers.size === 2) {
      const before = spread();
      fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
      const now = spread();
      view.x -= (now.x - before.x) * view.mpp;
      view.y -= (now.y - before.y) * view.mpp;
      zoom(now.wide / Math.max(1, before.wide), now);
      return;
    }
    fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
    if (drag) move(event);
  });
  for (const name of ["pointerup", "pointercancel"]) {
    document.addEventListener(name, (event) => {
      if (!fingers.delete(event.pointerId)) return;
      if (name === "pointerup") end(event);
      else {
        lower();
        drag = null;
      }
    });
  }

  // Keys: a thing in hand moves by metres, the view by a part of itself.
  const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
  let nudge = null;

  function nudged(thing, corner, [x, y], far) {
    const by = far ? 10 : 1;
    if (!nudge) nudge = { thing, corner, x: 0, y: 0 };
    nudge.x += x * by;
    nudge.y += y * by;
    clearTimeout(nudge.timer);
    if (corner) {
      const [cx, cy] = cornersOf(thing)[Number(corner.dataset.corner)];
      if (nudge.from === undefined) nudge.from = [cx, cy];
      corner.setAttribute("transform", `translate(${nudge.from[0] + nudge.x} ${nudge.from[1] + nudge.y})`);
    } else thing.setAttribute("transform", `translate(${nudge.x} ${nudge.y})`);
    nudge.timer = setTimeout(() => {
      const done = nudge;
      nudge = null;
      const key = thing.dataset.thing;
      if (corner) edit({ do: "move", key, corner: corner.dataset.corner, at: `${done.from[0] + done.x},${-(done.from[1] + done.y)}` });
      else edit({ do: "move", key, at: `${done.x},${-done.y}` });
    }, 450);
  }

  document.addEventListener("keydown", (event) => {
    if (!svg || !svg.contains(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    const thing = event.target.closest(".thing-on");
    const corner = event.target.closest(".corner");
    const arrow = ARROWS[event.key];
    if (arrow && thing?.classList.contains("held")) nudged(thing, corner, arrow, event.shiftKey);
    else if (arrow) { view.x += arrow[0] * 60 * view.mpp; view.y += arrow[1] * 60 * view.mpp; show(); }
    else if (event.key === "+" || event.key === "=") zoom(1.4);
    else if (event.key === "-") zoom(1 / 1.4);
    else if (event.key === "0") { fit(); draw(); }
    else if (event.key === "Escape" && taps) endTaps();
    else if (event.key === "Escape" && selected()) pick("");
    else if ((event.key === "Enter" || event.key === " ") && thing && !thing.classList.contains("held")) pick(thing.dataset.thing);
    else if ((event.key === "Delete" || event.key === "Backspace") && corner) edit({ do: "straighten", key: thing.dataset.thing, corner: corner.dataset.corner });
    else if ((event.key === "Delete" || event.key === "Backspace") && thing?.classList.contains("held")) edit({ do: "remove", key: thing.dataset.thing });
    else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  }, true);

  document.addEventListener("wheel", (event) => {
    if (!svg || !svg.contains(event.target) || !(event.ctrlKey || svg.contains(document.activeElement))) return;
    event.preventDefault();
    zoom(event.deltaY < 0 ? 1.15 : 1 / 1.15, { x: event.clientX, y: event.clientY });
  }, { passive: false });

  document.addEventListener("click", (event) => {
    if (!plan) return;
    const way = event.target.closest("[data-zoom]")?.dataset.zoom;
    if (way === "fit") { fit(); draw(); } else if (way) zoom(way === "in" ? 1.5 : 1 / 1.5);
    const picked = event.target.closest("[data-pick]");
    if (picked) { event.preventDefault(); pick(picked.dataset.pick); }
    if (event.target.closest("[data-tap]")) {
      taps = [];
      plan.classList.add("tapping");
      say(shape() === "point" ? "Tap where it stands." : shape() === "line" ? "Tap along it, then Done." : "Tap its corners in order, then Done.");
      if (map.getBoundingClientRect().top < 0 || map.getBoundingClientRect().top > window.innerHeight / 2) map.scrollIntoView({ block: "start" });
    }
    if (event.target.closest("[data-tapped]")) sendTaps();
  });

  // Only the sizes that a kind has are asked for.
  function sizes() {
    const kind = document.getElementById("f-kind");
    const chosen = kind?.selectedOptions[0]?.dataset;
    if (!chosen || !document.getElementById("new-mark")) return;
    document.getElementById("f-height").closest(".field").hidden = !chosen.stands;
    document.getElementById("f-radius").closest(".field").hidden = !chosen.round;
  }
  document.addEventListener("change", (event) => {
    if (event.target.id !== "f-kind") return;
    sizes();
    if (taps) { taps = []; drawTaps(); }
  });

  function setUp() {
    plan = document.getElementById("plan");
    map = plan?.querySelector(".plan-map") || null;
    svg = map?.querySelector(".plan-svg") || null;
    if (!svg) return;
    fingers.clear();
    taps = null;
    first = { ...svg.viewBox.baseVal, x: svg.viewBox.baseVal.x, y: svg.viewBox.baseVal.y, width: svg.viewBox.baseVal.width, height: svg.viewBox.baseVal.height };
    lift = null;
    svg.classList.add("roomy");
    if (!view) fit();
    draw();
    sizes();
  }

  let focused = null;
  document.addEventListener("htmx:beforeSwap", () => {
    const inside = svg?.contains(document.activeElement) ? document.activeElement : null;
    focused = inside ? { key: inside.closest(".thing-on")?.dataset.thing, corner: inside.closest(".corner")?.dataset.corner } : null;
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (document.getElementById("plan") === plan && event.target.id !== "plan") return;
    setUp();
    if (!focused || !svg) return;
    const thing = focused.key ? svg.querySelector(`.thing-on[data-thing="${CSS.escape(focused.key)}"]`) : null;
    (thing?.querySelector(`.corner[data-corner="${focused.corner}"]`) || thing?.querySelector(".grip") || svg).focus({ preventScroll: true });
  });
  for (const name of ["htmx:sendError", "htmx:timeout"]) document.addEventListener(name, () => { if (svg) lower(); });
  document.addEventListener("DOMContentLoaded", setUp);
  window.addEventListener("resize", () => { if (svg) { svg.dataset.mpp = ""; draw(); } });
})();
