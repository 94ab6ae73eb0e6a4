"""Runs the mail server and the HTTP side: mailboxes at /, mail as JSON at /mail.json, the identity service under /identity."""

import json
import os
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from standins.identity import IdentityService
from standins.mail import Mailbox, serve

REGISTRY = Path(__file__).resolve().parent / "registry.json"


class Handler(BaseHTTPRequestHandler):
    mailbox: Mailbox
    identity: IdentityService

    def do_GET(self):
        if self.path == "/mail.json":
            self._json(200, list(self.mailbox.messages()))
        elif self.path == "/":
            self._send(200, "text/html; charset=utf-8", self.mailbox.page().encode())
        else:
            self._json(404, {"error": "nothing here"})

    def do_POST(self):
        try:
            length = min(int(self.headers.get("Content-Length", 0)), 100_000)
            body = json.loads(self.rfile.read(length))
            made = self._identity(body)
        except (ValueError, AttributeError, TypeError):
            return self._json(400, {"error": "not a claim"})
        return self._json(200 if made is not None else 404, made or {"error": "unknown"})

    def _identity(self, body):
        if self.path == "/identity/checks":
            return self.identity.begin(body)
        if self.path.startswith("/identity/checks/"):
            return self.identity.answer(self.path.rsplit("/", 1)[1], body.get("answers"))
        return None

    def _json(self, status, value):
        self._send(status, "application/json", json.dumps(value).encode())

    def _send(self, status, kind, content):
        self.send_response(status)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(content)))
        self.end_headers()
        self.wfile.write(content)

    def log_message(self, *_):
        """Quiet: the mailboxes are polled by tests."""


def main():
    folder = Path(os.environ["IMPUESTO_DATA"]) / "mail"
    Handler.mailbox = Mailbox(folder)
    Handler.identity = IdentityService(json.loads(REGISTRY.read_text())["people"])
    serve(Handler.mailbox, int(os.environ["IMPUESTO_SMTP_PORT"]))
    ThreadingHTTPServer(("127.0.0.1", int(os.environ["IMPUESTO_STANDINS_PORT"])), Handler).serve_forever()


if __name__ == "__main__":
    main()
