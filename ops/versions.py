"""Whether a database was made by a newer program than this one: migrations in it that no file here knows."""

from ops.cluster import Cluster
from ops.installation import HOME
from ops.trouble import Trouble

PROJECTS = {"practice": HOME / "practice", "authority": HOME}  # the folders whose subfolders are Django apps of ours


def unknown_migrations(cluster: Cluster, database: str, project: str) -> list[str]:
    """`app name` of every applied migration of our own apps that this program does not have; none for an empty database."""
    if cluster.psql(database, "select to_regclass('django_migrations')").strip() == "":
        return []
    applied = [line.split("|") for line in cluster.psql(database, "select app, name from django_migrations").split()]
    return sorted(f"{app} {name}" for app, name in applied if _ours(project, app) and not _known(project, app, name))


def _ours(project: str, app: str) -> bool:
    return (PROJECTS[project] / app / "migrations").is_dir()


def _known(project: str, app: str, name: str) -> bool:
    return (PROJECTS[project] / app / "migrations" / f"{name}.py").is_file()


def refuse_newer(cluster: Cluster, database: str, project: str) -> None:
    """Trouble where the database is of a newer program: running on it would lose what this one does not know."""
    if unknown := unknown_migrations(cluster, database, project):
        raise Trouble(
            f"The {project} database was made by a newer program: {unknown[0]} is not known here.",
            "install that program, or restore a backup made before it",
        )
