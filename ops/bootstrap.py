"""Makes the virtual environment from the locked list, then hands over to it. Runs on any Python 3.11 with nothing installed."""

import hashlib
import os
import subprocess
import sys
import tempfile
from pathlib import Path

HOME = Path(__file__).resolve().parent.parent
VENV = HOME / ".venv"
LOCKS = (HOME / "requirements.lock", HOME / "ops" / "uv.lock")


def main():
    mark = VENV / "made-from"
    wanted = hashlib.sha256(b"".join(lock.read_bytes() for lock in LOCKS) + sys.version.encode()).hexdigest()
    if not mark.is_file() or mark.read_text() != wanted:
        make(mark, wanted)
    python = str(VENV / "bin" / "python")
    os.environ["PYTHONPATH"] = str(HOME)
    # A start begins several Pythons, and each would compile a thousand modules anew where the environment forbids to keep them.
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    os.execv(python, [python, "-m", "ops", *sys.argv[1:]])


def make(mark, wanted):
    print("Making the virtual environment from requirements.lock ...", file=sys.stderr, flush=True)
    try:
        import ensurepip  # noqa: F401 - Debian ships Python without it
    except ImportError:
        install_venv()
    run([sys.executable, "-m", "venv", "--clear", str(VENV)], "make a virtual environment")
    python = str(VENV / "bin" / "python")
    run([python, "-m", "pip", "install", "-q", "--require-hashes", "-r", str(LOCKS[1])], "install uv")
    # Not compiled here: that takes some 20 seconds of a processor, mostly for modules that nothing imports.
    uv = [str(VENV / "bin" / "uv"), "pip", "install", "-q", "--require-hashes", "--python", python]
    run([*uv, "-r", str(LOCKS[0])], "install the locked packages")
    mark.write_text(wanted)


def install_venv():
    if os.geteuid() != 0:
        fail("Python's venv module is missing.", "sudo apt-get install python3-venv")
    run(["apt-get", "update", "-qq"], "read Debian's package lists")
    run(["apt-get", "install", "-y", "-qq", "--no-install-recommends", "python3-venv"], "install python3-venv")


def run(command, doing):
    with tempfile.TemporaryFile("w+") as log:
        if subprocess.run(command, stdout=log, stderr=subprocess.STDOUT).returncode:
            log.seek(0)
            fail(f"Could not {doing}. The last lines were:\n{log.read()[-1500:]}", " ".join(command))


def fail(happened, command):
    sys.exit(f"{happened}\nWhat mends it: {command}")


if __name__ == "__main__":
    main()
