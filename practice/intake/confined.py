"""Has a file opened by a process of its own that may run out of time or memory without taking anybody along (opening.py)."""

import json
import subprocess
import sys
import threading
from pathlib import Path

_HOME = Path(__file__).resolve().parents[2]
_AT_ONCE = threading.BoundedSemaphore(2)  # of one process of ours: a heap of files must not take every core
_PATIENCE = 15  # seconds to wait for one's turn
MEGABYTES = 700


class NotOpened(Exception):
    """The file is refused, or could not be opened within the limits; `says` is for the person who brought it."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says


def opened(do, content, *, seconds=10, **arguments):
    """What opening.py's function `do` makes of a file: bytes of a picture or a PDF, else plain values. NotOpened with the
    reason."""
    if not _AT_ONCE.acquire(timeout=_PATIENCE):
        raise NotOpened("Too many files are being opened at the moment. Try again in a minute.")
    try:
        done = _run(do, content, seconds, arguments)
    finally:
        _AT_ONCE.release()
    if done.returncode == 3:
        raise NotOpened(json.loads(done.stdout))
    if done.returncode:
        raise NotOpened("The file takes more time or memory to open than any of its kind should; it was stopped.")
    return done.stdout if do in ("picture", "put_together", "paged") else json.loads(done.stdout)


def _run(do, content, seconds, arguments):
    asked = json.dumps({"do": do, "megabytes": MEGABYTES, "seconds": seconds, **arguments}).encode() + b"\n"
    command = [sys.executable, "-m", "practice.intake.opening"]
    around = {
        "PYTHONPATH": str(_HOME),
        "PATH": "/usr/bin:/bin",
        "LANG": "C.UTF-8",
        "OPENBLAS_NUM_THREADS": "1",
        "OMP_THREAD_LIMIT": "1",
    }
    try:
        return subprocess.run(  # noqa: S603 - our own module; the file only ever comes in as bytes
            command, input=asked + content, capture_output=True, timeout=seconds * 2, cwd="/", env=around, check=False
        )
    except subprocess.TimeoutExpired:
        raise NotOpened("The file takes more time to open than any of its kind should; it was stopped.") from None
