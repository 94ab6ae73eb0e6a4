/** The pages of a paper beside its fields: shown and hidden, larger and smaller; rows pasted into a table. */

const sheet = document.querySelector("main.sheet");
const beside = document.querySelector("#beside"); // stays; the pictures in it are replaced while they are being drawn
function toggle(on) {
  sheet?.classList.toggle("with-pages", on);
  sessionStorage.beside = on ? "1" : "";
}
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-beside]") && beside) toggle(!sheet.classList.contains("with-pages"));
  const zooms = event.target.closest("[data-zooms]");
  if (zooms) beside.dataset.zoom = Math.max(1, Math.min(4, Number(beside.dataset.zoom) + Number(zooms.dataset.zooms)));
});
if (beside && (sessionStorage.beside || new URLSearchParams(location.search).has("beside"))) toggle(true);

// A file dropped anywhere on its form is attached at once
document.addEventListener("change", (event) => { if (event.target.matches(".drop input[type=file]") && event.target.files.length) event.target.form.submit(); });
for (const name of ["dragover", "drop"]) document.addEventListener(name, (event) => {
  const form = event.target.closest?.(".drop");
  if (!form) return;
  event.preventDefault();
  if (name === "drop" && event.dataTransfer.files.length) { form.querySelector("input[type=file]").files = event.dataTransfer.files; form.submit(); }
});

// Many rows pasted into the table's fields are meant for the table
document.addEventListener("paste", (event) => {
  const text = event.clipboardData?.getData("text") ?? "";
  const rows = document.querySelector("textarea[name=rows]");
  if (!rows || !event.target.closest?.(".pasted") || !text.trim().includes("\n")) return;
  event.preventDefault();
  rows.value = text;
  rows.form.submit();
});
