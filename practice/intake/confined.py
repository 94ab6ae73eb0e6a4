"""Has a file opened by a process of its own that may run out of time or memory without taking anybody along (opening.py)."""

import json
import os
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import NamedTuple

from practice.intake.forking import ANSWER

_HOME = Path(__file__).resolve().parents[2]
_AT_ONCE = threading.BoundedSemaphore(2)  # of one process of ours: a heap of files must not take every core
_PATIENCE = 15  # seconds to wait for one's turn
MEGABYTES = 700


class NotOpened(Exception):
    """The file is refused, or could not be opened within the limits; `says` is for the person who brought it."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says


def opened(do, content, *, seconds=10, megabytes=MEGABYTES, **arguments):
    """What opening.py's function `do` makes of a file: bytes of a picture or a PDF, else plain values. NotOpened with the
    reason."""
    if not _AT_ONCE.acquire(timeout=_PATIENCE):
        raise NotOpened("Too many files are being opened at the moment. Try again in a minute.")
    try:
        done = _run(do, content, seconds, arguments | {"megabytes": megabytes})
    finally:
        _AT_ONCE.release()
    if done.returncode == 3:
        raise NotOpened(json.loads(done.stdout))
    if done.returncode:
        raise NotOpened("The file takes more time or memory to open than any of its kind should; it was stopped.")
    return done.stdout if do in ("picture", "put_together", "paged") else json.loads(done.stdout)


class _Done(NamedTuple):
    returncode: int
    stdout: bytes


_DIED = _Done(-9, b"")


def _run(do, content, seconds, arguments):
    """What the process says that opens the file. One that ended before it had said all of it died."""
    asked = {"do": do, "seconds": seconds, **arguments}
    ours, theirs = socket.socketpair()
    with ours:
        with theirs:
            _COPIES.hand_over(asked, theirs)
        try:
            return _answer(ours, content, time.monotonic() + 2 * seconds + 1)
        except TimeoutError:
            raise NotOpened("The file takes more time to open than any of its kind should; it was stopped.") from None
        except OSError:
            return _DIED


def _answer(way, content, until):
    way.settimeout(until - time.monotonic())
    way.sendall(content)
    way.shutdown(socket.SHUT_WR)
    parts = []
    while part := way.recv(1_000_000):
        parts.append(part)
        way.settimeout(max(until - time.monotonic(), 0.001))
    said = b"".join(parts)
    if len(said) < ANSWER.size:
        return _DIED
    code, length = ANSWER.unpack_from(said)
    answer = said[ANSWER.size :]
    return _Done(code, answer) if len(answer) == length else _DIED


class _Copies:
    """The process that others are copied from (forking.py). Each of ours starts one when it first needs it; they end together."""

    def __init__(self):
        self.lock = threading.Lock()
        self.of = 0  # a copy of our own process must not use what the first one started
        self.process = self.control = None

    def hand_over(self, asked, way):
        """Have a file opened that comes on the other end of `way`."""
        message = json.dumps(asked).encode()
        with self.lock:
            if self.of != os.getpid() or self.process.poll() is not None:
                self._start()
            try:
                socket.send_fds(self.control, [message], [way.fileno()])
            except ConnectionError:  # it has just been killed
                self._start()
                socket.send_fds(self.control, [message], [way.fileno()])

    def _start(self):
        around = {
            "PYTHONPATH": str(_HOME),
            "PATH": "/usr/bin:/bin",
            "LANG": "C.UTF-8",
            "OPENBLAS_NUM_THREADS": "1",
            "OMP_THREAD_LIMIT": "1",
        }
        command = [sys.executable, "-m", "practice.intake.forking"]
        self.control, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs:
            self.process = subprocess.Popen(  # noqa: S603 - our own module; the file only ever comes in as bytes
                command, stdin=theirs, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, cwd="/", env=around
            )
        self.of = os.getpid()


_COPIES = _Copies()
