"""Whether a database was made by another program than this one can run on: newer, or older than its steps go back."""

import re
from functools import cache

from ops.cluster import Cluster
from ops.installation import HOME
from ops.trouble import Trouble

PROJECTS = {"practice": HOME / "practice", "authority": HOME}  # the folders whose subfolders are Django apps of ours


def unknown_migrations(cluster: Cluster, database: str, project: str) -> list[str]:
    """`app name` of every applied migration of our own apps that this program does not have; none for an empty database."""
    applied = [(app, name) for app, name in _applied(cluster, database) if _ours(project, app)]
    return sorted(f"{app} {name}" for app, name in applied if not _known(project, app, name))


def _applied(cluster: Cluster, database: str) -> list[tuple[str, str]]:
    if cluster.psql(database, "select to_regclass('django_migrations')").strip() == "":
        return []
    lines = cluster.psql(database, "select app, name from django_migrations").split()
    return [(app, name) for app, _, name in (line.partition("|") for line in lines)]


def _ours(project: str, app: str) -> bool:
    return (PROJECTS[project] / app / "migrations").is_dir()


def _known(project: str, app: str, name: str) -> bool:
    return name in _files(project, app) or any(name in replaced for replaced in _files(project, app).values())


@cache
def _files(project: str, app: str) -> dict[str, frozenset[str]]:
    """The migrations of an app, each with the names of those that it stands for."""
    found = {}
    for path in (PROJECTS[project] / app / "migrations").glob("0*.py"):
        named = re.search(r"replaces = \[(.*?)\]", path.read_text(), re.S)
        found[path.stem] = frozenset(re.findall(r'"(0\w+)"', named[1] if named else ""))
    return found


def refuse_other(cluster: Cluster, database: str, project: str) -> None:
    """Trouble where the database is of a newer program, or of one so old that its steps to the present tables are not kept:
    running on it would lose what this one does not know."""
    if unknown := unknown_migrations(cluster, database, project):
        raise Trouble(
            f"The {project} database was made by a newer program: {unknown[0]} is not known here.",
            "install that program, or restore a backup made before it",
        )
    if missing := _missing_steps(project, set(_applied(cluster, database))):
        raise Trouble(
            f"The {project} database was made by a program from before 30 November 2026: {missing} was not done in it.",
            "start it once with the program of that day (commit adac6ac), then with this one",
        )


def _missing_steps(project: str, applied: set[tuple[str, str]]) -> str:
    """Where tables were made step by step and a step is missing, which one; they cannot be made as a whole over others."""
    for app in sorted({app for app, _ in applied if _ours(project, app)}):
        whole = {name: steps for name, steps in _files(project, app).items() if steps}
        if any((app, name) in applied for name in whole):
            continue
        missing = sorted(step for steps in whole.values() for step in steps if (app, step) not in applied)
        if missing:
            return f"{app} {missing[0]}"
    return ""
