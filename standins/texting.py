"""A text gateway: takes messages from those who know its key and shows them instead of sending them. Texts are in a file.

POST /texts {"key", "to", "text"} with `Authorization: Bearer KEY` → {"id"}, the same for the same key; 422 for a number that is
none. GET /texts.json lists them.
"""

import hmac
import json
import re
import threading
from pathlib import Path


class TextGateway:
    """`key` is what those who send must know."""

    def __init__(self, file: Path, key: str):
        self._file, self._key = file, key
        self._lock = threading.Lock()
        self._sent = json.loads(file.read_text()) if file.exists() else []

    def knows(self, authorization: str) -> bool:
        return hmac.compare_digest(authorization, f"Bearer {self._key}")

    def send(self, asked: dict) -> dict:
        """{"id"}, or {"error"} with the reason."""
        key, to, text = (str(asked.get(name, "")) for name in ("key", "to", "text"))
        if not key or not text or len(text) > 160:
            return {"error": "a text has a key and up to 160 characters"}
        if not 10 <= len(re.sub(r"[^0-9]", "", to)) <= 15:
            return {"error": "no number to send to"}
        with self._lock:
            there = next((one for one in self._sent if one["key"] == key), None)
            if there is None:
                there = {"id": len(self._sent) + 1, "key": key, "to": to, "text": text}
                self._sent.append(there)
                self._file.write_text(json.dumps(self._sent))
        return {"id": there["id"]}

    def messages(self) -> list:
        return list(self._sent)
