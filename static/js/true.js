// Of True and the practice bench: the plane touched, the hand that types, the arrows. No rule of the job stands here.
"use strict";

// The keypad stands for the hand that types; a setting of this device.
const HAND = "gyrometra-hand";

function setHand(hand) {
  document.documentElement.dataset.hand = hand;
  for (const one of document.querySelectorAll("[data-left-hand]")) one.setAttribute("aria-pressed", String(hand === "left"));
  try {
    window.localStorage.setItem(HAND, hand);
  } catch {
    // it holds for this page
  }
}

function keptHand() {
  try {
    return window.localStorage.getItem(HAND);
  } catch {
    return null; // the right hand
  }
}

if (keptHand() === "left") setHand("left");
document.addEventListener("htmx:afterSettle", () => keptHand() === "left" && setHand("left"));

document.addEventListener("click", (event) => {
  if (event.target.closest?.("[data-left-hand]")) setHand(document.documentElement.dataset.hand === "left" ? "right" : "left");
});

// A plane touched, in the drawing or beside its depth, is typed as the depth of the next round; once more, none.
function pickPlane(button) {
  const field = document.getElementById("id_plane_mm");
  if (!field) return;
  field.value = field.value === button.dataset.plane ? "" : button.dataset.plane;
  for (const one of document.querySelectorAll("[data-plane]"))
    one.setAttribute("aria-pressed", String(field.value !== "" && one.dataset.plane === field.value));
}

document.addEventListener("click", (event) => {
  const touched = event.target.closest?.("svg [data-place^=plane-]")?.dataset.place;
  const button = touched
    ? document.querySelector(`button [data-place="${CSS.escape(touched)}"]`)?.closest("button")
    : event.target.closest?.("[data-plane]");
  if (button) pickPlane(button);
});

// A place of Check touched in the drawing is typed as the depth and the direction of the next size.
document.addEventListener("click", (event) => {
  const touched = event.target.closest?.("svg [data-place^='check|']")?.dataset.place;
  const depth = document.getElementById("id_z");
  if (!touched || !depth) return;
  [, depth.value, document.getElementById("id_angle").value] = touched.split("|");
  document.getElementById("size")?.focus();
});

// What a size may be instead is put into its field at a tap, and logged by Enter like any other.
document.addEventListener("click", (event) => {
  const button = event.target.closest?.("[data-fill]");
  const field = button?.closest("form").querySelector("[data-active-cell]");
  if (!field) return;
  field.value = button.dataset.fill;
  field.focus();
});

// On the practice bench the arrows turn the work, wherever the focus is, but in a field that has text.
document.addEventListener("keydown", (event) => {
  if (event.key !== "ArrowLeft" && event.key !== "ArrowRight") return;
  const turn = document.querySelector(`[data-turn=${event.key === "ArrowLeft" ? "back" : "on"}]`);
  const here = event.target;
  if (!turn || here.matches?.("select, textarea, input:not([data-active-cell])")) return;
  if (here.matches?.("input") && here.value) return;
  event.preventDefault();
  turn.click();
});
