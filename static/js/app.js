// Behaviour of the pages: keys, keypad, cautions. No rule of the job stands here.
"use strict";

const CABLE_MS = 35; // a gauge cable types faster than any hand

function activeCell() {
  return document.querySelector("[data-active-cell]");
}

function isTyping(target) {
  return target instanceof HTMLElement && target.matches("input:not([type=radio]):not([type=checkbox]), textarea, select");
}

function press(cell, key) {
  if (key === "back") cell.value = cell.value.slice(0, -1);
  else if (key === "sign") cell.value = cell.value.startsWith("-") ? cell.value.slice(1) : "-" + cell.value;
  else cell.value += key;
}

function sourceOf(form, source) {
  const field = form.querySelector("input[name=source]");
  if (field) field.value = source;
}

document.addEventListener("alpine:init", () => {
  Alpine.data("keypad", () => ({}));
  Alpine.data("remark", () => ({}));
  Alpine.data("cautions", () => ({
    at: 0,
    get words() { return `${this.at + 1} of ${this.$root.querySelectorAll(".one").length}`; },
    next() {
      const all = this.$root.querySelectorAll(".one");
      this.at = (this.at + 1) % all.length;
      all.forEach((one, place) => one.classList.toggle("later", place !== this.at));
    },
  }));
});

document.addEventListener("click", (event) => {
  const target = event.target.closest("[data-key], [data-likely], [data-clear], [data-open-keys], [data-close-keys], [data-print]");
  if (!target) return;
  const cell = activeCell();
  if (target.dataset.key && cell) {
    press(cell, target.dataset.key);
    sourceOf(cell.form, "keypad");
  } else if (target.dataset.likely && cell) {
    cell.value = target.dataset.likely;
    cell.form.requestSubmit();
  } else if ("clear" in target.dataset && cell) {
    cell.value = "";
    cell.focus();
  } else if ("openKeys" in target.dataset) {
    document.getElementById("keys").showModal();
  } else if ("closeKeys" in target.dataset) {
    document.getElementById("keys").close();
  } else if ("print" in target.dataset) {
    window.print();
  }
});

// Two taps log a remark.
document.addEventListener("change", (event) => {
  const form = event.target.closest("form[x-data=remark]");
  if (form && form.querySelector("[name=sound]:checked") && form.querySelector("[name=look]:checked")) form.requestSubmit();
});

let armed = 0; // time of a "g" that waits for its digit
let lastKey = 0;
let quick = 0;

function noteTiming(cell) {
  const now = performance.now();
  quick = now - lastKey < CABLE_MS ? quick + 1 : 0;
  lastKey = now;
  if (quick >= 2) sourceOf(cell.form, "cable");
}

function askLine() {
  const line = document.querySelector("[data-ask]");
  if (line) line.focus();
  else window.location.assign("/?ask");
}

if (window.location.search === "?ask") document.querySelector("[data-ask]")?.focus();

function letter(key) {
  if (key === "/") askLine();
  else if (key === "b") document.querySelector("a.back")?.click();
  else if (key === "u") document.getElementById("unit-switch")?.click();
  else if (key === "z") document.getElementById("take-back")?.click();
  else if (key === "?") document.getElementById("keys")?.showModal();
}

// Keys pressed while a reading is on its way to the server, or a round is being opened, are held for the next cell.
let onItsWay = false;
let held = [];

document.addEventListener("entry:sending", (event) => {
  if (event.target.matches("[data-reading], [data-opens]")) onItsWay = true;
});
document.addEventListener("entry:moved", () => {
  onItsWay = false;
  window.setTimeout(typeHeld, 0); // keys that waited go on into the next cell, kept or not
});

// A column that is pasted, or read from a file, is typed cell by cell: as many readings, as many entries.
let pasted = 0;

function pasteColumn(text) {
  const values = text.split(/[\n\t;]+/).map((one) => one.trim()).filter((one) => /\d|^x$|^off/i.test(one));
  for (const value of values) held.push(...value, "Enter");
  pasted += values.length;
  typeHeld();
}

document.addEventListener("paste", (event) => {
  const cell = document.querySelector("[data-reading] [data-active-cell]");
  const text = event.clipboardData?.getData("text") ?? "";
  if (!cell || cell.value || !/[\n\t;]/.test(text.trim()) || (event.target !== cell && isTyping(event.target))) return;
  event.preventDefault();
  pasteColumn(text);
});
document.addEventListener("change", async (event) => {
  if (!event.target.matches("[data-readings-file]") || !event.target.files.length) return;
  const text = await event.target.files[0].text();
  event.target.value = "";
  // of a table the last column; lines without a figure are its head
  pasteColumn(text.split(/\r?\n/).map((line) => line.split(/[,;\t]/).at(-1)).join("\n"));
});

