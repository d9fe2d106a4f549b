// What the device knows or does: its time zone, its screen, its position.

// A new field starts with the time zone of this device.
document.addEventListener("DOMContentLoaded", () => {
  const zone = document.querySelector("input[name=timezone]");
  if (zone && zone.value === "") zone.value = Intl.DateTimeFormat().resolvedOptions().timeZone || "";
});

// What only a secure page may ask of the device. Where it may not, or the device says no, the way by hand stands beside it.
async function keepScreenOn() {
  const says = document.querySelector("[data-awake]");
  if (!says) return;
  try {
    await navigator.wakeLock.request("screen");
    says.hidden = true;
  } catch {
    says.hidden = false;
  }
}
document.addEventListener("DOMContentLoaded", keepScreenOn);
document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible") keepScreenOn(); });

document.addEventListener("DOMContentLoaded", () => {
  for (const button of document.querySelectorAll("[data-locate]")) {
    if (!window.isSecureContext || !navigator.geolocation) continue;
    button.hidden = false;
    button.addEventListener("click", () => {
      const says = document.getElementById(`${button.dataset.locate}-says`);
      says.textContent = "Asking this device.";
      navigator.geolocation.getCurrentPosition(
        ({ coords }) => {
          document.getElementById(button.dataset.locate).value = `${coords.latitude.toFixed(6)}, ${coords.longitude.toFixed(6)}`;
          says.textContent = `Taken, to about ${Math.ceil(coords.accuracy)} m. Check it on the plan.`;
        },
        () => { says.textContent = "This device gave no position. Type or paste it."; },
        { enableHighAccuracy: true, timeout: 20000, maximumAge: 0 },
      );
    });
  }
});
