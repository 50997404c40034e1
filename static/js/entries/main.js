// Entries of the logs: each is written to this browser's storage before it is sent, and stays there until the server
// has named it as stored, or as refused. Nothing is judged here; the server reads, guards and stores.
import { all, keep, keepsEntries, keepWhatWasNoted, note } from "./store.js";
import { newId } from "./id.js";
import { askPassword } from "./again.js";
import { onAnswer, sendAll, sending, sendSoon, user } from "./sender.js";
import { showKept, tellKeeps } from "./strip.js";

const PATIENCE_MS = 1500; // after that the next cell opens, and the answer comes when it comes
const FRESH_MS = 10000;
const tabs = "BroadcastChannel" in window ? new BroadcastChannel("gyrometra-entries") : null;
// Forms of this page whose entry is on its way, by its id.
const onTheirWay = new Map();
let old = false; // what this page shows is older than the log

const isUndo = (entry) => entry.url.includes("/take-back/");

function whereOf(form, fields, number) {
  const value = fields.find(([name]) => name === "value")?.[1] ?? "";
  const cell = form.querySelector(".cell.active .cn")?.textContent ?? "";
  return [value, form.dataset.entry, cell && `at ${cell}`, number].filter(Boolean).join(" ");
}

// The entry that a form and the pressed button make.
function entryOf(form, submitter) {
  const fields = [...new FormData(form, submitter ?? undefined).entries()]
    .filter(([name, value]) => typeof value === "string" && name !== "csrfmiddlewaretoken");
  const field = (name) => fields.find(([one]) => one === name)?.[1] ?? "";
  const seen = JSON.parse(field("seen"));
  const number = document.getElementById("page")?.dataset.number ?? "";
  return {
    id: field("client_id"), url: submitter?.getAttribute("formaction") || form.getAttribute("action"), fields,
    user: seen.by, unit: seen.unit, job: seen.job, setup: seen.setup, bore: seen.bore, piece: seen.piece,
    round: seen.round ?? null, group: [seen.job, seen.bore, seen.piece, seen.round ?? ""].join("."),
    where: whereOf(form, fields, number), form: form.dataset.entry, page: window.location.pathname,
    typed: Date.now(), state: "kept", why: "", tries: 0,
  };
}

// An undo names what it undoes: the newest entry that is kept and not undone yet, else what the page shows as last.
async function nameUndone(entry) {
  const stack = [];
  for (const one of await all()) {
    if (one.group !== entry.group || one.state !== "kept" || one.user !== entry.user) continue;
    if (isUndo(one)) stack.pop();
    else if (!/\/(remark|seen|between|round|centred)\//.test(one.url)) stack.push(one.id);
  }
  if (stack.length) entry.fields = [...entry.fields.filter(([name]) => name !== "undo"), ["undo", stack.at(-1)]];
}

async function take(form, submitter) {
  if (onTheirWay.has(form)) return; // a double tap
  const entry = entryOf(form, submitter);
  onTheirWay.set(form, entry.id);
  form.setAttribute("aria-busy", "true");
  form.dispatchEvent(new CustomEvent("entry:sending", { bubbles: true }));
  note(entry);
  if (isUndo(entry)) await nameUndone(entry);
  tellKeeps(await keep(entry));
  const later = window.setTimeout(() => moveOn(form, entry.id), sending.away || sending.signedOut ? 0 : PATIENCE_MS);
  form.dataset.later = String(later);
  sendAll();
}

document.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-entry]");
  if (!form) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  take(form, event.submitter);
}, true);

// The server does not answer yet: the entry is kept, and the page goes on to the next.
function moveOn(form, id) {
  if (onTheirWay.get(form) !== id) return;
  onTheirWay.delete(form);
  form.removeAttribute("aria-busy");
  form.dataset.kept = "yes";
  if (form.matches("[data-reading]")) openNextCell(form);
  else if (form.querySelector("[name=value]")) emptyField(form);
  else for (const one of form.querySelectorAll("button")) one.disabled = true; // what comes next follows from the answer
  document.dispatchEvent(new CustomEvent("entry:moved"));
  showKept();
}

