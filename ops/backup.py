"""Everything into one file, and back: both databases, stored files, the secrets without which they cannot be read."""

import fcntl
import os
import shutil
import tarfile
import tempfile
from contextlib import contextmanager
from pathlib import Path

from ops.installation import Installation
from ops.machine import ensure_packages
from ops.trouble import Trouble

DATABASES = ("practice", "authority")
_KEPT = ("files", "secrets", "demo-password")


def backup(arguments: list[str]) -> int:
    """Write FILE, readable by its owner only. The practice may be running."""
    target = _named(arguments, "backup")
    installation = Installation()
    if not (installation.data / "secrets").is_dir():
        raise Trouble(f"There is no practice in {installation.data}.", "./impuesto start")
    with _cluster_up(installation), tempfile.TemporaryDirectory() as folder:
        for name in DATABASES:
            installation.cluster.client("pg_dump", "-Fc", "-f", str(Path(folder) / f"{name}.dump"), name)
        partial = target.with_name(target.name + ".partial")
        with (
            open(os.open(partial, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as opened,
            tarfile.open(fileobj=opened, mode="w:gz") as tar,
        ):
            for name in DATABASES:
                tar.add(Path(folder) / f"{name}.dump", f"{name}.dump")
            for name in _KEPT:
                if (installation.data / name).exists():
                    tar.add(installation.data / name, name)
        partial.replace(target)
    print(f"{target}: {target.stat().st_size:,} bytes. It holds the keys to the clients' numbers: keep it as you keep those.")
    return 0


def restore(arguments: list[str]) -> int:
    """Put FILE back in place of what is there. The practice must not be running."""
    source = _named(arguments, "restore")
    if not source.is_file():
        raise Trouble(f"There is no file {source}.", "./impuesto restore FILE")
    ensure_packages()
    installation = Installation()
    installation.data.mkdir(parents=True, exist_ok=True)
    with open(installation.data / "start.lock", "w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Trouble("The practice is running.", "stop it with Ctrl+C, then restore") from None
        with tempfile.TemporaryDirectory() as folder:
            _unpack(source, Path(folder))
            with _cluster_up(installation):
                for name in DATABASES:
                    installation.cluster.drop_database(name)
                    installation.cluster.create_database(name)
                    installation.cluster.client("pg_restore", "--no-owner", "-d", name, str(Path(folder) / f"{name}.dump"))
                    installation.cluster.psql(name, "analyze")  # a dump has no statistics, and searches are slow without
            _put_back(Path(folder), installation.data)
    print(f"Restored into {installation.data}. ./impuesto start runs it.")
    return 0


def _unpack(source: Path, folder: Path) -> None:
    try:
        with tarfile.open(source) as tar:
            tar.extractall(folder, filter="data")
    except (tarfile.TarError, OSError) as error:
        raise Trouble(f"{source} is no backup: {error}", "./impuesto restore FILE") from None
    missing = [name for name in DATABASES if not (folder / f"{name}.dump").is_file()]
    if missing:
        raise Trouble(f"{source} is no backup: {missing[0]}.dump is not in it.", "./impuesto restore FILE")


def _put_back(folder: Path, data: Path) -> None:
    for name in _KEPT:
        new, old = folder / name, data / name
        if not new.exists():
            continue
        if old.is_dir():
            shutil.rmtree(old)
        shutil.move(new, old)
    (data / "secrets").chmod(0o700)


@contextmanager
def _cluster_up(installation: Installation):
    started = not installation.cluster.is_ready()
    installation.cluster.ensure()
    try:
        yield
    finally:
        if started:
            installation.cluster.stop()


def _named(arguments: list[str], verb: str) -> Path:
    if len(arguments) != 1:
        raise Trouble(f"Name the file to {verb}.", f"./impuesto {verb} FILE")
    return Path(arguments[0]).absolute()
