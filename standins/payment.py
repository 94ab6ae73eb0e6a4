"""A payment service: it opens payments for those who know its key, takes made-up cards on a page of its own, and says what became
of each payment. What it knows is in a file: a restart forgets nobody's money.

POST /payments {"key", "amount", "currency", "what", "back"} → {"id", "url"}, the same for the same key; GET /payments/ID →
{"state", "amount", "reference"}; both with `Authorization: Bearer KEY`. GET and POST /pay/ID is the page. Card numbers that end
in 0002 are declined.
"""

import hmac
import html
import json
import secrets
import threading
from decimal import Decimal, InvalidOperation
from pathlib import Path
from urllib.parse import parse_qs

_DECLINED = "0002"


class PaymentService:
    """`url` is where its page is reached, `key` what those who open payments must know."""

    def __init__(self, file: Path, url: str, key: str):
        self._file, self._url, self._key = file, url, key
        self._lock = threading.Lock()
        self._known = json.loads(file.read_text()) if file.exists() else {}

    def knows(self, authorization: str) -> bool:
        return hmac.compare_digest(authorization, f"Bearer {self._key}")

    def open(self, asked: dict) -> dict | None:
        """A payment; None where what is asked for is none."""
        try:
            amount = Decimal(str(asked["amount"]))
            key, what, back = (str(asked[name]) for name in ("key", "what", "back"))
        except (KeyError, InvalidOperation):
            return None
        if not (amount.is_finite() and amount > 0 and key and back.startswith(("http://", "https://"))):
            return None
        with self._lock:
            there = next((one for one in self._known.values() if one["key"] == key), None)
            if there is None:
                name = secrets.token_urlsafe(12)
                there = {"id": name, "key": key, "amount": str(amount), "currency": str(asked.get("currency", "")), "what": what,
                         "back": back, "state": "open", "reference": ""}  # fmt: skip
                self._keep(name, there)
        return {"id": there["id"], "url": f"{self._url}/pay/{there['id']}"}

    def state(self, name: str) -> dict | None:
        found = self._known.get(name)
        return found and {one: found[one] for one in ("state", "amount", "reference")}

    def page(self, name: str, says: str = "") -> str | None:
        found = self._known.get(name)
        if found is None:
            return None
        shown = {one: html.escape(found[one]) for one in ("what", "amount", "currency", "back")}
        if found["state"] != "open":
            return _PAGE.format(**shown, says="", form=f"<p>This payment is {found['state']}.</p>")
        return _PAGE.format(**shown, says=html.escape(says), form=_FORM)

    def pay(self, name: str, body: bytes) -> tuple[str, str] | None:
        """("", where the browser goes on), or (what is wrong, ""). None for a payment that is not known."""
        found, given = self._known.get(name), parse_qs(body.decode("utf-8", "replace"))
        if found is None:
            return None
        card = "".join(one for one in given.get("card", [""])[0] if one in "0123456789")
        with self._lock:
            if found["state"] == "open" and "leave" not in given:
                if len(card) != 16:
                    return "A card number has 16 digits.", ""
                state = "declined" if card.endswith(_DECLINED) else "paid"
                self._keep(name, found | {"state": state, "reference": f"PS-{secrets.token_hex(4).upper()}"})
        return "", found["back"]

    def _keep(self, name: str, payment: dict) -> None:
        self._known = self._known | {name: payment}
        fresh = self._file.with_suffix(".new")
        fresh.write_text(json.dumps(self._known))
        fresh.replace(self._file)


_FORM = """<form method="post"><p><label>Card number<br><input name="card" inputmode="numeric" autocomplete="cc-number"
size="22"></label></p><p><button>Pay</button> <button name="leave" value="1">Leave</button></p></form>"""
_PAGE = """<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Payment</title><style>body{{font:16px/1.5 system-ui,sans-serif;max-width:24rem;margin:2rem auto;padding:0 1rem;
background:#f4f4f0;color:#1d2733}}input,button{{font:inherit;padding:.5rem}}.bad{{color:#8a1f11}}</style></head><body>
<h1>Payment</h1><p>{what}</p><p><strong>{currency} {amount}</strong></p><p class="bad" role="alert">{says}</p>{form}
<p>A stand-in: no card is charged. <a href="{back}">Back</a></p></body></html>"""
