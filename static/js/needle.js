// A linked indicator: its needle is asked for some times a second, and a reading goes into the open cell as if it were
// typed there. What stands still, what has moved and what a press is, the server says; nothing is judged here.
import { newId } from "./entries/id.js";
import { token } from "./entries/sender.js";

const ASK_MS = 140; // a needle followed seven times a second looks live; a request takes a tenth of that
const SLOW_MS = 1500; // while the gauge is silent or the page is not seen

const KEY = "gyrometra-listens"; // a reload goes on listening
let ears = null; // { link, listener, after, taken, moved, auto, presses, wait }
let timer = 0;

const section = () => document.querySelector("[data-link]");
const at = (name) => section()?.querySelector(`[data-needle-${name}]`);

function remember() {
  try {
    if (ears) window.sessionStorage.setItem(KEY, JSON.stringify({ ...ears, presses: [] }));
    else window.sessionStorage.removeItem(KEY);
  } catch {
    // it goes on without
  }
}

function remembered() {
  try {
    return JSON.parse(window.sessionStorage.getItem(KEY) || "null");
  } catch {
    return null;
  }
}

function say(words) {
  const line = at("state");
  if (line && line.textContent !== words) line.textContent = words;
}

function showButtons() {
  const here = section();
  if (!here) return;
  const on = ears !== null && ears.link === here.dataset.link;
  here.classList.toggle("on", on);
  at("listen").hidden = on;
  for (const name of ["take", "auto-label", "stop"]) at(name).hidden = !on;
  at("auto").checked = on && ears.auto;
}

async function startListening() {
  const here = section();
  const listener = newId();
  try {
    const answer = await fetch(here.dataset.listenUrl, {
      method: "POST", body: new URLSearchParams({ listener }), headers: { "X-CSRFToken": token(), "HX-Request": "true" },
    });
    if (!answer.ok) throw new Error(String(answer.status));
    ears = { link: here.dataset.link, listener, after: (await answer.json()).after, taken: "", moved: false, auto: false, presses: [] };
  } catch {
    say("Not listening: the server does not answer. Press again.");
    return;
  }
  remember();
  showButtons();
  document.activeElement?.blur?.();
  ask();
}

function stopListening(words) {
  ears = null;
  window.clearTimeout(timer);
  remember();
  showButtons();
  if (at("value")) at("value").textContent = "·";
  say(words);
}

// One question at a time: asked anew, the one on its way is not heard any more.
let asking = 0;

async function ask() {
  window.clearTimeout(timer);
  const own = ++asking;
  const here = section();
  if (!ears || !here || here.dataset.link !== ears.link) {
    if (ears) ears.live = null; // an old stand of the needle is never taken for a new one
    return;
  }
  let wait = document.hidden ? SLOW_MS : ASK_MS;
  const asked = ears;
  const query = new URLSearchParams({
    listener: ears.listener, after: ears.after, taken: ears.taken, moved: ears.moved ? "1" : "0", unit: here.dataset.unit,
  });
  try {
    const answer = await fetch(`${here.dataset.needleUrl}?${query}`, { headers: { "HX-Request": "true" }, signal: AbortSignal.timeout(5000) });
    if (!answer.ok) throw new Error(String(answer.status));
    const told = await answer.json();
    if (ears !== asked || own !== asking) return;
    if (told.state === "elsewhere") return stopListening(`Listened to on another page${told.who ? `, by ${told.who}` : ""}.`);
    if (told.state === "silent") {
      say("The gauge sends nothing.");
      at("value").textContent = "·";
      ears.live = null;
      wait = SLOW_MS / 3;
    } else hear(told);
  } catch {
    if (own !== asking) return;
    ears.live = null;
    say("Offline: the needle is not seen. It is asked again.");
    wait = SLOW_MS;
  }
  timer = window.setTimeout(ask, wait);
}

function hear(told) {
  ears.live = told;
  ears.moved = told.moved;
  if (at("value").textContent !== told.value) at("value").textContent = told.value;
  const hand = section().querySelector("[data-hand]");
  hand?.setAttribute("transform", `rotate(${360 * told.turn} 88 88)`);
  for (const press of told.presses) {
    ears.after = press.pk;
    ears.presses.push(press);
  }
  const waits = ears.auto && !told.moved;
  say(told.still ? (waits ? "Still; waits until it moves." : "Stands still.") : "Moves.");
  if (ears.presses.length) takeNext();
  else if (ears.auto && told.still && told.moved) put(told, newId());
  remember();
}

// Pressed at the gauge: one after the other, each into the cell that is open then.
function takeNext() {
  const press = ears.presses[0];
  const cell = openCell();
  if (!cell) {
    if (document.querySelector(form())) return; // one is on its way: the next cell opens with its answer
    ears.presses = [];
    return say("Pressed while no place was open: not taken.");
  }
  ears.presses.shift();
  put(press, press.id);
}

// Where it is read into: a reading line, or of a bore gauge the size.
const form = () => (section()?.dataset.gauge ? "form[data-entry=size]" : "[data-reading]");

function openCell() {
  const cell = document.querySelector(`${form()} [data-active-cell]`);
  return cell && !cell.value && !cell.form.hasAttribute("aria-busy") ? cell : null;
}

function put(read, id) {
  const cell = openCell();
  if (!cell || !ears) return;
  cell.value = read.text;
  cell.form.querySelector("[name=source]").value = "link";
  if (section().dataset.gauge) cell.form.querySelector("[name=gauge]").value = section().dataset.gauge;
  cell.form.querySelector("[name=client_id]").value = id;
  ears.taken = String(read.mm);
  ears.moved = false;
  cell.form.requestSubmit();
}

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-needle-listen]")) startListening();
  else if (event.target.closest("[data-needle-stop]")) stopListening("Not listened to.");
  else if (event.target.closest("[data-needle-take]") && ears?.live) put(ears.live, newId());
});
document.addEventListener("change", (event) => {
  if (!event.target.matches("[data-needle-auto]") || !ears) return;
  ears.auto = event.target.checked;
  remember();
});
// Space takes the reading, wherever the focus is; in a cell that has text it is a space.
document.addEventListener("keydown", (event) => {
  if (event.key !== " " || !ears?.live || event.target.closest("button, a, summary, select, textarea, input[type=checkbox]")) return;
  if (event.target.matches("input") && (!event.target.matches("[data-active-cell]") || event.target.value)) return;
  event.preventDefault();
  put(ears.live, newId());
});
for (const name of ["htmx:afterSettle", "entry:moved"])
  document.addEventListener(name, () => {
    showButtons();
    if (ears?.presses.length) takeNext();
    if (ears) ask();
  });
document.addEventListener("visibilitychange", () => !document.hidden && ears && ask());

ears = remembered();
if (ears) ears.presses = [];
showButtons();
if (ears && section()) ask();
