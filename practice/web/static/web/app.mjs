/** What pages need in the browser: keys, saving that survives an outage, the command line. The server draws everything else. */

const fieldOf = (node) => node.closest(".f, td[data-field]");
const inputs = () => [...document.querySelectorAll("main :is(input, select, .f textarea):not([type=hidden]):not([type=search])")].filter((one) => one.checkVisibility());

// Enter goes on to the next field as Tab does; Shift goes back
document.addEventListener("keydown", (event) => {
  const here = event.target;
  if (event.key !== "Enter" || !here.matches("#paper :is(input, select, .f textarea), #side input[name=value]")) return;
  event.preventDefault();
  const all = inputs();
  const next = all[all.indexOf(here) + (event.shiftKey ? -1 : 1)];
  if (next && here.closest("#paper")) { next.focus(); next.select?.(); } else here.blur();
});

document.addEventListener("focusin", (event) => { if (event.target.matches("#paper input[name=value], #lineage input[name=value]")) event.target.select?.(); });

// Keys of the whole program; listed with ?
const typing = (target) => target.matches("input, select, textarea") && !target.matches("[type=radio], [type=checkbox]");
document.addEventListener("keydown", (event) => {
  const key = event.code.replace(/^(Key|Digit)/, "").toLowerCase();
  if (event.altKey && fieldKeys[key]?.(event.target)) { event.preventDefault(); return; }
  const alt = event.altKey && document.querySelector(`[data-key="${key}"]`);
  if (alt) { event.preventDefault(); if (alt.matches("input, select")) alt.focus(); else alt.click(); return; }
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "/") { event.preventDefault(); openFinder(); }
  if (event.key === "?") { event.preventDefault(); document.querySelector("#keys")?.showModal(); }
});

// Keys that depend on where one stands: lineage of this field, the other spouse, one of the three columns
const panes = () => [...document.querySelectorAll("main > *")].filter((one) => one.checkVisibility());
const fieldKeys = {
  l: (target) => { const open = target.closest(".f")?.querySelector(".no"); open?.click(); return open; },
  o: () => { const next = document.querySelector(".seg label:has(:checked) + label input") ?? document.querySelector(".seg input[type=radio]"); next?.click(); return next; },
};
// What came from last year is confirmed: the field one stands in, else the paper
fieldKeys.y = (target) => { const one = target.closest(".f")?.querySelector("[data-confirm]"); one?.click(); return one; };
// A row in the table one stands in, else in the next one below
fieldKeys.e = (target) => {
  const adders = [...document.querySelectorAll("[data-adds]")];
  const own = adders.find((one) => target.closest(`#table-${one.dataset.adds} + .across`));
  const below = adders.find((one) => target.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING);
  const adder = own ?? below ?? adders[0];
  adder?.click();
  return adder;
};
for (const place of [1, 2, 3]) fieldKeys[place] = () => { const first = panes()[place - 1]?.querySelector("input:not([type=hidden]), [aria-current], a, button, summary"); first?.focus(); return first; };

// In a lineage the arrows go from figure to figure, in the picture and in the list
document.addEventListener("keydown", (event) => {
  const within = event.target.closest?.(".graph, .tree");
  const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
  if (!within || !step || event.altKey) return;
  const all = [...document.querySelectorAll("#lineage .graph a, #lineage .tree a")].filter((one) => one.checkVisibility());
  const next = all[all.indexOf(event.target.closest("a") ?? event.target.querySelector?.("a")) + step];
  if (next) { event.preventDefault(); next.focus(); }
});

// What is folded in the index stays folded on the next page
const folded = () => new Set(JSON.parse(sessionStorage.folded ?? "[]"));
const fold = () => { const closed = folded(); for (const one of document.querySelectorAll("details.ix")) one.open = !closed.has(one.dataset.group); };
document.addEventListener("toggle", (event) => {
  if (!event.target.matches?.("details.ix")) return;
  const closed = folded();
  closed[event.target.open ? "delete" : "add"](event.target.dataset.group);
  sessionStorage.folded = JSON.stringify([...closed]);
}, true);
fold();
document.addEventListener("htmx:oobAfterSwap", (event) => {
  if (event.detail.target.id === "index") fold();
  // The newest change is open and on top, the ones before it folded, and no more than eight
  if (event.detail.target.id === "ripples") [...event.detail.target.children].forEach((one, place) => { one.open = place === 0; if (place > 7) one.remove(); });
});

// A lineage takes the ripple's place only until the next change: then the ripple is back, with that change on top
let ripple = null;
document.addEventListener("htmx:beforeSwap", (event) => {
  const shown = event.detail.target.id === "side" && event.detail.target.querySelector("#ripple");
  if (shown) { ripple = shown; shown.remove(); }
});
document.addEventListener("htmx:oobErrorNoTarget", (event) => {
  if (event.detail.content.id !== "ripples" || !ripple) return;
  document.querySelector("#side").replaceChildren(ripple);
  const list = ripple.querySelector("#ripples");
  list.prepend(...event.detail.content.children);
  [...list.children].forEach((one, place) => { one.open = place === 0; });
});

