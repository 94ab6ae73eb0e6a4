/** The signature canvas: draw, clear, send. */
const canvas = document.querySelector("canvas[data-signature]");
if (canvas) {
  const form = canvas.closest("form");
  const ratio = Math.max(window.devicePixelRatio || 1, 1);
  const pad = new window.SignaturePad(canvas, { penColor: "#14231b", minWidth: 0.8, maxWidth: 2.6 });
  const fit = () => {
    const drawn = pad.toData();
    canvas.width = canvas.offsetWidth * ratio;
    canvas.height = canvas.offsetHeight * ratio;
    canvas.getContext("2d").scale(ratio, ratio);
    pad.clear();
    pad.fromData(drawn);
  };
  window.addEventListener("resize", fit);
  fit();
  form.querySelector("[data-clear]").addEventListener("click", () => pad.clear());
  form.addEventListener("submit", (event) => {
    const error = form.querySelector("[data-error]");
    if (pad.isEmpty()) {
      event.preventDefault();
      error.textContent = "The signature is empty. Please sign with a finger, a pen or the mouse.";
      return;
    }
    form.querySelector("[name=image]").value = pad.toDataURL("image/png");
  });
}
