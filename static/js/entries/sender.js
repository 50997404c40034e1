// Sends what is kept: one entry at a time, in the order of its round or pass, from one tab, until each is answered.
import { all, alone, mark, remove } from "./store.js";

const LIMIT_MS = 10000; // a request that hangs is given up, and sent again
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30000;

// Answers by which the server or what stands before it is away for everything, not for one entry.
const ALL_AWAY = [0, 429, 502, 503, 504];

const state = { away: false, signedOut: false, other: "", wait: FIRST_WAIT_MS, timer: 0, busy: false, again: false };
let answered = () => {};
let changed = () => {};

export const user = () => document.body.dataset.user || "";
export const sending = state;

export function onAnswer(heard, moved) {
  answered = heard;
  changed = moved;
}

// As the cookie has it now: a form of before a new sign-in carries an old one.
export function token() {
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

// Why the server takes nothing, where it knows.
export const awayWhy = (headers) => decodeURIComponent(headers.get("X-Away-Why") || "");

// What the server said of this entry by its own id; anything else is no answer to it.
async function send(entry) {
  const body = new URLSearchParams(entry.fields);
  body.set("age_ms", String(Math.max(0, Date.now() - entry.typed)));
  const stop = new AbortController();
  const limit = setTimeout(() => stop.abort(), LIMIT_MS);
  try {
    const answer = await fetch(entry.url, {
      method: "POST", body, redirect: "manual", signal: stop.signal, credentials: "same-origin",
      headers: { "X-CSRFToken": token(), "HX-Request": "true" },
    });
    const [id, became] = (answer.headers.get("X-Entry") || "").split(" ");
    // a redirect is somebody else's: our server answers 401 to an entry of a session that has ended
    if (answer.status === 401) return { became: "signed-out" };
    if (id !== entry.id) return { became: "away", status: answer.status, awayWhy: awayWhy(answer.headers) };
    const why = decodeURIComponent(answer.headers.get("X-Entry-Why") || "");
    return { became, why, status: answer.status, html: await answer.text() };
  } catch {
    return { became: "away", status: 0 };
  } finally {
    clearTimeout(limit);
  }
}

// One pass over all that is kept. A group whose entry is not answered waits; the others go on.
async function pass() {
  const waiting = new Set();
  state.signedOut = false;
  state.other = "";
  for (;;) {
    const next = (await all()).find((one) => one.state === "kept" && one.user === user() && !waiting.has(one.group));
    if (!next) return;
    const found = await send(next);
    if (found.became === "stored") await remove(next.id);
    else if (found.became === "refused") await mark(next.id, { state: "refused", why: found.why });
    else if (found.became === "other") {
      state.other = found.why;
      waiting.add(next.group);
    } else {
      await mark(next.id, { tries: (next.tries || 0) + 1, status: found.status ?? 0, awayWhy: found.awayWhy });
      waiting.add(next.group);
      if (found.became === "signed-out") state.signedOut = true;
      else state.away = true;
    }
    answered(next, found);
    if (state.signedOut || (found.became === "away" && ALL_AWAY.includes(found.status))) return;
    changed();
  }
}

export async function sendAll() {
  if (state.busy) {
    state.again = true;
    return;
  }
  state.busy = true;
  window.clearTimeout(state.timer);
  try {
    do {
      state.again = false;
      await alone("gyrometra-sender", pass);
    } while (state.again);
    const left = (await all()).some((one) => one.state === "kept" && one.user === user());
    if (!left) state.away = state.signedOut = false;
    state.wait = left ? Math.min(LONGEST_WAIT_MS, 2 * state.wait) : FIRST_WAIT_MS;
    if (left && !state.signedOut) state.timer = window.setTimeout(sendAll, state.wait * (0.75 + Math.random() / 2));
  } finally {
    state.busy = false;
    changed();
  }
}

// The server may be back: at once, and from the shortest wait on.
export function sendSoon() {
  state.wait = FIRST_WAIT_MS;
  return sendAll();
}
