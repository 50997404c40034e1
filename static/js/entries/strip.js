// Says what became of entries: one line across the product, and a mark at the place where each was typed.
import { all, mark, remove } from "./store.js";
import { sending, sendSoon, user } from "./sender.js";

const plural = (count, word) => `${count} ${count === 1 ? word : word === "entry" ? "entries" : word + "s"}`;

function element(tag, text, className = "") {
  const made = document.createElement(tag);
  made.textContent = text;
  if (className) made.className = className;
  return made;
}

function button(words, act) {
  const made = element("button", words, "btn-shop small");
  made.type = "button";
  made.addEventListener("click", act);
  return made;
}

// What is said of the entries of whoever is signed in, and of nobody else's.
function words(kept, others, keeps) {
  const said = [];
  if (!keeps) said.push("This browser keeps nothing: what is typed while the server is away is lost with this page.");
  if (kept.length && sending.signedOut) said.push(`Signed out: ${plural(kept.length, "entry")} kept on this device.`);
  else if (kept.length && sending.away) {
    const answered = kept.find((one) => one.status);
    const why = answered ? answered.awayWhy || `The server answered ${answered.status}` : "Offline";
    said.push(`${why}: ${plural(kept.length, "entry")} kept on this device, sent when the server is back.`);
  }
  if (kept.length && sending.other) said.push(sending.other);
  for (const [name, count] of others)
    said.push(`${plural(count, "entry")} of ${name} ${count === 1 ? "waits" : "wait"} on this device, sent when ${name} signs in.`);
  return said.join(" ");
}

// Tried so often, and answered by something that is no answer to it: somebody may decide.
const STUCK = 3;
const isStuck = (one) => one.state === "kept" && one.tries >= STUCK && one.status >= 400 && one.status < 500;

function lineOf(entry) {
  const line = element("li", "");
  const why = entry.state === "kept" ? `The server answered ${entry.status}, ${entry.tries} times.` : entry.why;
  line.append(element("b", `Not logged: ${entry.where}. `), element("span", `${why} `));
  line.append(button("Send it again", async () => {
    await mark(entry.id, { state: "kept", why: "" });
    sendSoon();
  }), button("Leave it out", async () => {
    await remove(entry.id);
    showKept();
  }));
  return line;
}

let keeps = true;
export function tellKeeps(answer) {
  keeps = answer;
}

export async function showKept() {
  const rows = await all();
  const own = rows.filter((one) => one.user === user());
  const kept = own.filter((one) => one.state === "kept");
  const inPage = (one) => document.querySelector(`input[name=client_id][value="${one.id}"]`);
  const refused = own.filter((one) => isStuck(one) || (one.state === "refused" && !inPage(one)));
  const others = new Map();
  for (const one of rows) if (one.user !== user()) others.set(one.user, (others.get(one.user) || 0) + 1);
  const strip = document.getElementById("held");
  if (!strip) return;
  const text = words(kept, others, keeps);
  strip.hidden = !text && !refused.length;
  strip.querySelector("[data-held-words]").textContent = text;
  strip.querySelector("[data-held-list]").replaceChildren(...refused.map(lineOf));
  strip.querySelector("[data-held-again]").hidden = !(kept.length && sending.signedOut);
  const saved = document.getElementById("saved");
  const offline = kept.every((one) => !one.status);
  if (saved && kept.length && sending.away) saved.textContent = `${offline ? "Offline, " : ""}${kept.length} kept`;
  const here = kept.filter((one) => one.page === window.location.pathname);
  showOld(here.length > 0 && sending.away);
  showAtPlaces(here);
}

// Figures that do not know of what is kept are greyed; those that the server greyed itself stay so.
function showOld(old) {
  for (const plate of document.querySelectorAll(".dp, .vp")) {
    if (old && !plate.classList.contains("stale")) {
      plate.classList.add("stale");
      plate.dataset.keptStale = "yes";
    } else if (!old && plate.dataset.keptStale) {
      plate.classList.remove("stale");
      delete plate.dataset.keptStale;
    }
  }
}

// At a form that waits: what of it is kept.
function showAtPlaces(here) {
  for (const said of document.querySelectorAll(".keptline")) said.remove();
  for (const form of document.querySelectorAll("form[data-kept]")) {
    const count = here.filter((one) => one.form === form.dataset.entry).length;
    if (!count) continue;
    const line = element("p", sending.away ? `${plural(count, "entry")} kept here, not sent yet.` : "Being sent.", "keptline n2");
    line.setAttribute("role", "status");
    form.append(line);
  }
}
