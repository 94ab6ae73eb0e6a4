"""Runs the mail server and the HTTP side: mailboxes at /, mail as JSON at /mail.json, the identity service under /identity, the
payment service under /payments and /pay, the text gateway under /texts; and the virus scanner and the
practice's own mailbox (POP3) on ports of their own."""

import json
import os
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from standins.identity import IdentityService
from standins.mail import Mailbox, serve
from standins.maildrop import Maildrop
from standins.payment import PaymentService
from standins.scanner import Scanner
from standins.texting import TextGateway

REGISTRY = Path(__file__).resolve().parent / "registry.json"


class Handler(BaseHTTPRequestHandler):
    mailbox: Mailbox
    identity: IdentityService
    payment: PaymentService
    texts: TextGateway

    def do_GET(self):
        if self.path == "/mail.json":
            self._json(200, list(self.mailbox.messages()))
        elif self.path == "/texts.json":
            self._json(200, self.texts.messages())
        elif self.path == "/":
            self._send(200, "text/html; charset=utf-8", self.mailbox.page().encode())
        elif self.path.startswith("/pay/"):
            page = self.payment.page(self._last())
            self._send(200 if page else 404, "text/html; charset=utf-8", (page or "No such payment.").encode())
        elif self.path.startswith("/payments/") and self._is_known():
            self._answer(self.payment.state(self._last()))
        else:
            self._json(404, {"error": "nothing here"})

    def do_POST(self):
        try:
            content = self.rfile.read(min(int(self.headers.get("Content-Length", 0)), 100_000))
            if self.path.startswith("/pay/"):
                return self._pay(content)
            if self.path == "/texts":
                return self._text(json.loads(content))
            made = self._served(json.loads(content))
        except (ValueError, AttributeError, TypeError):
            return self._json(400, {"error": "not a claim"})
        return self._answer(made)

    def _pay(self, content):
        says, back = self.payment.pay(self._last(), content) or ("No such payment.", "")
        if back:
            return self._send(303, "text/plain", b"", Location=back)
        page = self.payment.page(self._last(), says) or says
        return self._send(422, "text/html; charset=utf-8", page.encode())

    def _text(self, body):
        if not self.texts.knows(self.headers.get("Authorization", "")):
            return self._json(401, {"error": "unknown key"})
        made = self.texts.send(body)
        return self._json(422 if "error" in made else 200, made)

    def _served(self, body):
        if self.path == "/payments":
            return self.payment.open(body) if self._is_known() else None
        return self._identity(body)

    def _is_known(self):
        return self.payment.knows(self.headers.get("Authorization", ""))

    def _last(self):
        return self.path.rsplit("/", 1)[1]

    def _answer(self, made):
        self._json(200 if made is not None else 404, made or {"error": "unknown"})

    def _identity(self, body):
        if self.path == "/identity/checks":
            return self.identity.begin(body)
        if self.path.startswith("/identity/checks/"):
            return self.identity.answer(self.path.rsplit("/", 1)[1], body.get("answers"))
        return None

    def _json(self, status, value):
        self._send(status, "application/json", json.dumps(value).encode())

    def _send(self, status, kind, content, **headers):
        self.send_response(status)
        self.send_header("Content-Type", kind)
        for name, value in headers.items():
            self.send_header(name, value)
        self.send_header("Content-Length", str(len(content)))
        self.end_headers()
        self.wfile.write(content)

    def log_message(self, *_):
        """Quiet: the mailboxes are polled by tests."""


def main():
    folder = Path(os.environ["IMPUESTO_DATA"]) / "mail"
    Handler.mailbox = Mailbox(folder)
    Handler.identity = IdentityService(json.loads(REGISTRY.read_text())["people"])
    port = int(os.environ["IMPUESTO_STANDINS_PORT"])
    key = (Path(os.environ["IMPUESTO_DATA"]) / "secrets" / "payment_key").read_text().strip()
    Handler.payment = PaymentService(folder.parent / "payments.json", f"http://127.0.0.1:{port}", key)
    text_key = (Path(os.environ["IMPUESTO_DATA"]) / "secrets" / "text_key").read_text().strip()
    Handler.texts = TextGateway(folder.parent / "texts.json", text_key)
    threading.Thread(target=Scanner(int(os.environ["IMPUESTO_SCANNER_PORT"])).serve_forever, daemon=True).start()
    mail_key = (folder.parent / "secrets" / "mail_in_key").read_text().strip()
    drop = Maildrop(folder.parent / "maildrop", mail_key, int(os.environ["IMPUESTO_MAILDROP_PORT"]))
    threading.Thread(target=drop.serve_forever, daemon=True).start()
    serve(Handler.mailbox, int(os.environ["IMPUESTO_SMTP_PORT"]))
    ThreadingHTTPServer(("127.0.0.1", port), Handler).serve_forever()


if __name__ == "__main__":
    main()
