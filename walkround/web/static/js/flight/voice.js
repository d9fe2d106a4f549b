// What is said aloud: speech where there is some, so many tones where there is none; mute is remembered on this device.

import { beep } from "../sound.js";

const TONES = { routine: 0, time: 1, turn: 2, land: 4 };
const KEPT = "walkround-speaks";

export const speaks = () => localStorage.getItem(KEPT) !== "off";
export function speak(on) {
  localStorage.setItem(KEPT, on ? "on" : "off");
  if (!on) window.speechSynthesis?.cancel();
}
export const canSpeak = () => Boolean(window.speechSynthesis && window.SpeechSynthesisUtterance);

export function say(text, tone) {
  if (!speaks()) return;
  if (!canSpeak()) { if (TONES[tone]) beep(TONES[tone]); return; }
  if (tone === "turn" || tone === "land") { window.speechSynthesis.cancel(); beep(TONES[tone]); }
  const words = new SpeechSynthesisUtterance(text);
  words.lang = "en";
  window.speechSynthesis.speak(words);
}