// The command line
const finder = document.querySelector("#finder");
function openFinder() {
  finder?.showModal();
  const line = finder.querySelector("input[name=q]");
  line.value = "";
  line.dispatchEvent(new Event("search"));
  line.focus();
}
for (const opener of document.querySelectorAll("[data-opens=finder]")) opener.addEventListener("click", openFinder);
for (const opener of document.querySelectorAll("[data-opens=keys]")) opener.addEventListener("click", () => document.querySelector("#keys").showModal());
finder?.addEventListener("keydown", (event) => {
  const rows = [...finder.querySelectorAll("li")];
  const at = rows.findIndex((row) => row.ariaSelected === "true");
  if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    event.preventDefault();
    const to = Math.max(0, Math.min(rows.length - 1, at + (event.key === "ArrowDown" ? 1 : -1)));
    rows.forEach((row, place) => { row.ariaSelected = String(place === to); });
  }
  if (event.key === "Enter") { event.preventDefault(); chooses = true; choose(); }
});
// Whoever types faster than the answers come still gets what they typed
let chooses = false;
function choose() {
  const list = finder.querySelector("ul");
  if (!chooses || list?.dataset.words !== finder.querySelector("input[name=q]").value.trim().toLowerCase()) return;
  chooses = false;
  (finder.querySelector("li[aria-selected=true]") ?? finder.querySelector("li"))?.firstElementChild.click();
}
// Settled, not only swapped: before that a button in the answer does not yet know what it posts, and a click on it is lost
document.addEventListener("htmx:afterSettle", (event) => { if (event.detail.target.id === "found") choose(); });

// A field that the server computed anew must not be taken from under the fingers of whoever stands in it
document.addEventListener("htmx:oobBeforeSwap", (event) => {
  const here = document.activeElement;
  if (!here || !event.detail.target.contains(here) || !here.matches("[name=value]") || !event.detail.target.matches(".f, td")) return;
  const fresh = event.detail.fragment.querySelector?.("[name=value]");
  if (fresh) here.placeholder = fresh.placeholder;
  event.detail.shouldSwap = false;
});

// A new row is keyed in at once
document.addEventListener("htmx:afterSwap", (event) => {
  const table = event.detail.requestConfig?.elt?.dataset?.adds;
  if (table) document.querySelector(`#table-${table} + .across tbody tr:not(.sum):nth-last-child(1 of :not(.sum)) input[name=value]`)?.focus();
});

// Answers that refuse are drawn too
document.addEventListener("htmx:beforeSwap", (event) => {
  if ([403, 404, 409, 410, 422].includes(event.detail.xhr.status)) { event.detail.shouldSwap = true; event.detail.isError = false; }
});

// Saving that survives an outage: what could not be sent stays marked, and is sent again, at last every ten seconds. An answer that
// says that the program failed is not asked for without end: after three of them the field stays marked and the page says so.
const waiting = new Map();
const banner = () => document.querySelector("#unsaved-banner");
const HOPELESS = 3;
function tell() {
  const bar = banner();
  if (!bar) return;
  const stopped = [...waiting.values()].some((one) => one.failed >= HOPELESS);
  bar.hidden = !waiting.size;
  bar.querySelector("[data-trying]").hidden = stopped;
  bar.querySelector("[data-stopped]").hidden = !stopped;
}
function keep(form, failed = 0) {
  if (!form?.matches("[data-save]")) return;
  const known = waiting.get(form.dataset.save) ?? { tries: 0, failed: 0 };
  const tries = known.tries + 1;
  waiting.set(form.dataset.save, { form, value: form.value, tries, failed: known.failed + failed, at: Date.now() + 1000 * Math.min(2 ** tries, 10) });
  (fieldOf(form) ?? form).classList.add("unsaved");
  tell();
}
for (const name of ["htmx:sendError", "htmx:timeout"]) document.addEventListener(name, (event) => keep(event.detail.elt));
document.addEventListener("htmx:responseError", ({ detail }) => { if (detail.xhr.status >= 500) keep(detail.elt, detail.xhr.status === 500 ? 1 : 0); });
document.addEventListener("htmx:afterRequest", (event) => {
  const form = event.detail.requestConfig?.elt ?? event.detail.elt; // one that its own answer replaced is no longer the event's
  if (!form.dataset?.save || event.detail.xhr.status === 0 || event.detail.xhr.status >= 500) return;
  waiting.delete(form.dataset.save);
  (fieldOf(form) ?? form).classList.remove("unsaved");
  tell();
});
function again({ form, value }) {
  if (form.matches("form")) { form.requestSubmit(); return; }
  form.value = value;
  form.dispatchEvent(new Event("change"));
}
setInterval(() => {
  for (const [key, one] of waiting) {
    if (!one.form.isConnected) one.form = one.form.matches("input") ? document.getElementById(key) : null; // a table drawn anew has the same field again
    if (!one.form) waiting.delete(key);
    else if (one.failed < HOPELESS && Date.now() >= one.at) { one.at = Infinity; again(one); }
  }
  tell();
}, 500);
window.addEventListener("beforeunload", (event) => { if (waiting.size || document.querySelector(".htmx-request[data-save]")) event.preventDefault(); });

// A link to a field opens with the field in hand; the browser's own way to the place in the page comes first
const toField = () => location.hash.startsWith("#f-") && document.getElementById(location.hash.slice(1))?.querySelector("[name=value]")?.focus();
const toOpen = () => location.hash === "#first-open" && [...document.querySelectorAll("#paper input[name=value]")].find((one) => !one.value && !one.placeholder)?.focus();
window.addEventListener("load", () => setTimeout(() => { toField(); toOpen(); }, 30));
window.addEventListener("hashchange", toField);

// What was typed before the page was ready to send it is sent now
window.addEventListener("load", () => { for (const one of document.querySelectorAll("input[hx-trigger=change]")) if (one.value !== one.defaultValue) one.dispatchEvent(new Event("change")); });

// One box for all of a list
document.addEventListener("change", ({ target }) => {
  if (target.dataset?.all) for (const box of document.querySelectorAll(`input[name="${target.dataset.all}"]`)) box.checked = target.checked;
});
