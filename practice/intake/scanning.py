"""Files that people send are looked through for viruses before anybody opens them, by a scanner that speaks as clamd does."""

import socket
import struct

from django.conf import settings

_CHUNK = 256 * 1024


class ScannerAway(Exception):
    """The scanner does not answer, or not as expected; the file waits."""

    says = "the virus scanner does not answer"


class Infected(Exception):
    """The scanner found something; `says` what."""

    def __init__(self, virus):
        super().__init__(virus)
        self.says = f"The virus scanner found {virus}. The file was not opened."


def is_wanted():
    """Whether this installation has a scanner. Without one files are opened as they come, still in a process of their own."""
    return bool(settings.SCANNER)


def looked_through(content):
    """The same content, once nothing was found in it. Infected, or ScannerAway."""
    if is_wanted() and (virus := found_in(content)):
        raise Infected(virus)
    return content


def found_in(content):
    """The name of what the scanner found; empty where it found nothing. ScannerAway where it says neither."""
    host, _, port = settings.SCANNER.rpartition(":")
    try:
        with socket.create_connection((host, int(port)), timeout=settings.OUTSIDE_TIMEOUT) as line:
            line.settimeout(60)
            line.sendall(b"zINSTREAM\0")
            for at in range(0, len(content), _CHUNK):
                chunk = content[at : at + _CHUNK]
                line.sendall(struct.pack(">I", len(chunk)) + chunk)
            line.sendall(struct.pack(">I", 0))
            answer = _answer(line)
    except (OSError, ValueError) as error:
        raise ScannerAway from error
    if answer == "stream: OK":
        return ""
    if answer.startswith("stream: ") and answer.endswith(" FOUND"):
        return answer.removeprefix("stream: ").removesuffix(" FOUND")[:80]
    raise ScannerAway(answer)


def _answer(line):
    read = b""
    while len(read) < 1000 and not read.endswith(b"\0") and (more := line.recv(1000)):
        read += more
    return read.rstrip(b"\0").decode("utf-8", "replace").strip()
