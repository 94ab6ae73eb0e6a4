"""`./impuesto start`: makes what is missing, runs everything, and stops everything that it started."""

import argparse
import contextlib
import ctypes
import fcntl
import os
import shutil
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops.backup import forget_before_restore
from ops.installation import HOME, PYTHON, Installation
from ops.machine import ensure_packages, free_port, require_port
from ops.making import keep_contracts
from ops.prepared import is_prepared, note_prepared
from ops.trouble import Trouble
from ops.versions import refuse_other

LARGEST_LOG = 10_000_000  # bytes
OLD_LOGS = 5
_LOGS_EVERY = 60  # seconds


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser("./impuesto start", description="Run the practice on this machine.")
    parser.add_argument("--port", type=int, default=8000, help="where the web pages are (default 8000)")
    parser.add_argument("--data", type=Path, help="data folder (default: var, or IMPUESTO_DATA)")
    parser.add_argument("--no-demo", action="store_true", help="do not put the demo practice into an empty database")
    parser.add_argument("--only-prepare", action="store_true", help="make what is missing, then stop")
    options = parser.parse_args(arguments)
    ensure_packages()
    installation = Installation(options.data)
    installation.make_secrets()
    with open(installation.data / "start.lock", "w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Trouble(
                f"Impuesto already runs on {installation.data}.", "stop it there with Ctrl+C, or give another --data"
            ) from None
        require_port(options.port)
        try:
            prepare(installation, options.port, demo=not options.no_demo)
            if options.only_prepare:
                return 0
            return Supervisor(installation).run()
        finally:
            installation.cluster.stop()


def prepare(installation: Installation, port: int, demo: bool = True) -> None:
    """Database, tables, static files and the demo practice. Quick and harmless when all is there."""
    installation.cluster.ensure()
    installation.ports = {
        "web": port,
        "authority": free_port(port + 1),
        "standins": free_port(port + 2),
        "smtp": free_port(port + 3),
        "scanner": free_port(port + 4),
        "maildrop": free_port(port + 5),
    }
    for name in ("practice", "authority"):
        installation.cluster.create_database(name)
        refuse_other(installation.cluster, name, name)
    if is_prepared(installation, demo):
        return
    environment = installation.environment()
    wanted = ["--demo"] if demo else []
    with ThreadPoolExecutor() as pool:
        under_way = [pool.submit(manage, environment, project, "prepare", *wanted) for project in ("practice", "authority")]
        for done in (pool.submit(keep_contracts, installation.data / "schemas"), *under_way):
            done.result()
    note_prepared(installation, demo)


def manage(environment: dict[str, str], project: str, *command: str) -> None:
    done = subprocess.run(
        [PYTHON, "-m", project, *command], cwd=HOME, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    )
    if done.returncode:
        raise Trouble(f"{project} {command[0]} failed:\n{done.stdout[-1500:]}", f"./impuesto manage {project} {command[0]}")


def granian(target: str, port: int, workers: int, threads: int) -> list[str]:
    return [
        PYTHON, "-m", "ops.serving", target, "--interface", "wsgi", "--host", "127.0.0.1", "--port", str(port),
        "--workers", str(workers), "--blocking-threads", str(threads), "--no-ws", "--log-level", "warning",
        "--respawn-failed-workers",
    ]  # fmt: skip


def programs(installation: Installation) -> dict[str, tuple[list[str], dict[str, str]]]:
    """What runs, by name: command and what is added to its environment."""
    ports = installation.ports
    return {
        "web": (granian("practice.wsgi:application", ports["web"], 2, 4),
                {"IMPUESTO_POOL": "1", "IMPUESTO_LOCK_TIMEOUT": "8000", "IMPUESTO_STATEMENT_TIMEOUT": "20000"}),
        "worker": ([PYTHON, "-m", "practice", "procrastinate", "worker", "--concurrency", "4",
                    "--shutdown-graceful-timeout", "3"],
                   {"IMPUESTO_LOCK_TIMEOUT": "20000", "IMPUESTO_STATEMENT_TIMEOUT": "60000"}),
        "authority": (granian("authority.wsgi:application", ports["authority"], 1, 4), {}),
        "stand-ins": ([PYTHON, "-m", "standins"], {}),
    }  # fmt: skip


