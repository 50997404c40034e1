// Readings typed while the server is away are held here, in the browser, and sent in their order when it is back.
// Nothing is judged here: the server reads, guards and stores them as if they had come at once, each only once.
"use strict";

const HELD_KEY = "gyrometra-held";
const RETRY_MS = 4000;

function heldEntries() {
  try {
    return JSON.parse(window.localStorage.getItem(HELD_KEY)) || [];
  } catch {
    return [];
  }
}

function keepHeld(entries) {
  if (entries.length) window.localStorage.setItem(HELD_KEY, JSON.stringify(entries));
  else window.localStorage.removeItem(HELD_KEY);
  showHeld(entries);
}

function ownEntries() {
  return heldEntries().filter((entry) => entry.user === document.body.dataset.user);
}

function showHeld() {
  const strip = document.getElementById("held");
  if (!strip) return;
  const count = ownEntries().length;
  strip.hidden = count === 0 && !strip.dataset.refused;
  strip.querySelector("[data-held-words]").textContent = count
    ? `Offline: ${count} reading${count === 1 ? "" : "s"} kept on this device, sent when the server is back.`
    : strip.dataset.refused || "";
  const saved = document.getElementById("saved");
  if (saved && count) saved.textContent = `Offline, ${count} kept`;
  if (count) document.querySelectorAll(".dp, .vp").forEach((plate) => plate.classList.add("stale"));
}

// What htmx could not send: take it over, and open the next cell.
document.addEventListener("htmx:sendError", (event) => takeOver(event));
document.addEventListener("htmx:responseError", (event) => {
  if (event.detail.xhr.status >= 502) takeOver(event);
});

function takeOver(event) {
  const form = event.detail.elt.closest("form[data-hold]");
  if (!form) return;
  const fields = [...event.detail.requestConfig.formData.entries()].filter(([, value]) => typeof value === "string");
  const url = event.detail.requestConfig.path;
  keepHeld([...heldEntries(), { url, fields, user: document.body.dataset.user }]);
  form.matches("[data-reading]") ? openNextCell(form) : emptyField(form);
  scheduleSending();
}

function freshId(form) {
  const field = form.querySelector("[name=client_id]");
  if (field) field.value = crypto.randomUUID ? crypto.randomUUID() : madeId();
}

// Plain-HTTP pages on a shop's own network have no randomUUID; the same kind of id from random bytes.
function madeId() {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

function emptyField(form) {
  const cell = form.querySelector("[data-active-cell]") || form.querySelector("[name=value]");
  if (cell) cell.value = "";
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
  typed.textContent = `${input.value} held`;
  here.classList.remove("active");
  if (!next) {
    input.replaceWith(typed);
    return;
  }
  next.classList.add("active");
  next.querySelector(".cv")?.replaceWith(place, input);
  here.querySelector(".cn").after(typed);
  place.value = String(Number(place.value) + 1);
  input.value = "";
  freshId(form);
  input.focus({ preventScroll: true });
}

let timer = 0;
let sending = false;

function scheduleSending() {
  if (timer || !ownEntries().length) return;
  timer = window.setTimeout(() => {
    timer = 0;
    sendHeld();
  }, RETRY_MS);
}

async function sendOne(entry) {
  const body = new URLSearchParams(entry.fields);
  const token = JSON.parse(document.body.getAttribute("hx-headers") || "{}");
  const answer = await fetch(entry.url, { method: "POST", body, headers: { ...token, "HX-Request": "true" } });
  if (answer.status >= 502) throw new Error("away");
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  const refused = page.querySelector(".cellerr p, .conflict p, .err");
  return answer.ok && !refused ? "" : (refused?.textContent.trim() ?? `it was refused (${answer.status})`);
}

async function sendHeld() {
  if (sending) return;
  sending = true;
  const strip = document.getElementById("held");
  let sent = 0;
  try {
    for (let entry = ownEntries()[0]; entry; entry = ownEntries()[0]) {
      const refused = await sendOne(entry);
      const value = new URLSearchParams(entry.fields).get("value") || "an entry";
      const all = heldEntries();
      all.splice(all.findIndex((one) => JSON.stringify(one) === JSON.stringify(entry)), 1);
      if (refused && strip) {
        const words = `${value} was held, and not taken: ${refused}`;
        strip.dataset.refused = [strip.dataset.refused, words].filter(Boolean).join(" · ");
        window.sessionStorage.setItem("gyrometra-refused", strip.dataset.refused);
      }
      keepHeld(all);
      sent += 1;
    }
  } catch {
    scheduleSending();
  } finally {
    sending = false;
  }
  if (sent && !ownEntries().length) window.location.reload();
}

window.addEventListener("online", sendHeld);
document.addEventListener("htmx:afterSettle", showHeld);
document.addEventListener("DOMContentLoaded", () => {
  const strip = document.getElementById("held");
  const refused = window.sessionStorage.getItem("gyrometra-refused");
  if (strip && refused) {
    strip.dataset.refused = refused;
    window.sessionStorage.removeItem("gyrometra-refused");
  }
  showHeld();
  sendHeld();
});
