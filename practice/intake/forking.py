"""The process that others are copied from, each to open one file: `python -m practice.intake.forking`, started by confined.py.

To import what reads a workbook or draws a page takes longer than to do it. This process has it imported. It opens no file, and
holds no secret and no connection but standard input: a socket on which each message says what to do (JSON) and brings the way
there and back for one file. For each it makes a copy of itself, which may die. It ends with the process that started it.
"""

import json
import os
import select
import signal
import socket
import struct
import time

from practice.intake import opening

LARGEST = 60_000  # bytes of a message
ANSWER = struct.Struct(">BQ")  # exit code, bytes that follow
_NAP = 0.1  # seconds between two looks at the copies


def main():
    control = socket.socket(fileno=0)
    copies = {}  # when each has to be done, by process
    while True:
        ready, _, _ = select.select([control], [], [], _NAP if copies else None)
        _look_after(copies)
        if not ready:
            continue
        message, ways, _, _ = socket.recv_fds(control, LARGEST, 1)
        if not message:  # whoever started us is gone
            break
        asked = json.loads(message)
        opening.make_ready(**asked)
        copy = os.fork()
        if not copy:
            control.close()
            _open(ways[0], asked)
        os.close(ways[0])
        copies[copy] = time.monotonic() + 2 * asked["seconds"]
    for copy in copies:
        os.kill(copy, signal.SIGKILL)


def _look_after(copies):
    """Who is done goes; who is not when it should be is stopped. Nobody else waits for them, so no number is used anew."""
    for copy, until in list(copies.items()):
        if os.waitpid(copy, os.WNOHANG)[0]:
            del copies[copy]
        elif time.monotonic() > until:
            os.kill(copy, signal.SIGKILL)


def _open(way, asked):
    """In the copy: answer, and end without going back."""
    try:
        with socket.socket(fileno=way) as there:
            code, answer = opening.answered(there.makefile("rb"), **asked)
            there.sendall(ANSWER.pack(code, len(answer)) + answer)
        os._exit(0)
    finally:
        os._exit(1)


if __name__ == "__main__":
    main()
