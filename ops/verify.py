"""`./impuesto test`: habits, unit tests, and the whole system with a real browser. Leaves nothing behind."""

import argparse
import os
import re
import subprocess
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from ops.cluster import USER, Cluster
from ops.installation import HOME, PYTHON
from ops.machine import ensure_packages
from ops.making import keep_contracts

_BIN = Path(PYTHON).parent
HABITS = {
    "lint": [str(_BIN / "ruff"), "check", "-q"],
    "format": [str(_BIN / "ruff"), "format", "--check", "-q"],
    "types": [str(_BIN / "mypy")],
    "imports": [str(_BIN / "lint-imports")],
}
_RAN = re.compile(r"^Ran (\d+) tests? in", re.M)
_FAILED = re.compile(r"^FAILED \(([^)]*)\)", re.M)
_AT_ONCE = {"practice": "4", "ops.tests": "3"}  # classes: those wait for the database and for programs of their own meanwhile
_OF_THE_AUTHORITY = ("authority", "ops.filing")  # run under the settings of the simulated authorities
_SKIPPED = re.compile(r"skipped=(\d+)")


@dataclass
class Outcome:
    name: str
    passed: int
    failed: int
    skipped: int
    seconds: float
    output: str


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser("./impuesto test", description="Every check and test; or only the named tests.")
    parser.add_argument("labels", nargs="*", help="such as taxcore, practice.returns, ops.tests.test_story")
    parser.add_argument("--search", action="store_true", help="try properties with new examples, not the same ones each time")
    options = parser.parse_args(arguments)
    ensure_packages(for_tests=True)
    with tempfile.TemporaryDirectory(prefix="impuesto-verify-") as folder:
        os.chmod(folder, 0o711)  # noqa: S103 - the postgres user passes through; nothing in it is readable
        cluster = Cluster(Path(folder) / "pg", durable=False)
        try:
            outcomes = _run(cluster, options.labels, search=options.search)
        finally:
            cluster.destroy()
    return _report(outcomes)


def _run(cluster: Cluster, labels: list[str], *, search: bool) -> list[Outcome]:
    cluster.ensure()
    keep_contracts(cluster.folder.parent / "schemas")
    environment = _environment(cluster, search=search)
    if labels:
        return [_tests(label, environment) for label in labels]
    with ThreadPoolExecutor(1) as pool:
        beside = pool.submit(_beside, environment)  # each keeps only one processor busy at times
        outcomes = [_tests(label, environment) for label in ("practice", "standins")]
        outcomes = beside.result() + outcomes
    return [*outcomes, _tests("ops.tests", environment)]


def _beside(environment: dict[str, str]) -> list[Outcome]:
    """All that has no need of the practice's own database, one after the other; each says what it has to say when it is done."""
    outcomes = [_habit(name, command) for name, command in HABITS.items()]
    _prepare(environment)
    return outcomes + [_tests(label, environment, alone=False) for label in (*_OF_THE_AUTHORITY, "taxcore")]


def _prepare(environment: dict[str, str]) -> None:
    """The demo practice that tests of the whole system begin with; one that cannot be made is tried again there, and said."""
    make = "import sys; from ops.tests.running import prepared; prepared(sys.argv[1])"
    subprocess.run([PYTHON, "-c", make, environment["IMPUESTO_TESTS_SHARE"]], cwd=HOME, env=environment, capture_output=True)


def _environment(cluster: Cluster, *, search: bool) -> dict[str, str]:
    """Without `search`, what Hypothesis reads on a build machine: the same examples there, here and every time."""
    return (
        {name: value for name, value in os.environ.items() if name != "CI"}
        | ({"IMPUESTO_SEARCH": "1"} if search else {"CI": "true"})
        | {
            "PYTHONPATH": str(HOME),
            "IMPUESTO_DB_HOST": "127.0.0.1",
            "IMPUESTO_DB_PORT": str(cluster.port),
            "IMPUESTO_DB_USER": USER,
            "IMPUESTO_DB_PASSWORD": cluster.password,
            "IMPUESTO_DB_NAME": "practice",
            "IMPUESTO_SECRET_KEY": "only for tests",
            "IMPUESTO_AUTHORITY_KEY": "only for tests",
            "IMPUESTO_PAYMENT_KEY": "only for tests",
            "IMPUESTO_TEXT_KEY": "only for tests",
            "IMPUESTO_MAIL_IN_KEY": "only for tests",
            "IMPUESTO_SET_UP_KEY": "only-for-tests",
            "IMPUESTO_AUTHORITY_SECONDS": "1",
            "IMPUESTO_POLL_SECONDS": "1",
            "IMPUESTO_DURABLE": "no",
            "IMPUESTO_TESTS_SHARE": str(cluster.folder.parent),
            "IMPUESTO_SCHEMAS": str(cluster.folder.parent / "schemas"),
            "DJANGO_SETTINGS_MODULE": "practice.test_settings",
        }
    )


def _habit(name: str, command: list[str]) -> Outcome:
    begun = time.monotonic()
    done = subprocess.run(command, cwd=HOME, capture_output=True, text=True)
    failed = int(done.returncode != 0)
    output = done.stdout + done.stderr
    print(f"{'FAILED' if failed else 'passed'}  {name}", flush=True)
    if failed:
        print(output[-6000:], flush=True)
    return Outcome(name, 1 - failed, failed, 0, time.monotonic() - begun, output)


def _tests(label: str, environment: dict[str, str], *, alone: bool = True) -> Outcome:
    """One run of Django's test runner, a few classes at a time; each that runs the whole system has ports and data of its own.

    What it says is printed as it comes, or, where others print meanwhile, at its end.
    """
    project = "authority" if label.startswith(_OF_THE_AUTHORITY) else "practice"
    command = [PYTHON, "-m", project, "test", label, "--noinput", "--parallel", _AT_ONCE.get(label, "2")]
    begun = time.monotonic()
    process = subprocess.Popen(command, cwd=HOME, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    assert process.stdout is not None
    lines = []
    for line in process.stdout:
        lines.append(line)
        if alone:
            print(line, end="", flush=True)
    process.wait()
    output = "".join(lines)
    if not alone:
        print(output, end="", flush=True)
    ran = sum(int(number) for number in _RAN.findall(output))
    skipped = sum(int(number) for number in _SKIPPED.findall(output))
    failed = sum(int(n) for found in _FAILED.findall(output) for n in re.findall(r"(?:failures|errors)=(\d+)", found))
    if process.returncode and not failed:
        failed = 1  # the runner itself fell over
    return Outcome(label, max(ran - failed - skipped, 0), failed, skipped, time.monotonic() - begun, output)


def _report(outcomes: list[Outcome]) -> int:
    print()
    for outcome in outcomes:
        mark = "FAILED" if outcome.failed else "passed"
        print(f"{mark}  {outcome.name:<12} {outcome.passed:>5} passed  {outcome.seconds:7.1f} s")
    failed = sum(outcome.failed for outcome in outcomes)
    skipped = sum(outcome.skipped for outcome in outcomes)
    passed = sum(outcome.passed for outcome in outcomes)
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 1 if failed or not passed else 0
