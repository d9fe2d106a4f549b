// What is noted in the air waits on this device until the server has it. Each note has an id: sent twice, it is there once.

const KEPT = "walkround-notes";
let sending = false;

const all = () => JSON.parse(localStorage.getItem(KEPT) || "[]");
const keep = (notes) => localStorage.setItem(KEPT, JSON.stringify(notes));

export const waiting = (round) => all().filter((note) => note.round === round);

function newId() {
  if (crypto.randomUUID) return crypto.randomUUID();
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join("");
}

export function add(round, url, kind, at, values) {
  keep([...all(), { round, url, uid: newId(), kind, at: new Date(at).toISOString(), values }]);
}

// Sends in order, one after the other. Gives what the server said to each; stops where the server cannot be reached, and passes over a note that
// it did not take: that one waits for the next time.
export async function send(told) {
  if (sending) return;
  sending = true;
  try {
    for (const note of all()) {
      const body = new URLSearchParams({ ...note.values, uid: note.uid, kind: note.kind, at: note.at });
      let said = null;
      try {
        const answer = await fetch(note.url, { method: "POST", body, headers: { Accept: "application/json" } });
        if (answer.headers.get("content-type")?.startsWith("application/json") && answer.status < 500) said = await answer.json();
      } catch { told(note, null); return; }
      if (said) keep(all().filter((other) => other.uid !== note.uid));
      told(note, said);
    }
  } finally { sending = false; }
}
