"""A mail provider's mailbox by POP3 (RFC 1939): what is mailed to `documents-NUMBER@…` waits here until it is fetched.

USER documents, PASS with the key; STAT, LIST, UIDL, RETR, DELE, NOOP, RSET, QUIT. What was marked as deleted goes with QUIT.
"""

import hmac
import socketserver
from pathlib import Path

LOCAL = "documents-"  # how addresses begin whose mail waits here


class _Handler(socketserver.StreamRequestHandler):
    timeout = 60

    def handle(self):
        self._gone: set[Path] = set()
        self._open = False
        self._say("+OK ready")
        while line := self.rfile.readline(512):
            word, _, rest = line.decode("ascii", "replace").strip().partition(" ")
            do = getattr(self, f"do_{word.lower()}", None)
            if do is None or not (self._open or word.upper() in ("USER", "PASS", "QUIT")):
                self._say("-ERR not here")
            else:
                do(rest)
            if word.upper() == "QUIT":
                return

    def _say(self, text):
        self.wfile.write(f"{text}\r\n".encode())

    def _messages(self):
        return sorted(self.server.folder.glob("*.eml"))

    def do_user(self, rest):
        self._say("+OK")

    def do_pass(self, rest):
        self._open = hmac.compare_digest(rest, self.server.key)
        self._kept = self._messages() if self._open else []
        self._say("+OK" if self._open else "-ERR wrong key")

    def do_stat(self, rest):
        left = [one for one in self._kept if one not in self._gone]
        self._say(f"+OK {len(left)} {sum(one.stat().st_size for one in left)}")

    def do_list(self, rest):
        self._many(f"{number} {one.stat().st_size}" for number, one in self._numbered())

    def do_uidl(self, rest):
        self._many(f"{number} {one.stem}" for number, one in self._numbered())

    def _numbered(self):
        return [(number, one) for number, one in enumerate(self._kept, 1) if one not in self._gone]

    def _many(self, lines):
        self._say("+OK")
        for line in lines:
            self._say(line)
        self._say(".")

    def _one(self, rest):
        number = int(rest) if rest.isdecimal() else 0
        found = self._kept[number - 1] if 1 <= number <= len(self._kept) else None
        return found if found not in self._gone else None

    def do_retr(self, rest):
        if (found := self._one(rest)) is None:
            self._say("-ERR no such message")
            return
        content = found.read_bytes().replace(b"\r\n", b"\n").rstrip(b"\n").split(b"\n")
        self._say("+OK")
        self.wfile.write(b"".join((b"." if line.startswith(b".") else b"") + line + b"\r\n" for line in content) + b".\r\n")

    def do_dele(self, rest):
        if (found := self._one(rest)) is None:
            self._say("-ERR no such message")
            return
        self._gone.add(found)
        self._say("+OK")

    def do_noop(self, rest):
        self._say("+OK")

    def do_rset(self, rest):
        self._gone.clear()
        self._say("+OK")

    def do_quit(self, rest):
        for one in self._gone:
            one.unlink(missing_ok=True)
        self._say("+OK")


class Maildrop(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, folder: Path, key: str, port: int):
        folder.mkdir(parents=True, exist_ok=True)
        self.folder, self.key = folder, key
        super().__init__(("127.0.0.1", port), _Handler)
