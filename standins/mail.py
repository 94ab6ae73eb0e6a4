"""A mail server that keeps what it gets as files, and a page that shows them: the clients' mailboxes."""

import email
import email.policy
import html
import re
import time
from pathlib import Path

from aiosmtpd.controller import Controller

from standins.maildrop import LOCAL


class Mailbox:
    """Messages under one folder, newest last."""

    def __init__(self, folder: Path):
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    async def handle_DATA(self, server, session, envelope):
        name = f"{time.time_ns():020d}.eml"
        ours = any(one.partition("@")[0].startswith(LOCAL) for one in envelope.rcpt_tos)
        folder = self.folder.parent / "maildrop" if ours else self.folder
        folder.mkdir(exist_ok=True)
        partial = folder / f".{name}"
        partial.write_bytes(envelope.content)
        partial.rename(folder / name)
        return "250 kept"

    def messages(self):
        """Plain values of every message: to, subject, text, at."""
        for path in sorted(self.folder.glob("*.eml")):
            parsed = email.message_from_bytes(path.read_bytes(), policy=email.policy.default)
            body = parsed.get_body(("plain",))
            yield {
                "id": path.stem,
                "to": str(parsed["to"]),
                "subject": str(parsed["subject"]),
                "text": body.get_content() if body else "",
                "at": int(path.stem) // 10**9,
            }

    def page(self) -> str:
        rows = [
            f"<article><h2>{html.escape(message['subject'])}</h2><p>to {html.escape(message['to'])}, "
            f"{time.strftime('%b %d, %H:%M', time.localtime(message['at']))}</p><pre>{_linked(message['text'])}</pre></article>"
            for message in reversed(list(self.messages()))
        ]
        return _PAGE.format("".join(rows) or "<p>No mail yet. Request an e-signature from a client.</p>")


_PAGE = """<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Clients' mailboxes</title><style>
body{{font:14px/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;background:#f4f4f0;color:#1d2733}}
article{{border-top:1px solid #c9c9c0;padding:.6rem 0}}h2{{font-size:1rem;margin:0}}p{{margin:.1rem 0;color:#555}}
pre{{white-space:pre-wrap;font:inherit}}</style></head><body><h1>Clients' mailboxes</h1>
<p>A stand-in: nothing here was really sent.</p>{}</body></html>"""


def _linked(text: str) -> str:
    return re.sub(r"(https?://[^\s&]+)", r'<a href="\1">\1</a>', html.escape(text))


def serve(mailbox: Mailbox, port: int) -> Controller:
    controller = Controller(mailbox, hostname="127.0.0.1", port=port)
    controller.start()
    return controller