function typeHeld() {
  const cell = document.querySelector("[data-reading] [data-active-cell]");
  while (cell && held.length) {
    const key = held.shift();
    if (pasted) sourceOf(cell.form, "pasted");
    if (key === "Enter" && pasted) pasted -= 1;
    if (key !== "Enter") press(cell, key === "Backspace" ? "back" : key);
    else if (cell.value) {
      cell.form.requestSubmit();
      return;
    }
  }
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (onItsWay && /^([0-9.,+x-]|Enter|Backspace)$/.test(event.key)) {
    event.preventDefault();
    held.push(event.key);
    return;
  }
  const cell = activeCell();
  const inReading = cell && event.target === cell && cell.closest("[data-reading]");
  const typing = isTyping(event.target);
  if (cell && /^[0-9.,+-]$/.test(event.key) && (event.target === cell || !typing)) {
    noteTiming(cell);
    if (event.target !== cell && !(armed && performance.now() - armed < 1500)) {
      event.preventDefault();
      cell.focus();
      cell.value += event.key;
      return;
    }
  }
  if (event.key === "Escape" && cell && event.target === cell) {
    cell.value = "";
    if (cell.form.querySelector("[name=correct]")) window.location.search = ""; // leave the cell unchanged
    else cell.blur();
    return;
  }
  if ((event.key === "ArrowLeft" || event.key === "ArrowRight") && inReading && !cell.value) {
    const here = cell.closest(".cell");
    const next = event.key === "ArrowLeft" ? here.previousElementSibling : here.nextElementSibling;
    next?.querySelector("a.cv")?.click();
    return;
  }
  if (event.key === "Enter" && cell && !typing && cell.value && !event.target.closest("button, a, summary")) {
    event.preventDefault();
    cell.form.requestSubmit();
    return;
  }
  if (document.body.dataset.keys !== "on" || (typing && !inReading)) return;
  if (armed && performance.now() - armed < 1500 && /^[1-6]$/.test(event.key)) {
    event.preventDefault();
    armed = 0;
    document.querySelector(`[data-step="${event.key}"]`)?.click();
    return;
  }
  armed = event.key === "g" ? performance.now() : 0;
  if (event.key === "g" || "buz?/".includes(event.key)) {
    event.preventDefault();
    letter(event.key);
  }
});

// Fields that were changed while a form was on its way are not lost: they are put into the new form, and sent.
let unsent = [];

document.addEventListener("htmx:beforeSwap", (event) => {
  const config = event.detail.requestConfig;
  const form = config?.elt?.closest?.("form");
  unsent = [];
  if (!form || config.verb !== "post" || form.matches("[data-reading], [data-answers]")) return;
  for (const field of form.querySelectorAll("input:not([type=hidden]):not([type=radio]):not([type=checkbox]), select, textarea")) {
    const sent = config.formData?.get(field.name);
    if (field.id && sent !== null && sent !== undefined && field.value !== sent)
      unsent.push({ id: field.id, value: field.value, here: field === document.activeElement });
  }
});

function putBack() {
  let send = null;
  const late = [];
  for (const kept of unsent) {
    const field = document.getElementById(kept.id);
    if (!field || field.value === kept.value) continue;
    field.value = kept.value;
    if (kept.here) {
      field.focus({ preventScroll: true });
      field.dataset.unsent = kept.value;
    } else late.push(field);
  }
  for (const field of late) {
    const row = field.closest(ROW);
    if (row?.contains(document.activeElement)) row.dataset.changed = "yes";
    else send = field.form;
  }
  unsent = [];
  // a plan may be saved by itself; nothing enters a log but by Enter or a tap
  if (send && send.matches("[hx-post]") && !send.querySelector("[name=client_id]")) send.requestSubmit();
}

document.addEventListener("focusout", (event) => {
  const kept = event.target.dataset?.unsent;
  if (kept === undefined) return;
  delete event.target.dataset.unsent;
  if (event.target.value === kept) event.target.dispatchEvent(new Event("change", { bubbles: true }));
});

// A page that saves itself stays where it is: what has the caret keeps its place on the screen.
let stay = null;

document.addEventListener("htmx:beforeSwap", (event) => {
  const here = document.activeElement;
  const id = here !== document.body && here.id;
  stay = event.detail.requestConfig?.verb === "post" ? { y: window.scrollY, id, top: id && here.getBoundingClientRect().top } : null;
});
document.addEventListener("htmx:afterSettle", () => {
  if (!stay) return;
  const again = stay.id && document.getElementById(stay.id);
  const y = again ? window.scrollY + again.getBoundingClientRect().top - stay.top : stay.y;
  window.scrollTo({ top: y, behavior: "instant" });
  stay = null;
});

// A row of several fields is sent when the caret leaves it, not half typed.
const ROW = ".rows .pair, .rows .five";

document.addEventListener("change", (event) => {
  const row = event.target.closest?.(ROW);
  if (!row || event.target === row) return;
  row.dataset.changed = "yes";
  event.stopPropagation();
}, true);
document.addEventListener("focusout", (event) => {
  const row = event.target.closest?.(ROW);
  if (!row?.dataset.changed || row.contains(event.relatedTarget)) return;
  delete row.dataset.changed;
  row.dispatchEvent(new Event("change", { bubbles: true }));
});

