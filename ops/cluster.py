"""A PostgreSQL cluster of our own on a free loopback port: made once, started, stopped, thrown away after tests."""

import contextlib
import fcntl
import os
import pwd
import secrets
import shutil
import subprocess
import time
from pathlib import Path

from ops.machine import free_port, postgres_programs
from ops.trouble import Trouble

USER = "impuesto"
_TAKEN = "Address already in use"
_THROWAWAY = "fsync=off\nsynchronous_commit=off\nfull_page_writes=off\n"


class Cluster:
    """`folder` holds the data, the port and the password (mode 600). `durable=False` trades safety for speed, for tests."""

    def __init__(self, folder: Path, durable: bool = True):
        self.folder = _reachable(folder)
        self.data = self.folder / "data"
        self.durable = durable
        programs = postgres_programs()
        if programs is None:
            raise Trouble("PostgreSQL's server programs are missing.", "apt-get install postgresql")
        self.programs = programs

    @property
    def port(self) -> int:
        return int((self.folder / "port").read_text())

    @property
    def password(self) -> str:
        return (self.folder / "password").read_text()

    def ensure(self) -> None:
        """Make the cluster if there is none and start it if it is not up. Safe to call from two processes at once."""
        self.folder.mkdir(parents=True, exist_ok=True)
        with open(self.folder / "lock", "w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            if not (self.data / "PG_VERSION").exists():
                self._make()
            if not self.is_ready():
                self._start()

    def is_ready(self) -> bool:
        if not (self.folder / "port").exists():
            return False
        command = [str(self.programs / "pg_isready"), "-q", "-h", "127.0.0.1", "-p", str(self.port), "-t", "3"]
        return subprocess.run(command).returncode == 0 and self._is_ours()

    def stop(self) -> None:
        if (self.data / "postmaster.pid").exists():
            self._run("pg_ctl", "stop", "-D", str(self.data), "-m", "fast", "-w", "-t", "120")

    def destroy(self) -> None:
        with contextlib.suppress(Trouble):
            self._run("pg_ctl", "stop", "-D", str(self.data), "-m", "immediate", "-w")
        shutil.rmtree(self.folder, ignore_errors=True)

    def create_database(self, name: str) -> None:
        exists = self.psql("postgres", f"select 1 from pg_database where datname = '{name}'")
        if "1" not in exists:
            self.psql("postgres", f'create database "{name}"')

    def drop_database(self, name: str) -> None:
        self.psql("postgres", f'drop database if exists "{name}" with (force)')

    def psql(self, database: str, sql: str) -> str:
        return self.client("psql", "-qAt", "-v", "ON_ERROR_STOP=1", "-d", database, "-c", sql)

    def client(self, program: str, *arguments: str, stdin=None) -> str:
        """Run a client program (psql, pg_dump, pg_restore) against this cluster; Trouble with its message if it fails."""
        environment = os.environ | {"PGPASSWORD": self.password}
        command = [str(self.programs / program), "-h", "127.0.0.1", "-p", str(self.port), "-U", USER, *arguments]
        done = subprocess.run(command, env=environment, capture_output=True, text=True, stdin=stdin)
        if done.returncode:
            raise Trouble(f"{program}: {done.stderr.strip()[-400:]}", f"see {self.folder / 'log'}")
        return done.stdout

    def _make(self) -> None:
        shutil.rmtree(self.data, ignore_errors=True)
        self._write("password", secrets.token_urlsafe(24))
        if os.geteuid() == 0:
            owner = pwd.getpwnam("postgres")
            for path in (self.folder, self.folder / "password"):
                os.chown(path, owner.pw_uid, owner.pw_gid)
        self._run(
            "initdb", "-D", str(self.data), "-U", USER, f"--pwfile={self.folder / 'password'}", "-A", "scram-sha-256",
            "-E", "UTF8", "--locale=C.UTF-8", *([] if self.durable else ["-N"]),
        )  # fmt: skip

    def _start(self) -> None:
        """Take a free port; if somebody takes it in the meantime, try another."""
        for _ in range(5):
            previous = int((self.folder / "port").read_text()) if (self.folder / "port").exists() else 0
            self._write("port", str(free_port(previous)))
            self._configure()
            begins = len(self._log())
            with contextlib.suppress(Trouble):
                self._run("pg_ctl", "start", "-D", str(self.data), "-l", str(self.folder / "log"), "-w", "-t", "30", "-s")
            if (self.data / "postmaster.pid").exists() and self._wait():  # one that died at once need not be waited for
                return
            (self.folder / "port").unlink()
            if _TAKEN not in self._log()[begins:]:
                break
        tail = self._log()[-500:]
        raise Trouble(f"PostgreSQL did not start. Its log ends: {tail}", f"look at {self.folder / 'log'}, then start again")

    def _log(self) -> str:
        return (self.folder / "log").read_text() if (self.folder / "log").exists() else ""

    def _configure(self) -> None:
        settings = f"listen_addresses='127.0.0.1'\nport={self.port}\nunix_socket_directories=''\nmax_connections=100\n"
        settings += "shared_buffers=128MB\nlog_min_messages=warning\n" + ("" if self.durable else _THROWAWAY)
        path = self.data / "postgresql.auto.conf"
        path.write_text(settings)
        if os.geteuid() == 0:
            owner = pwd.getpwnam("postgres")
            os.chown(path, owner.pw_uid, owner.pw_gid)

    def _wait(self) -> bool:
        for _ in range(50):
            if self.is_ready():
                return True
            time.sleep(0.1)
        return False

    def _is_ours(self) -> bool:
        """Somebody else's server may answer on a port that was ours yesterday."""
        try:
            lines = (self.data / "postmaster.pid").read_text().splitlines()
            return len(lines) > 3 and int(lines[3]) == self.port
        except (OSError, ValueError):
            return False

    def _write(self, name: str, content: str) -> None:
        path = self.folder / name
        path.touch(mode=0o600)
        path.write_text(content)

    def _run(self, program: str, *arguments: str) -> None:
        command = [str(self.programs / program), *arguments]
        if os.geteuid() == 0:
            command = ["runuser", "-u", "postgres", "--", *command]
        # pg_ctl leaves the server behind with these files open, so pipes would never close
        with open(os.devnull, "r+") as nowhere, open(self.folder / "set-up.log", "a+") as log:
            done = subprocess.run(command, cwd="/", stdin=nowhere, stdout=log, stderr=log)
            if done.returncode:
                log.seek(0)
                raise Trouble(f"{program} failed: {log.read().strip()[-400:]}", f"look at {self.folder / 'log'}")


def _reachable(folder: Path) -> Path:
    """As root the server runs as the user postgres, who must be able to enter every folder above the data."""
    folder = folder.absolute()
    if os.geteuid() != 0:
        return folder
    existing = next(path for path in (folder, *folder.parents) if path.exists())
    if subprocess.run(["runuser", "-u", "postgres", "--", "test", "-x", str(existing)], cwd="/").returncode == 0:
        return folder
    name = str(folder).strip("/").replace("/", "-")
    fallback = Path("/var/tmp") / f"impuesto-{name}"
    print(f"The user postgres cannot enter {existing}; its data goes to {fallback}", flush=True)
    return fallback
