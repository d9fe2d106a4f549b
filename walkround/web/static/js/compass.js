// The compass as it is turned: the ball filling sector by sector, which turn comes next, how old the values are. What it means is said by the server.

const BANDS = 8, ROUND = 12;
const live = document.querySelector("[data-live]");

function ball(canvas) {
  // A canvas knows no variables and no light-dark(): an element tells what they are here.
  const colour = (name) => { canvas.style.color = `var(${name})`; return getComputedStyle(canvas).color; };
  const [green, line, card, ink] = ["--green", "--line", "--card", "--focus"].map(colour);
  const draw = canvas.getContext("2d");
  let sectors = [], turned = 0, turning = false;
  const trail = []; // the newest directions, about their own middle
  const point = (z, angle) => {
    const level = Math.sqrt(Math.max(0, 1 - z * z));
    const x = level * Math.cos(angle + turned), y = level * Math.sin(angle + turned);
    return [150 + 138 * y, 150 - 138 * (0.94 * z - 0.34 * x), x * 0.94 + z * 0.34];
  };
  const frame = () => {
    draw.clearRect(0, 0, 300, 300);
    draw.fillStyle = card; draw.strokeStyle = line; draw.lineWidth = 2;
    draw.beginPath(); draw.arc(150, 150, 140, 0, 2 * Math.PI); draw.fill(); draw.stroke();
    for (let i = 0; i < BANDS * ROUND; i += 1) {
      const band = Math.floor(i / ROUND), turn = i % ROUND;
      const corners = [[0, 0], [0, 1], [1, 1], [1, 0]].map(([dz, da]) => point(((band + dz) / BANDS) * 2 - 1, ((turn + da) / ROUND) * 2 * Math.PI));
      if (corners.some(([, , near]) => near < -0.15)) continue;
      draw.beginPath();
      corners.forEach(([x, y], k) => (k ? draw.lineTo(x, y) : draw.moveTo(x, y)));
      draw.closePath();
      if (sectors[i]) { draw.fillStyle = green; draw.fill(); }
      draw.strokeStyle = line; draw.lineWidth = 1; draw.stroke();
    }
    const middle = [0, 1, 2].map((k) => trail.reduce((sum, one) => sum + one[k], 0) / (trail.length || 1));
    draw.fillStyle = ink;
    for (const one of trail.slice(-40)) {
      const off = one.map((v, k) => v - (trail.length > 200 ? middle[k] : 0));
      const long = Math.hypot(...off) || 1;
      const [x, y, near] = point(off[2] / long, Math.atan2(off[1], off[0]));
      if (near > 0) { draw.beginPath(); draw.arc(x, y, 3, 0, 2 * Math.PI); draw.fill(); }
    }
    turned += 0.006;
    if (turning && canvas.isConnected) requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
  // It turns only while something comes: at rest it costs no charge.
  const run = (on) => { if (on && !turning) requestAnimationFrame(frame); turning = on; };
  return { run, fill: (given) => { sectors = given; }, add: (given) => { trail.push(...given); trail.splice(0, Math.max(0, trail.length - 1500)); } };
}

if (live) {
  const show = ball(live.querySelector(".ball"));
  const paths = live.querySelectorAll(".flat path");
  const say = (name, words) => { live.querySelector(name).textContent = words; };
  let seen = 0, heard = 0, source = null;
  const age = () => {
    if (!source) return;
    const old = (performance.now() - heard) / 1000;
    say(".live-age", old > 1.5 ? `These values are ${old.toFixed(0)} s old: the connection is being made again.` : `${seen} readings, ${old.toFixed(1)} s old.`);
  };
  setInterval(age, 200);
  live.querySelector("[data-begin]").addEventListener("click", (event) => {
    event.currentTarget.hidden = true;
    const end = live.querySelector("[data-end]"), speed = live.querySelector("[data-speed]");
    end.hidden = false;
    end.addEventListener("click", () => stop(), { once: true });
    heard = performance.now();
    show.run(true);
    source = new EventSource(live.dataset.live + (speed ? `&speed=${speed.value}` : ""));
    source.addEventListener("message", (message) => {
      const told = JSON.parse(message.data);
      heard = performance.now(); seen = told.many;
      show.fill(told.sectors);
      told.sectors.forEach((there, i) => paths[i].classList.toggle("seen", Boolean(there)));
      say(".live-next", told.next || "Every direction is seen.");
      live.querySelector("[name=many]").value = told.many;
      if (told.enough) live.querySelector("[data-keep]").hidden = false;
      say(".live-words", `${told.words} Scatter ${told.scatter}, ${told.left_out} left out as far off.`);
    });
    source.addEventListener("frames", (message) => { heard = performance.now(); show.add(JSON.parse(message.data)); });
    const stop = () => {
      source?.close(); source = null; end.hidden = true; show.run(false);
      say(".live-age", `${seen} readings.`);
      live.querySelector("[data-keep]").hidden = false;
      live.querySelector("[data-keep]").focus();
    };
    source.addEventListener("done", stop);
  });
}

// The stand-in is turned with a finger or the arrow keys: drag along for yaw and pitch, with shift or two fingers for roll.
const hand = live?.querySelector("canvas[data-turn]");
if (hand) {
  const at = { roll: 0, pitch: 0, yaw: 0 };
  let last = null, sending = false, again = false;
  const send = async () => {
    if (sending) { again = true; return; }
    sending = true;
    const body = new URLSearchParams({ seed: hand.dataset.seed, roll: at.roll.toFixed(1), pitch: at.pitch.toFixed(1), yaw: at.yaw.toFixed(1) });
    try { await fetch(hand.dataset.turn, { method: "POST", body }); } finally { sending = false; }
    if (again) { again = false; send(); }
  };
  const by = (dx, dy, roll) => {
    at.yaw = (at.yaw + dx) % 360;
    if (roll) at.roll = (at.roll + dy) % 360; else at.pitch = (at.pitch - dy) % 360;
    send();
  };
  hand.addEventListener("pointerdown", (event) => { last = [event.clientX, event.clientY]; hand.setPointerCapture(event.pointerId); });
  hand.addEventListener("pointermove", (event) => {
    if (!last) return;
    by((event.clientX - last[0]) * 0.8, (event.clientY - last[1]) * 0.8, event.shiftKey || !event.isPrimary);
    last = [event.clientX, event.clientY];
  });
  for (const end of ["pointerup", "pointercancel"]) hand.addEventListener(end, () => { last = null; });
  hand.addEventListener("keydown", (event) => {
    const step = { ArrowLeft: [-8, 0], ArrowRight: [8, 0], ArrowUp: [0, -8], ArrowDown: [0, 8] }[event.key];
    if (step) { event.preventDefault(); by(...step, event.shiftKey); }
  });
}

const speak = document.querySelector("[data-speak]");
if (speak && "speechSynthesis" in window) {
  speak.hidden = false;
  speak.addEventListener("click", () => {
    speechSynthesis.cancel();
    for (const step of document.querySelectorAll("[data-say]")) speechSynthesis.speak(new SpeechSynthesisUtterance(step.dataset.say));
  });
}

const quiet = document.querySelector("[data-still]");
quiet?.querySelector("[data-begin]").addEventListener("click", (event) => {
  event.currentTarget.hidden = true;
  const source = new EventSource(quiet.dataset.still);
  source.addEventListener("message", (message) => {
    const told = JSON.parse(message.data);
    quiet.querySelector(".still-clock").textContent = told.done ? "Still long enough" : `${told.quiet.toFixed(0)} of ${told.needed.toFixed(0)} s`;
    quiet.querySelector(".still-words").textContent = told.moved ? `It was moved ${told.moved} times: the seconds started again.` : "";
    if (told.done) source.close();
  });
});

// Without values: from power to its own signal by the clock; what is slow was worked out by the server.
const timed = document.querySelector("[data-start]");
if (timed) {
  const [powered, clock, slow, field] = ["[data-powered]", "[data-clock]", "[data-slow]", "input[name=start_s]"].map((one) => timed.querySelector(one));
  let began = 0, timer = null;
  powered.hidden = false;
  powered.addEventListener("click", () => {
    if (!timer) {
      began = performance.now(); clock.hidden = false; powered.textContent = "Its own signal came";
      timer = setInterval(() => {
        const gone = (performance.now() - began) / 1000;
        clock.textContent = `${gone.toFixed(0)} s`;
        slow.hidden = !(timed.dataset.late && gone > Number(timed.dataset.late));
      }, 200);
      return;
    }
    clearInterval(timer);
    field.value = ((performance.now() - began) / 1000).toFixed(1);
    timed.requestSubmit();
  });
}

// A phone lying on the surface says its tilt, where the browser allows it; some ask first, and only when they are tapped.
const tilt = document.querySelector("[data-tilt]");
if (tilt && "DeviceOrientationEvent" in window) {
  const ask = document.querySelector("[data-ask-tilt]"), use = document.querySelector("[data-use-tilt]");
  let lies = 0;
  addEventListener("deviceorientation", (event) => {
    if (event.beta === null || event.gamma === null) return;
    ask.hidden = true;
    lies = Math.max(Math.abs(event.beta), Math.abs(event.gamma));
    tilt.hidden = use.hidden = false;
    tilt.textContent = `This phone lies ${lies.toFixed(1)}° from level.`;
  });
  use.addEventListener("click", () => { document.querySelector("input[name=tilt]").value = lies.toFixed(1); });
  if (typeof DeviceOrientationEvent.requestPermission === "function") {
    ask.hidden = false;
    ask.addEventListener("click", () => DeviceOrientationEvent.requestPermission());
  }
}

// What the flight controller reports now, and how old it is.
const values = document.querySelector("[data-values]");
values?.querySelector("[data-begin]").addEventListener("click", (event) => {
  const begin = event.currentTarget, end = values.querySelector("[data-end]"), age = values.querySelector(".live-age");
  let heard = performance.now();
  const source = new EventSource(values.dataset.values);
  const tick = setInterval(() => {
    const old = (performance.now() - heard) / 1000;
    age.textContent = old > 1.5 ? `These values are ${old.toFixed(0)} s old: the connection is being made again.` : `${old.toFixed(1)} s old.`;
  }, 200);
  const stop = () => { source.close(); clearInterval(tick); age.textContent = "Stopped: these values stay as they were."; begin.hidden = false; end.hidden = true; };
  begin.hidden = true; end.hidden = false;
  source.addEventListener("message", (message) => {
    heard = performance.now();
    const told = JSON.parse(message.data).values;
    for (const one of values.querySelectorAll("[data-value]")) one.textContent = told[one.dataset.value] ?? "";
  });
  source.addEventListener("done", stop);
  end.addEventListener("click", stop, { once: true });
});
