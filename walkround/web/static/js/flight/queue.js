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

// Sends in order, one after the other. Gives what the server said to each; stops at the first that does not get through.
export async function send(told) {
  if (sending) return;
  sending = true;
  try {
    while (all().length) {
      const note = all()[0];
      const body = new URLSearchParams({ uid: note.uid, kind: note.kind, at: note.at, ...note.values });
      let answer;
      try {
        answer = await fetch(note.url, { method: "POST", body, headers: { Accept: "application/json" } });
      } catch { told(note, null); return; }
      const json = answer.headers.get("content-type")?.startsWith("application/json");
      if (!json || answer.status >= 500) { told(note, null); return; } // signed out, or the server is not well: it waits
      keep(all().filter((other) => other.uid !== note.uid));
      told(note, await answer.json());
    }
  } finally { sending = false; }
}
