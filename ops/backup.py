"""Everything into one file, and back: both databases, stored files, the secrets without which they cannot be read.

A backup is proved when it is made: it is read back and restored beside. A restore is made beside what is there, checked, and only
then takes its place; what was there is kept until the restored practice has answered.
"""

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
from ops.versions import refuse_other

DATABASES = ("practice", "authority")
_KEPT = ("files", "secrets", "demo-password")
_BESIDE = "_restoring"
_BEFORE = "_before_restore"


def backup(arguments: list[str]) -> int:
    """Write FILE, readable by its owner only. The practice may be running."""
    target = _named(arguments, "backup")
    installation = Installation()
    if not (installation.data / "secrets").is_dir():
        raise Trouble(f"There is no practice in {installation.data}.", "./impuesto start")
    partial = target.with_name(target.name + ".partial")
    with _cluster_up(installation), tempfile.TemporaryDirectory() as folder:
        try:
            _write(installation, Path(folder), partial)
            tables = _prove(installation, partial)
        except BaseException:
            partial.unlink(missing_ok=True)
            raise
        partial.replace(target)
    print(
        f"{target}: {target.stat().st_size:,} bytes, read back and restored beside to prove it ({tables} tables).\n"
        "It holds the keys to the clients' numbers: keep it as you keep those."
    )
    return 0


def _write(installation: Installation, folder: Path, partial: Path) -> None:
    for name in DATABASES:
        installation.cluster.client("pg_dump", "-Fc", "-f", str(folder / f"{name}.dump"), name)
    with (
        open(os.open(partial, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as opened,
        tarfile.open(fileobj=opened, mode="w:gz") as tar,
    ):
        for name in DATABASES:
            tar.add(folder / f"{name}.dump", f"{name}.dump")
        for name in _KEPT:
            if (installation.data / name).exists():
                tar.add(installation.data / name, name)


def _prove(installation: Installation, partial: Path) -> int:
    """Unpack the file and restore it beside; Trouble where anything is not as it was written. How many tables came back."""
    with tempfile.TemporaryDirectory() as folder:
        _unpack(partial, Path(folder))
        try:
            _restore_beside(installation, Path(folder))
            return sum(_tables(installation, f"{name}{_BESIDE}") for name in DATABASES)
        finally:
            _drop_beside(installation)


def restore(arguments: list[str]) -> int:
    """Put FILE back in place of what is there. The practice must not be running; a restore that fails leaves it as it was."""
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
        # Beside the data, so that taking its place is only a renaming
        with tempfile.TemporaryDirectory(dir=installation.data, prefix="restoring-") as folder:
            _unpack(source, Path(folder))
            with _cluster_up(installation):
                try:
                    _restore_beside(installation, Path(folder))
                except BaseException:
                    _drop_beside(installation)
                    raise
                forget_before_restore(installation)
                try:
                    for name in DATABASES:
                        _take_place(installation, name)
                    _put_back(Path(folder), installation.data)
                except BaseException:
                    _give_back(installation)
                    _drop_beside(installation)
                    raise
    print(
        f"Restored into {installation.data}. ./impuesto start runs it.\n"
        "What was there before is kept until the restored practice has answered."
    )
    return 0


def _unpack(source: Path, folder: Path) -> None:
    try:
        with tarfile.open(source) as tar:
            strange = next((one.name for one in tar if not _is_plain(one)), None)
            if strange is not None:
                raise Trouble(f"{source} is no backup: {strange} is in it.", "./impuesto restore FILE")
            tar.extractall(folder)  # noqa: S202 - each was looked at; Debian's Python has no filter for it
    except (tarfile.TarError, OSError, EOFError) as error:
        raise Trouble(f"{source} is no backup: {error}", "./impuesto restore FILE") from None
    missing = [name for name in (*(f"{name}.dump" for name in DATABASES), "secrets") if not (folder / name).exists()]
    if missing:
        raise Trouble(f"{source} is no backup: {missing[0]} is not in it.", "./impuesto restore FILE")


def _is_plain(member: tarfile.TarInfo) -> bool:
    """Whether it is a file or folder that stays within where it is unpacked."""
    path = Path(member.name)
    return (member.isreg() or member.isdir()) and not path.is_absolute() and ".." not in path.parts


def _restore_beside(installation: Installation, folder: Path) -> None:
    """Both databases into new ones, whole, and checked: of no newer program, with a practice in it that these keys can read."""
    cluster = installation.cluster
    for name in DATABASES:
        beside = f"{name}{_BESIDE}"
        cluster.drop_database(beside)
        cluster.create_database(beside)
        cluster.client("pg_restore", "--no-owner", "--exit-on-error", "-d", beside, str(folder / f"{name}.dump"))
        refuse_other(cluster, beside, name)
        cluster.psql(beside, "analyze")  # a dump has no statistics, and searches are slow without
    _keys_fit(installation, folder)


def _keys_fit(installation: Installation, folder: Path) -> None:
    """A client's number opens with the keys of the backup; without them the rest is worth nothing."""
    from cryptography.fernet import Fernet, InvalidToken, MultiFernet

    sealed = installation.cluster.psql(
        f"practice{_BESIDE}", "select number from clients_person where number <> '' limit 1"
    ).strip()
    keys = (folder / "secrets" / "field_keys").read_text().split()
    try:
        if sealed:
            MultiFernet([Fernet(key) for key in keys]).decrypt(sealed.removeprefix("enc:"))
    except (InvalidToken, ValueError):
        raise Trouble("The keys in the backup do not open its own numbers.", "use another backup") from None


def _take_place(installation: Installation, name: str) -> None:
    cluster = installation.cluster
    there = cluster.psql("postgres", f"select 1 from pg_database where datname = '{name}'").strip()
    if there:
        cluster.psql("postgres", f'alter database "{name}" rename to "{name}{_BEFORE}"')
    cluster.psql("postgres", f'alter database "{name}{_BESIDE}" rename to "{name}"')


def _put_back(folder: Path, data: Path) -> None:
    for name in _KEPT:
        new, old = folder / name, data / name
        if old.exists():
            old.rename(data / f"{name}{_BEFORE}")
        if new.exists():
            new.rename(old)
    (data / "secrets").chmod(0o700)


def _give_back(installation: Installation) -> None:
    """What was put aside, in its place again: a restore stopped between two renamings."""
    for name in DATABASES:
        if installation.cluster.psql("postgres", f"select 1 from pg_database where datname = '{name}{_BEFORE}'").strip():
            installation.cluster.drop_database(name)
            installation.cluster.psql("postgres", f'alter database "{name}{_BEFORE}" rename to "{name}"')
    for name in _KEPT:
        aside, here = installation.data / f"{name}{_BEFORE}", installation.data / name
        if not aside.exists():
            continue
        if here.is_dir():
            shutil.rmtree(here)
        aside.replace(here)


def forget_before_restore(installation: Installation) -> None:
    """Let go of what a restore put aside: called when the restored practice has answered, and before another restore."""
    for name in DATABASES:
        installation.cluster.drop_database(f"{name}{_BEFORE}")
    for name in _KEPT:
        aside = installation.data / f"{name}{_BEFORE}"
        if aside.is_dir():
            shutil.rmtree(aside)
        else:
            aside.unlink(missing_ok=True)


def _drop_beside(installation: Installation) -> None:
    for name in DATABASES:
        installation.cluster.drop_database(f"{name}{_BESIDE}")


def _tables(installation: Installation, database: str) -> int:
    return int(installation.cluster.psql(database, "select count(*) from pg_tables where schemaname = 'public'"))


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