// The bar can be dragged in its drawing: the field of the overhang follows, in its own unit, and the form is sent.
let drag = null;

function hangOut(field, text) {
  if (field.value === text) return;
  field.value = text;
  field.dispatchEvent(new Event("change", { bubbles: true }));
}

function nudged(field, steps) {
  const inch = field.closest("[data-unit]")?.dataset.unit === "in";
  const value = Number.parseFloat(field.value);
  return Number.isFinite(value) ? (value + steps * (inch ? 0.05 : 1)).toFixed(inch ? 2 : 0) : field.value;
}

document.addEventListener("pointerdown", (event) => {
  const svg = event.target.closest?.("svg[data-drag]");
  const field = document.getElementById("id_out_mm");
  const bar = svg?.querySelector(".r-bar")?.getBoundingClientRect();
  if (!bar || !field) return;
  if (event.clientX < bar.left || event.clientX > bar.right || event.clientY < bar.top || event.clientY > bar.bottom) return;
  const shown = svg.getBoundingClientRect().width / svg.viewBox.baseVal.width;
  drag = { x: event.clientX, scale: Number(svg.dataset.drag) * shown, from: Number.parseFloat(field.value), last: 0 };
  event.preventDefault();
});

document.addEventListener("pointermove", (event) => {
  const field = document.getElementById("id_out_mm");
  if (!drag || !field || !Number.isFinite(drag.from)) return;
  const inch = field.closest("[data-unit]")?.dataset.unit === "in";
  const moved = (drag.x - event.clientX) / drag.scale / (inch ? 25.4 : 1);
  const text = Math.max(0, drag.from + moved).toFixed(inch ? 2 : 0);
  if (performance.now() - drag.last > 180) {
    drag.last = performance.now();
    hangOut(field, text);
  }
  drag.text = text;
});

document.addEventListener("pointerup", () => {
  const field = document.getElementById("id_out_mm");
  if (drag?.text && field) hangOut(field, drag.text);
  drag = null;
});

document.addEventListener("keydown", (event) => {
  if (event.target.id !== "id_out_mm" || !["ArrowUp", "ArrowDown", "PageUp", "PageDown"].includes(event.key)) return;
  event.preventDefault();
  const steps = (event.key.startsWith("Page") ? 10 : 1) * (event.key.endsWith("Up") ? 1 : -1);
  event.target.value = nudged(event.target, steps);
  clearTimeout(event.target.nudge);
  const field = event.target;
  field.nudge = setTimeout(() => field.dispatchEvent(new Event("change", { bubbles: true })), 250);
});

// After a swap the next cell takes the caret; nothing else moves by itself.
document.addEventListener("htmx:afterSettle", () => {
  onItsWay = false;
  const cell = document.querySelector("[data-reading] [data-active-cell]");
  if (cell && (document.activeElement === document.body || document.activeElement === null)) cell.focus({ preventScroll: true });
  typeHeld();
  putBack();
});

// The answers of a new job: Enter opens the next one, Shift Enter the one before, Ctrl Enter creates the job.
document.addEventListener("keydown", (event) => {
  const form = event.target.closest?.("[data-answers]");
  if (!form || event.key !== "Enter" || event.target.matches("button, a, textarea, summary")) return;
  event.preventDefault();
  if (event.ctrlKey || event.metaKey) return form.requestSubmit(form.querySelector("[data-create]"));
  const all = [...form.querySelectorAll(".answer input, .answer select"), form.querySelector("[data-create]")];
  const here = all.indexOf(event.target);
  if (here < 0) return event.target.dispatchEvent(new Event("change", { bubbles: true }));
  all[Math.max(0, here + (event.shiftKey ? -1 : 1))].focus();
});

// A place touched in the drawing opens as its row in the list does.
document.addEventListener("click", (event) => {
  const place = event.target.closest?.("svg [data-place]")?.dataset.place;
  if (place) document.querySelector(`.placelist a[data-place="${CSS.escape(place)}"], [data-places] [data-place="${CSS.escape(place)}"]`)?.click();
});

// A place that opens gives its first field the focus: what was touched in the drawing is typed next.
document.addEventListener("toggle", (event) => {
  if (event.target.matches?.(".newplace[open]") && !event.target.querySelector(":focus:not(summary)"))
    event.target.querySelector("input, select")?.focus({ preventScroll: false });
}, true);

// What was added in the crib for this page comes back picked: its field is filled in and saved as if it were chosen.
(() => {
  const address = new URL(window.location.href);
  const [name, key] = (address.searchParams.get("picked") ?? "").split(":");
  if (!key) return;
  address.searchParams.delete("picked");
  window.history.replaceState(null, "", address);
  const field = [...document.querySelectorAll(`form [name="${CSS.escape(name)}"]`)].find((one) => one.type !== "radio" || one.value === key);
  if (!field) return;
  if (field.type === "radio") field.checked = true;
  else field.value = key;
  window.addEventListener("load", () => field.dispatchEvent(new Event("change", { bubbles: true })));
})();
