"""What the machine must have: Debian packages, free ports."""

import os
import socket
import subprocess
from pathlib import Path

from ops.trouble import Trouble

# What is looked for, and the Debian package that brings it
_SERVES = {
    "postgresql": lambda: postgres_programs() is not None,
    "libpango-1.0-0": lambda: _library("libpango-1.0.so.0"),
    "libpangoft2-1.0-0": lambda: _library("libpangoft2-1.0.so.0"),
    "tesseract-ocr": lambda: Path("/usr/bin/tesseract").exists(),
    "libharfbuzz-subset0": lambda: _library("libharfbuzz-subset.so.0"),
}
_TESTS = {
    "chromium-headless-shell": lambda: Path("/usr/lib/chromium/chromium-headless-shell").exists(),
    "chromium-driver": lambda: Path("/usr/bin/chromedriver").exists(),
    "git": lambda: any((Path(folder) / "git").exists() for folder in os.environ["PATH"].split(":")),
}


def postgres_programs() -> Path | None:
    """Folder of the newest PostgreSQL server programs, or None."""
    found = [path for path in Path("/usr/lib/postgresql").glob("*/bin") if (path / "initdb").exists()]
    return max(found, key=lambda path: float(path.parent.name), default=None)


def _library(name: str) -> bool:
    return any((Path(folder) / name).exists() for folder in _library_folders())


def _library_folders() -> list[str]:
    listed = subprocess.run(["/sbin/ldconfig", "-v", "-N", "-X"], capture_output=True, text=True).stdout
    return [line.split(":")[0] for line in listed.splitlines() if line.startswith("/")]


def ensure_packages(for_tests: bool = False) -> None:
    """Install missing Debian packages as root; otherwise say which and how."""
    wanted = _SERVES | (_TESTS if for_tests else {})
    missing = [package for package, present in wanted.items() if not present()]
    if not missing:
        return
    command = f"apt-get install -y --no-install-recommends {' '.join(missing)}"
    if os.geteuid() != 0:
        raise Trouble(f"Missing on this machine, and only root may install: {', '.join(missing)}.", f"sudo {command}")
    print(f"Installing {', '.join(missing)} ...", flush=True)
    environment = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    subprocess.run(["apt-get", "update", "-qq"], env=environment, capture_output=True)
    done = subprocess.run(command.split(), env=environment, capture_output=True, text=True)
    if done.returncode:
        raise Trouble(f"Debian's packages could not be installed: {done.stderr.strip()[-400:]}", command)


def free_port(preferred: int = 0) -> int:
    """A loopback port nobody listens on: the preferred one if it is free."""
    for port in (preferred, 0):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
                return probe.getsockname()[1]
            except OSError:
                continue
    raise Trouble("No loopback port is free.", "close a program that listens, then start again")


def require_port(port: int) -> None:
    if free_port(port) != port:
        raise Trouble(f"Port {port} is taken by another program.", f"./impuesto start --port {port + 10}")
