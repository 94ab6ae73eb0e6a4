"""Whether all that a start needs is there already, as this program makes it: then nothing is begun that only looks."""

import hashlib
import os
from pathlib import Path

from ops.installation import HOME, Installation
from ops.trouble import Trouble

_PROGRAM = ("requirements.lock", "authority", "ops", "practice", "standins", "taxcore")
_MADE = ("schemas", "static")  # in the data folder
_DATABASES = {
    name: f"""select oid, (select string_agg(app || '.' || name, ' ' order by id) from django_migrations)
              from pg_database where datname = '{name}'"""
    for name in ("practice", "authority")
}


def is_prepared(installation: Installation, demo: bool) -> bool:
    """As it was left by `note_prepared`: by the same program, with the same databases and files."""
    mark = _mark_file(installation)
    return mark.is_file() and mark.read_text() == _marks(installation, demo) != ""


def note_prepared(installation: Installation, demo: bool) -> None:
    _mark_file(installation).write_text(_marks(installation, demo))


def _mark_file(installation: Installation) -> Path:
    return installation.data / "prepared-by"


def _marks(installation: Installation, demo: bool) -> str:
    """A fingerprint; empty where the databases cannot be asked, which is like nothing that was noted."""
    digest = hashlib.sha256(repr((demo, os.environ.get("IMPUESTO_PACKS"))).encode())
    for place in (*(HOME / name for name in _PROGRAM), *(installation.data / name for name in _MADE)):
        for path, size, changed in sorted(_files(place)):
            digest.update(f"{path} {size} {changed}\n".encode())
    try:
        for name, asked in _DATABASES.items():
            digest.update(installation.cluster.psql(name, asked).encode())
    except Trouble:
        return ""
    return digest.hexdigest()


def _files(place: Path) -> list[tuple[str, int, int]]:
    """(path, bytes, when it was changed) of a file, or of all below a folder but what Python compiled."""
    found = []
    for folder, folders, names in os.walk(place) if place.is_dir() else [(place.parent, [], [place.name])]:
        folders[:] = [name for name in folders if name != "__pycache__"]
        for path in (os.path.join(folder, name) for name in names):
            if os.path.exists(path):
                about = os.stat(path)
                found.append((os.path.relpath(path, place), about.st_size, about.st_mtime_ns))
    return found
