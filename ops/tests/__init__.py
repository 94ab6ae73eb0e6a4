"""Tests of the whole system: a practice started with the real command, and a browser."""

from pathlib import Path

# They run a few classes at a time: those that take longest first, so that none of them is left over alone at the end.
_FIRST = (
    "test_backup",
    "test_accessible",
    "test_start",
    "test_kill",
    "test_story",
    "test_years",
    "test_seat",
    "test_entities",
    "test_british",
)


def load_tests(loader, standard, pattern):
    """The protocol of unittest for a package: its modules in that order."""
    modules = list(loader.discover(str(Path(__file__).parent), pattern or "test*.py", str(Path(__file__).parents[2])))
    return loader.suiteClass(sorted(modules, key=_place))


def _place(module):
    """Of a suite of one module by its name, which stands in what its tests are called."""
    named = str(module)
    return next((at for at, name in enumerate(_FIRST) if f"ops.tests.{name}." in named), len(_FIRST))