function freshId(form) {
  form.querySelector("[name=client_id]").value = newId();
}

function emptyField(form) {
  form.querySelector("[name=value]").value = "";
  freshId(form);
}

function openNextCell(form) {
  const input = form.querySelector("[data-active-cell]");
  const place = form.querySelector("[name=place]");
  const here = input?.closest(".cell");
  if (!here) return;
  const next = here.nextElementSibling;
  const typed = document.createElement("b");
  typed.className = "cv heldvalue";
  typed.textContent = `${input.value} kept`;
  here.classList.remove("active");
  if (!next) {
    input.replaceWith(typed);
    return;
  }
  next.classList.add("active");
  next.querySelector(".cv")?.replaceWith(place, input);
  here.querySelector(".cn").after(typed);
  place.value = next.dataset.place;
  input.value = "";
  freshId(form);
  input.focus({ preventScroll: true });
}

// The answer to an entry: shown at once where its form still waits; else the page is read anew when all are answered.
async function answered(entry, found) {
  const form = [...onTheirWay.keys()].find((one) => onTheirWay.get(one) === entry.id);
  if (found.became !== "stored" && found.became !== "refused") {
    if (form) moveOn(form, entry.id);
    if (found.became === "signed-out") askPassword(null);
    return;
  }
  tabs?.postMessage({ page: entry.page });
  if (form) {
    window.clearTimeout(Number(form.dataset.later));
    onTheirWay.clear();
    swap(found.html, form);
  } else if (entry.page === window.location.pathname) {
    old = true;
    await freshen();
  }
}

// Text typed meanwhile stays in its field; a reading only in the cell it was typed for.
function typedMeanwhile(but) {
  const found = [];
  for (const field of document.querySelectorAll("#page input[id]:not([type=hidden]):not([type=radio]):not([type=checkbox])"))
    if (field.form !== but && field.value !== field.defaultValue)
      found.push({ id: field.id, value: field.value, place: field.form?.querySelector("[name=place]")?.value });
  return found;
}

function swap(html, form = null) {
  const y = window.scrollY;
  const typed = typedMeanwhile(form);
  old = false;
  onTheirWay.clear();
  window.htmx.swap("#page", html, { swapStyle: "outerHTML" });
  for (const one of typed) {
    const field = document.getElementById(one.id);
    if (field && field.form?.querySelector("[name=place]")?.value === one.place) field.value = one.value;
  }
  window.scrollTo({ top: y, behavior: "instant" });
  showKept();
}

// Read the page anew, unless something of it still waits, or half a reading stands in its cell.
async function freshen() {
  const cell = document.querySelector("[data-reading] [data-active-cell]");
  if (!old || onTheirWay.size || (cell && cell.value)) return;
  const waits = (await all()).some((one) => one.page === window.location.pathname && one.state === "kept" && one.user === user());
  if (waits) return;
  try {
    const answer = await fetch(window.location.href, {
      headers: { "HX-Request": "true" }, signal: AbortSignal.timeout(FRESH_MS),
    });
    if (answer.ok && !onTheirWay.size && !cell?.value) swap(await answer.text());
  } catch {
    // still away: the next answer tries again
  }
}

document.addEventListener("focusout", () => window.setTimeout(freshen, 0));
document.addEventListener("htmx:afterSettle", showKept);
tabs?.addEventListener("message", (event) => {
  if (event.data.signedIn) sendSoon();
  if (event.data.page !== window.location.pathname) return showKept();
  old = true;
  return freshen().then(showKept);
});
window.addEventListener("online", sendSoon);
document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && sendSoon());
document.addEventListener("gyrometra:signed-in", () => {
  tabs?.postMessage({ signedIn: true });
  sendSoon();
});

onAnswer(answered, showKept);
keepsEntries().then(async (answer) => {
  tellKeeps(answer);
  await keepWhatWasNoted();
  showKept();
  if (user()) sendAll();
});
