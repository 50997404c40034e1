// A session that ended asks for the password in place, and what was sent goes on.
import { token } from "./sender.js";

let later = [];

// The browser gives the focus back, but not the caret: the next key would be lost.
function takeCaret() {
  const cell = document.querySelector("[data-active-cell]");
  if (!cell) return;
  cell.blur();
  cell.focus({ preventScroll: true });
  cell.setSelectionRange(cell.value.length, cell.value.length);
}

export function askPassword(goOn) {
  if (goOn) later.push(goOn);
  const dialog = document.getElementById("again");
  if (dialog && !dialog.open) dialog.showModal();
}

document.addEventListener("htmx:responseError", (event) => {
  if (event.detail.xhr.status !== 401) return;
  const form = event.detail.elt.closest?.("form");
  askPassword(form ? () => form.requestSubmit() : () => window.location.reload());
});

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-held-again]")) askPassword(null);
  if (event.target.closest("[data-again-close]")) document.getElementById("again").close();
});

document.addEventListener("submit", async (event) => {
  const form = event.target.closest("#again form");
  if (!form) return;
  event.preventDefault();
  const said = form.querySelector("[data-again-said]");
  said.textContent = "";
  try {
    if (!token()) await fetch(form.action); // the cookies are gone too: this brings a new token
    const answer = await fetch(form.action, {
      method: "POST", body: new URLSearchParams(new FormData(form)), headers: { "X-CSRFToken": token() },
    });
    const found = await answer.json();
    if (!found.ok) {
      said.textContent = found.why;
      return;
    }
  } catch {
    said.textContent = "Not signed in: the server does not answer. Try again.";
    return;
  }
  form.reset();
  for (const field of document.querySelectorAll("[name=csrfmiddlewaretoken]")) field.value = token();
  const headers = JSON.parse(document.body.getAttribute("hx-headers") || "{}");
  document.body.setAttribute("hx-headers", JSON.stringify({ ...headers, "X-CSRFToken": token() }));
  document.getElementById("again").close();
  takeCaret();
  const goOn = later;
  later = [];
  document.dispatchEvent(new CustomEvent("gyrometra:signed-in"));
  goOn.forEach((act) => act());
});