class Supervisor:
    """Starts the programs, starts again what falls over, stops all of them at the end."""

    def __init__(self, installation: Installation):
        self.installation = installation
        self.environment = installation.environment()
        self.running: dict[str, subprocess.Popen] = {}
        self.started_at: dict[str, float] = {}
        self.stopping = False
        self.logs_seen_at = 0.0
        self.logs = installation.data / "logs"
        self.logs.mkdir(exist_ok=True)

    def run(self) -> int:
        for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, self._stop)
        try:
            for name in programs(self.installation):
                self._start(name)
            self._wait_for_page()
            forget_before_restore(self.installation)
            self._announce()
            while not self.stopping:
                self._look_after()
                self._rotate_logs()
                time.sleep(0.3)
        finally:
            self._end()
        return 0

    def _stop(self, *_) -> None:
        self.stopping = True

    def _start(self, name: str) -> None:
        command, extra = programs(self.installation)[name]
        log = open(self.logs / f"{name}.log", "a")  # noqa: SIM115 - the child keeps it
        self.running[name] = subprocess.Popen(
            command, cwd=HOME, env=self.environment | extra, stdout=log, stderr=log, stdin=subprocess.DEVNULL,
            start_new_session=True, preexec_fn=die_with_parent,
        )  # fmt: skip
        self.started_at[name] = time.monotonic()
        (self.logs / f"{name}.pid").write_text(str(self.running[name].pid))
        log.close()

    def _look_after(self) -> None:
        for name, process in list(self.running.items()):
            if process.poll() is not None and time.monotonic() - self.started_at[name] > 1:
                print(f"{name} ended with code {process.returncode}; starting it again", flush=True)
                _kill_group(process.pid)
                self._start(name)
        if not self.installation.cluster._is_ours():
            print("PostgreSQL is down; starting it again", flush=True)
            try:
                self.installation.cluster.ensure()
            except Trouble as trouble:
                print(trouble.happened, flush=True)
                time.sleep(1)

    def _rotate_logs(self) -> None:
        """A log that has grown is copied aside and begun anew; programs append, so they need not know."""
        if time.monotonic() < self.logs_seen_at + _LOGS_EVERY:
            return
        self.logs_seen_at = time.monotonic()
        for log in self.logs.glob("*.log"):
            if log.stat().st_size > LARGEST_LOG:
                for number in range(OLD_LOGS - 1, 0, -1):
                    older = log.with_name(f"{log.name}.{number}")
                    if older.exists():
                        older.replace(log.with_name(f"{log.name}.{number + 1}"))
                shutil.copyfile(log, log.with_name(f"{log.name}.1"))
                os.truncate(log, 0)

    def _wait_for_page(self) -> None:
        url = f"http://127.0.0.1:{self.installation.ports['web']}/healthy"
        for _ in range(900):
            if self.stopping:
                return
            try:
                with urllib.request.urlopen(url, timeout=2):
                    return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise Trouble("The web pages did not come up within 90 seconds.", f"look at {self.logs / 'web.log'}")

    def _announce(self) -> None:
        ports = self.installation.ports
        print(
            f"\n  Impuesto is at      http://127.0.0.1:{ports['web']}\n"
            f"  Clients' mail is at http://127.0.0.1:{ports['standins']}  (stand-in for the clients' mailboxes)\n"
            f"  Authorities are at  http://127.0.0.1:{ports['authority']}  (stand-in, with a small console)\n\n"
            f"{self._who_signs_in(ports['web'])}\n"
            "  Ctrl+C stops everything.",
            flush=True,
        )

    def _who_signs_in(self, port: int) -> str:
        """The demo's people; without the demo, where a practice is set up."""
        password = self.installation.data / "demo-password"
        if password.exists():
            return (
                f"  Who may sign in, all with the password in {password}:\n"
                "    bea@larkspurrow.example     Bea Thorne, preparer\n"
                "    rafe@larkspurrow.example    Rafe Abara, reviewer\n"
                "    sunniva@larkspurrow.example Sunniva Holt, signer\n"
                "    amos@larkspurrow.example    Amos Pell, administrator\n"
                "    tilde@larkspurrow.example   Tilde Marsh, preparer\n"
            )
        key = (self.installation.data / "secrets" / "set_up_key").read_text().strip()
        return f"  A practice is set up once, at http://127.0.0.1:{port}/set-up/{key}\n"

    def _end(self) -> None:
        for process in self.running.values():
            if process.poll() is None:
                process.terminate()
        until = time.monotonic() + 8
        for process in self.running.values():
            with contextlib.suppress(subprocess.TimeoutExpired):
                process.wait(max(until - time.monotonic(), 0.1))
            _kill_group(process.pid)
        print("Stopped.", flush=True)


def die_with_parent() -> None:
    """Linux: the child gets SIGTERM if this process dies without saying goodbye."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)


def _kill_group(pid: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(pid, signal.SIGKILL)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
