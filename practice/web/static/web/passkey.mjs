/** Passkeys: what the server asks for goes to the device, its answer goes back. */
const says = (text) => { const place = document.querySelector("[data-passkey-says]"); if (place) place.textContent = text; };
const token = () => document.querySelector("[name=csrfmiddlewaretoken]").value;

const post = async (url, body) => {
  const answer = await fetch(url, {
    method: "POST", body: JSON.stringify(body), headers: { "X-CSRFToken": token(), "Content-Type": "application/json" },
  });
  const said = await answer.json();
  if (!answer.ok) throw new Error(said.says);
  return said;
};

const open = async () => {
  const asked = await post("/sign-in/passkey", {});
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(asked.publicKey);
  const made = await navigator.credentials.get({ publicKey });
  location.href = (await post("/sign-in/passkey/answer", made.toJSON())).next;
};

const add = async () => {
  const name = document.querySelector("[data-passkey-name]").value;
  const asked = await post("/account/passkeys", {});
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(asked.publicKey);
  const made = await navigator.credentials.create({ publicKey });
  await post("/account/passkeys/answer", { name, answer: made.toJSON() });
  location.reload();
};

for (const button of document.querySelectorAll("[data-passkey]")) {
  if (!window.PublicKeyCredential?.parseRequestOptionsFromJSON) continue;
  button.hidden = false;
  button.addEventListener("click", async () => {
    says("");
    try { await { open, add }[button.dataset.passkey](); } catch (error) {
      says(error.name === "NotAllowedError" ? "The device did not confirm it. Try again." : error.message);
    }
  });
}
