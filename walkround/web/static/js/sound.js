// Sound and figures of a clock.

export function beep(times) {
  try {
    const sound = new AudioContext();
    for (let i = 0; i < times; i += 1) {
      const tone = sound.createOscillator();
      const loud = sound.createGain();
      tone.frequency.value = 880;
      loud.gain.setValueAtTime(0.25, sound.currentTime + i * 0.3);
      loud.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + i * 0.3 + 0.22);
      tone.connect(loud).connect(sound.destination);
      tone.start(sound.currentTime + i * 0.3);
      tone.stop(sound.currentTime + i * 0.3 + 0.24);
    }
    setTimeout(() => sound.close(), times * 300 + 500);
  } catch { /* no sound on this device */ }
}

export function clock(seconds) {
  return `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;
}
