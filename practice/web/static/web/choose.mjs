/** Fields that are chosen from a list: typing narrows it by code or words, the arrows walk it, Enter or Tab takes what is marked. */

const list = document.querySelector("#choices");
let field = null; // the input the list belongs to
let marked = -1;

const optionsOf = (input) => [...(document.getElementById(input.dataset.list)?.options ?? [])].map((one) => ({ code: one.value, text: one.text }));
const plain = (text) => text.trim().toLowerCase();

/** Those that fit, best first: the code itself, a beginning, any word's beginning, anything inside. */
function fitting(input) {
  const words = plain(input.value);
  if (!words || input.value === input.defaultValue) return optionsOf(input);
  const rank = ({ code, text }) => {
    const [short, long] = [plain(code), plain(text)];
    if (short === words || long === words) return 0;
    if (short.startsWith(words) || long.startsWith(words)) return 1;
    return long.split(/[\s,]+/).some((one) => one.startsWith(words)) ? 2 : long.includes(words) ? 3 : 9;
  };
  return optionsOf(input).map((one) => [rank(one), one]).filter(([place]) => place < 9).sort(([a], [b]) => a - b).map(([, one]) => one);
}

function show(input, all) {
  const found = all ? optionsOf(input) : fitting(input);
  field = input;
  list.replaceChildren(...found.map(({ text }, place) => Object.assign(document.createElement("li"), { role: "option", id: `choice-${place}`, textContent: text })));
  list.hidden = !found.length;
  input.setAttribute("aria-expanded", String(!list.hidden));
  const box = input.getBoundingClientRect();
  list.style.left = `${Math.min(box.left, innerWidth - 330)}px`;
  list.style.minWidth = `${box.width}px`;
  const below = innerHeight - box.bottom > 230;
  list.style.top = below ? `${box.bottom + 1}px` : "auto";
  list.style.bottom = below ? "auto" : `${innerHeight - box.top + 1}px`;
  const now = found.findIndex(({ text }) => text === input.value);
  mark(input.value && !all ? 0 : now);
}

function mark(place) {
  marked = place;
  [...list.children].forEach((one, at) => one.setAttribute("aria-selected", String(at === place)));
  list.children[place]?.scrollIntoView({ block: "nearest" });
  if (place >= 0 && list.children[place]) field.setAttribute("aria-activedescendant", `choice-${place}`);
  else field.removeAttribute("aria-activedescendant");
}

function close() {
  if (!field) return;
  field.setAttribute("aria-expanded", "false");
  field.removeAttribute("aria-activedescendant");
  list.hidden = true;
  field = null;
}

/** Put the marked one into the field; the field's own change event follows when it is left. */
function take(place = marked) {
  const chosen = list.children[place]?.textContent;
  if (chosen !== undefined && field.value && chosen !== field.value) field.value = chosen;
  else if (chosen !== undefined && !field.value && place >= 0) field.value = chosen;
}

const ours = (event) => event.target.matches?.("input[data-list]");
document.addEventListener("input", (event) => { if (ours(event)) show(event.target); });
document.addEventListener("click", (event) => { if (ours(event) && !field) show(event.target, true); });
document.addEventListener("keydown", (event) => {
  if (!ours(event)) return;
  if ((event.key === "ArrowDown" || event.key === "ArrowUp") && !event.altKey) {
    event.preventDefault();
    if (!field) show(event.target, true);
    else mark(Math.max(0, Math.min(list.children.length - 1, marked + (event.key === "ArrowDown" ? 1 : -1))));
    if (marked >= 0) field.dataset.walked = "1";
  }
  if (event.key === "Escape" && field) { event.stopPropagation(); event.target.value = event.target.defaultValue; close(); }
  if ((event.key === "Enter" || event.key === "Tab") && field) { if (event.target.value !== event.target.defaultValue || event.target.dataset.walked) take(); close(); }
}, true);
list?.addEventListener("pointerdown", (event) => {
  event.preventDefault();
  const input = field;
  input.value = event.target.closest("li")?.textContent ?? input.value;
  close();
  input.form.requestSubmit();
});
// What was put in by the list is no typing to the browser, so the field is sent when it is left
document.addEventListener("focusout", (event) => {
  if (!ours(event)) return;
  if (field === event.target) { if (event.target.value !== event.target.defaultValue) take(); close(); }
  const input = event.target;
  delete input.dataset.walked;
  if (input.value !== input.defaultValue && input.isConnected) { input.defaultValue = input.value; input.form.requestSubmit(); }
});
document.addEventListener("change", (event) => { if (ours(event) && event.target.form?.dataset.save) event.stopImmediatePropagation(); }, true);
