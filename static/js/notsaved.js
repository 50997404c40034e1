// A request that is on its way, or failed, is said at what was pressed; entries of the logs say so themselves.
function pressedIn(event) {
  const elt = event.detail.elt;
  return elt.closest?.("form") || elt;
}

function sayNotSaved(event, words) {
  const form = pressedIn(event);
  if (event.detail.xhr?.status === 401) return; // the password is asked in place
  const said = document.createElement("p");
  said.className = "err notsaved";
  said.setAttribute("role", "alert");
  said.textContent = words;
  form.querySelector(".notsaved")?.remove();
  form.append(said);
}

document.addEventListener("htmx:beforeRequest", (event) => {
  const form = pressedIn(event);
  form.setAttribute("aria-busy", "true");
  form.querySelector?.(".notsaved")?.remove();
});
document.addEventListener("htmx:afterRequest", (event) => pressedIn(event).removeAttribute("aria-busy"));
document.addEventListener("htmx:responseError", (event) => {
  const why = decodeURIComponent(event.detail.xhr.getResponseHeader("X-Away-Why") || "");
  sayNotSaved(event, `Not saved: ${why || `the server answered ${event.detail.xhr.status}`}. Press again.`);
});
document.addEventListener("htmx:sendError", (event) => sayNotSaved(event, "Not saved: offline. Press again."));
document.addEventListener("htmx:timeout", (event) => sayNotSaved(event, "Not saved: the server does not answer. Press again."));
