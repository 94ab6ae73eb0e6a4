"""`./impuesto bench`: what this machine does with this code. Ratios within one run count; the milliseconds are this machine's."""

import argparse
import json
import os
import platform
import re
import statistics
import subprocess
import tempfile
import threading
import time
import tracemalloc
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from ops.bench_british import british
from ops.bench_entities import entities
from ops.bench_whatif import what_if
from ops.installation import HOME, PYTHON, Installation
from ops.machine import ensure_packages, free_port
from ops.start import prepare, programs


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser("./impuesto bench", description="Measure; prints what was measured.")
    parser.add_argument("--quick", action="store_true", help="fewer rounds, and 500 instead of 5,000 returns on the desk")
    parser.add_argument(
        "--returns", type=int, help="how many returns the desk has, and dispatch four submissions of each of the first 5,000"
    )
    parser.add_argument("--many", type=int, help="only this: requests, reminders and packages of so many clients at once")
    options = parser.parse_args(arguments)
    print(machine())
    if options.many:
        return many_at_once(options.many)
    computation(60 if options.quick else 400)
    ensure_packages()
    with tempfile.TemporaryDirectory(prefix="impuesto-bench-") as folder:
        os.chmod(folder, 0o711)  # noqa: S103 - the postgres user passes through
        installation = Installation(Path(folder))
        installation.make_secrets()
        try:
            serving(installation, options.returns or (500 if options.quick else 5_000), 25 if options.quick else 150)
        finally:
            installation.cluster.destroy()
    return 0


def machine() -> str:
    model = re.search(r"model name\s*: (.*)", Path("/proc/cpuinfo").read_text())
    memory = re.search(r"MemTotal:\s*(\d+)", Path("/proc/meminfo").read_text())
    gigabytes = int(memory[1]) // 1024**2 if memory else 0
    name = model[1] if model else platform.machine()
    return f"Machine: {name}, {os.cpu_count()} cores, {gigabytes} GiB, {platform.system()}, Python {platform.python_version()}"


def spread(seconds: list[float]) -> str:
    ordered = sorted(seconds)
    return f"median {statistics.median(ordered) * 1000:7.2f} ms   p95 {_p95(seconds) * 1000:7.2f} ms"


def _p95(seconds: list[float]) -> float:
    return sorted(seconds)[int(len(seconds) * 0.95) - 1]


def timed(work, rounds: int) -> list[float]:
    found = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        found.append(time.perf_counter() - begun)
    return found


# The computation alone


def computation(rounds: int) -> None:
    from practice.demo.plain import demo_returns, heavy_family
    from taxcore.engine import compute
    from taxcore.packs.us import PACK
    from taxcore.packs.us.tests.straight_line import by_hand

    print("\nFull compute of each demo return: every line, lineage on; with diagnostics; wages and interest alone also against")
    print("a straight-line function that works out eleven lines")
    for entry, data in demo_returns():
        lines = timed(lambda data=data: compute(PACK, data), rounds)
        whole = timed(lambda data=data: compute(PACK, data).findings, rounds)
        ratio = ""
        if not entry.get("papers") and not entry.get("dependants"):
            straight = timed(lambda data=data: by_hand(data), rounds)
            ratio = f"   {statistics.median(lines) / statistics.median(straight):4.1f} times the straight line"
        print(f"  {entry['name']:<31} {spread(lines)}   with diagnostics {spread(whole)}{ratio}")
    print("\nHeavy returns")
    for name, data in (
        ("family of 60 papers", heavy_family()),
        ("four states in full", four_states()),
        ("10,000 sales, one by one", many_sales(10_000)),
    ):
        few = max(rounds // 10, 5)
        lines = timed(lambda data=data: compute(PACK, data), few)
        whole = timed(lambda data=data: compute(PACK, data).findings, few)
        print(f"  {name:<31} {spread(lines)}   with diagnostics {spread(whole)}")
    _diagnostics(max(rounds // 4, 20))
    _by_need(max(rounds // 4, 20))
    _whole_return(max(rounds, 60))
    what_if(max(rounds // 4, 20))
    british(max(rounds // 4, 20))
    entities(max(rounds // 4, 20))
    most, half = _peak(many_sales(10_000)), _peak(many_sales(5_000))
    print(f"  most memory while computing: {most:.0f} MB for 10,000 sales, {half:.0f} MB for 5,000")


def _diagnostics(rounds: int) -> None:
    """What all diagnostics together add to the computation of the heavy family, whose last year is known."""
    from practice.demo.plain import heavy_family
    from taxcore.engine import LastYear, compute, figures
    from taxcore.packs.us import PACK

    family = heavy_family()
    with_last_year = family.but(last_year=LastYear(family.year - 1, family.papers, figures(compute(PACK, family))))
    print(f"\n{len(PACK.diagnostics)} diagnostics, family of 60 papers")
    for name, data in (("alone", family), ("with last year beside it", with_last_year)):
        lines, whole = [], []
        for _ in range(rounds):  # in turns, since the machine's speed varies
            lines += timed(lambda data=data: compute(PACK, data), 1)
            whole += timed(lambda data=data: compute(PACK, data).findings, 1)
        added = statistics.median(whole) / statistics.median(lines) - 1
        print(f"  {name:<31} {spread(lines)}   with diagnostics {spread(whole)}   they add {added:.0%}")


def _by_need(rounds: int) -> None:
    """A wage goes up and down again: what recomputing by need takes, with the findings, beside a computation in full."""
    from practice.demo.plain import demo_returns, heavy_family
    from taxcore.engine import compute
    from taxcore.packs.us import PACK

    print("\nA changed wage, with diagnostics: recomputed by need, and in full")
    plain = next(data for entry, data in demo_returns() if entry["name"] == "Vantongeren, Mabel")
    for name, data in (("two W-2s", plain), ("family of 60 papers", heavy_family())):
        result = compute(PACK, data)
        need, full, moved = [], [], 0
        for number in range(rounds):
            wanted = _other_wage(data, f"{50_000 + number}.00")
            old = {cell.address: cell.value for cell in result.lines()}
            begun = time.perf_counter()
            result = result.changed(wanted)
            assert result is not None
            result.findings  # noqa: B018 - worked out when asked
            need.append(time.perf_counter() - begun)
            full += timed(lambda wanted=wanted: compute(PACK, wanted).findings, 1)
            moved = sum(old.get(cell.address) != cell.value for cell in result.lines())
        ratio = statistics.median(full) / statistics.median(need)
        print(f"  {name:<20} {moved:>4} lines move   by need {spread(need)}   in full {spread(full)}   {ratio:4.1f} times")


def _other_wage(data, wages: str):
    first = next(paper for paper in data.papers if paper.kind == "w2")
    other = replace(first, values={**first.values, "wages": wages})
    return data.but(papers=tuple(other if paper is first else paper for paper in data.papers))


def _whole_return(households: int) -> None:
    """Computing in full, lineage on, against the straight-line function of the whole federal return."""
    from random import Random

    from taxcore.engine import compute
    from taxcore.packs.us import PACK
    from taxcore.packs.us.tests.returns import data
    from taxcore.packs.us.tests.straight import facts, federal
    from taxcore.packs.us.tests.straight.papers import papers

    ratios = []
    for number in range(households):
        one = facts.Drawing(Random(number)).facts()  # noqa: S311
        entered = data(*papers(one), year=one.year)
        ours = timed(lambda entered=entered: compute(PACK, entered), 3)
        straight = timed(lambda one=one: federal.computed(one), 3)
        ratios.append(min(ours) / min(straight))
    print(f"\n{households} random households: {statistics.median(ratios):.1f} times a straight line through the federal return")


def _peak(data) -> float:
    """Most memory in use during one computation, in MB."""
    from taxcore.engine import compute
    from taxcore.packs.us import PACK

    tracemalloc.start()
    compute(PACK, data)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak / 1024**2


def four_states():
    """The demo's river pilot: a home state and three of work, each with its return."""
    from practice.demo.plain import demo_returns

    return next(data for entry, data in demo_returns() if entry["name"] == "Achterberg, Rune")


def many_sales(number: int):
    """One broker's statement with so many rows, a tenth of them adjusted."""
    from taxcore.engine import PaperValues
    from taxcore.packs.us.tests.returns import data, w2

    rows = [
        {"id": str(n), "box": "ADBE"[n % 4], "description": f"{n} Quay Freight", "acquired": "02/11/2025", "sold": "2025-06-02",
         "proceeds": f"{1000 + n}.{n % 100:02}", "basis": f"{980 + n}.10",
         **({"code": "W", "adjustment": "3.00"} if n % 10 == 0 else {})}
        for n in range(number)
    ]  # fmt: skip
    broker = PaperValues("b1", "1099-b", {"owner": "taxpayer", "payer": "Sandbar Brokers", "sales": rows})
    return data(w2(60_000, 5_000), broker)


# The pages, through HTTP


def serving(installation: Installation, returns: int, saves: int) -> None:
    port = free_port()
    prepare(installation, port)
    environment = installation.environment()
    made = subprocess.run(
        [PYTHON, "-m", "practice", "crowd", str(returns), "--earlier", str(_rolled(returns))],
        cwd=HOME, env=environment, capture_output=True, text=True, check=True,
    )  # fmt: skip
    places: dict[str, list] = json.loads(made.stdout.strip().splitlines()[-1])
    running = {}
    with open(installation.data / "bench.log", "w") as log:
        for name, (command, extra) in programs(installation).items():
            running[name] = subprocess.Popen(command, cwd=HOME, env=environment | extra, stdout=log, stderr=log)
        try:
            _measure(installation, f"http://127.0.0.1:{port}", places, returns, saves)
            print("\nMemory (resident, with what is shared counted in each)")
            for name, process in running.items():
                print(f"  {name:<26} {_memory(process.pid):6.0f} MB")
            postgres = int((installation.cluster.data / "postmaster.pid").read_text().splitlines()[0])
            print(f"  {'PostgreSQL':<26} {_memory(postgres):6.0f} MB")
        finally:
            for process in running.values():
                process.terminate()
                process.wait(20)


def many_at_once(number: int) -> int:
    """Requests, reminders and packages of so many clients, each from the press of a button until the last of them is done."""
    ensure_packages()
    with tempfile.TemporaryDirectory(prefix="impuesto-bench-") as folder:
        os.chmod(folder, 0o711)  # noqa: S103 - the postgres user passes through
        installation = Installation(Path(folder))
        installation.make_secrets()
        running: list[subprocess.Popen] = []
        try:
            port = free_port()
            prepare(installation, port)
            environment = installation.environment()
            _manage(environment, "crowd", "0", "--clients", str(number))
            with open(installation.data / "bench.log", "w") as log:
                for command, extra in programs(installation).values():
                    running.append(subprocess.Popen(command, cwd=HOME, env=environment | extra, stdout=log, stderr=log))
                _measure_many(installation, f"http://127.0.0.1:{port}", environment, number)
        finally:
            for process in running:
                process.terminate()
                process.wait(20)
            installation.cluster.destroy()
    return 0


def _manage(environment: dict[str, str], *command: str) -> None:
    subprocess.run([PYTHON, "-m", "practice", *command], cwd=HOME, env=environment, capture_output=True, text=True, check=True)


def _measure_many(installation: Installation, base: str, environment: dict[str, str], number: int) -> None:
    _wait(base)
    client = _session(base, (installation.data / "demo-password").read_text(), "sunniva")
    sql = installation.cluster.psql
    found = sql("practice", "select r.id from returns_return r join clients_household h on h.id=r.household_id "
                            "where h.name like 'Many %'").split()  # fmt: skip
    print(f"\n{number:,} at once, in the background, from the press of the button until the last one is done")
    mailed = "select count(*) from portal_portallink where purpose='{}' and mailed_at is not null"
    packages = "select count(*) from delivery_package where state='ready'"
    steps = (
        ("requests, mailed", "/requests", "request", mailed.format("request")),
        ("reminders, mailed", "/requests", "remind", mailed.format("reminder")),
        ("packages, made", "/ready", "package", packages),
    )
    for name, page, act, done in steps:
        if act == "package":
            _manage(environment, "accept")
        begun = time.perf_counter()
        form = {"csrfmiddlewaretoken": client.cookies["csrftoken"], "act": act, "of": found}
        client.post(page, data=form).raise_for_status()
        asked = time.perf_counter() - begun
        slowest = 0.0
        while int(sql("practice", done)) < number and time.perf_counter() - begun < 1800:
            at = time.perf_counter()
            client.get("/?of=mine").raise_for_status()
            slowest = max(slowest, time.perf_counter() - at)
            time.sleep(0.5)
        seconds = time.perf_counter() - begun
        each, button, desk = (f"{1000 * one:.0f} ms" for one in (seconds / number, asked, slowest))
        print(f"  {name:<26} {seconds:6.1f} s, {each} each; the button answers after {button}, the desk meanwhile within {desk}")
    sizes = sql("practice", "select min(pages) || ' to ' || max(pages) from delivery_package")
    print(f"  packages have {sizes.strip()} pages")


def _rolled(returns: int) -> int:
    """How many are rolled forward: the thousand of a large practice, fewer in a quick run."""
    return 1_000 if returns >= 5_000 else 100


def _measure(installation: Installation, base: str, places: dict[str, list], returns: int, saves: int) -> None:
    password = (installation.data / "demo-password").read_text()
    _wait(base)
    time.sleep(8)  # the demo's own filings are on their way when it starts
    small, heavy = places["small"], places["heavy"]
    print(f"\nField save to finished response, HTTP, 2 workers, 4 users at once, {saves} saves each; then 1 user")
    floor = _saves(base, password, small, saves, act=_put_away)
    print(f"  floor, 4 users             {spread(floor)}   (a view that finds the return and writes one row)")
    four = _saves(base, password, small, saves)
    print(f"  save, 4 users              {spread(four)}   p95 {_p95(four) / _p95(floor):.1f} times the floor")
    print(f"  save, 1 user               {spread(_saves(base, password, small[:1], saves, first=saves))}")
    print(f"\nThe same in a family's return of 60 papers, each user leaving a field every {PACE} s")
    print(f"  save, 4 users              {spread(_saves(base, password, heavy, saves // 3, pace=PACE))}")
    print(f"  save, 1 user               {spread(_saves(base, password, heavy[:1], saves // 3, first=saves // 3, pace=PACE))}")
    seen = spread(ripples(base, password, heavy, saves // 3))
    print(f"  field left to ripple drawn {seen}   (in Chromium, three others entering)")
    print(f"\nPages, one user; the desk with {returns:,} returns, dispatch with {4 * (min(returns, 5_000) - 8):,} submissions")
    pages = (
        ("desk, assigned to me", "/?of=mine"), ("desk, everyone", "/?of=everyone"),
        ("desk, search", "/?of=everyone&q=Crowd 0041"),
        ("dispatch", "/dispatch"), ("dispatch, rejected", "/dispatch?state=rejected"),
        ("papers of a return", "/returns/1/papers"), ("forms with lineage", "/returns/1/forms?at=us.1040.16"),
    )  # fmt: skip
    for name, path in pages:
        print(f"  {name:<26} {spread(_pages(base, password, path, 40))}")
    number = _rolled(returns)
    seconds = _rolling(base, password, number)
    print(f"\nRoll forward of {number:,} returns in the background: {seconds:.1f} s, {1000 * seconds / number:.0f} ms each")
    first, whole = _download(base, password, "/?of=everyone&as=csv")
    print(f"  {'desk as CSV':<26} first bytes after {first * 1000:.0f} ms, all of it after {whole:.1f} s")


def _rolling(base: str, password: str, number: int) -> float:
    """From the press of the button until the page says that all are done."""
    client = _session(base, password, "bea")
    page = client.get("/next-year?year=2024&q=Years")
    token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page.text)
    assert token is not None
    begun = time.perf_counter()
    page = client.post("/next-year", data={"csrfmiddlewaretoken": token[1], "year": "2024", "q": "Years", "all": "yes"})
    while f"{number} of {number}" not in re.sub(r"\s+", " ", page.text):
        time.sleep(0.5)
        page = client.get(str(page.url))
    return time.perf_counter() - begun


def _session(base: str, password: str, who: str):
    import httpx

    client = httpx.Client(base_url=base, timeout=30, follow_redirects=True)
    token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', client.get("/sign-in").text)
    assert token is not None
    form = {"username": f"{who}@larkspurrow.example", "password": password, "csrfmiddlewaretoken": token[1]}
    client.post("/sign-in", data=form).raise_for_status()
    return client


def _save(place: list, number: int) -> tuple[str, dict[str, str]]:
    """Where a save of box 2 goes and what it carries: each number follows the one before."""
    body = {"path": "federal_withheld", "value": str(5_001 + number), "was": f"{5_000 + number}.00"}
    return f"/returns/{place[0]}/papers/{place[1]}/field", body


def _put_away(place: list, number: int) -> tuple[str, dict[str, str]]:
    """About the least that a request of somebody who is signed in can do: it finds the return and writes the session's row."""
    return f"/returns/{place[0]}/review/notices", {"key": f"none:{number}"}


def _saves(
    base: str, password: str, places: list, saves: int, first: int = 0, pace: float = 0, act: Callable = _save
) -> list[float]:
    """A user for each place, each in a return of their own, doing it over and over, `pace` seconds apart."""
    found: list[float] = []

    def user(who, place):
        client = _session(base, password, who)
        for number in range(first, first + saves):
            headers = {"X-CSRFToken": client.cookies["csrftoken"], "HX-Request": "true"}
            url, body = act(place, number)
            begun = time.perf_counter()
            answer = client.post(url, data=body, headers=headers, follow_redirects=False)
            found.append(time.perf_counter() - begun)
            assert answer.status_code in (200, 302), f"{url} answered {answer.status_code}"
            time.sleep(max(pace - (time.perf_counter() - begun), 0))

    people = [
        threading.Thread(target=user, args=pair) for pair in zip(("bea", "tilde", "sunniva", "sunniva"), places, strict=False)
    ]
    for person in people:
        person.start()
    for person in people:
        person.join()
    assert len(found) == saves * len(places), "a user fell over"
    return found


PACE = 0.6  # seconds from one field left to the next: a fast typist

_WATCH = """
window.left = 0; window.seen = [];
document.addEventListener("keydown", (event) => { if (event.key === "Enter") window.left = performance.now(); }, true);
const drawn = () => { if (window.left) window.seen.push(performance.now() - window.left); window.left = 0; };
new MutationObserver(() => requestAnimationFrame(drawn)).observe(document.querySelector("#ripples"), {childList: true});
"""


def ripples(base: str, password: str, places: list, saves: int) -> list[float]:
    """A person at a browser leaves box 2 with Enter, over and over, while three others key: seconds until the ripple is drawn."""
    from selenium.webdriver.common.by import By
    from selenium.webdriver.common.keys import Keys

    from ops.browser import browser

    others = threading.Thread(target=_saves, args=(base, password, places[1:], saves + 10, saves, PACE))
    driver = browser()
    try:
        driver.get(f"{base}/sign-in")
        driver.find_element(By.NAME, "username").send_keys("bea@larkspurrow.example")
        driver.find_element(By.NAME, "password").send_keys(password, Keys.ENTER)
        time.sleep(2)
        driver.get(f"{base}/returns/{places[0][0]}/papers/{places[0][1]}")
        driver.execute_script(_WATCH)
        others.start()
        for number in range(saves):
            begun = time.perf_counter()
            field = driver.find_element(By.CSS_SELECTOR, '#paper [aria-label="Federal income tax withheld"]')
            field.click()
            field.send_keys(Keys.CONTROL, "a")
            field.send_keys(str(30_000 + number), Keys.ENTER)
            while driver.execute_script("return window.left"):
                time.sleep(0.02)
            time.sleep(max(PACE - (time.perf_counter() - begun), 0.1))
        others.join()
        found = [one / 1000 for one in driver.execute_script("return window.seen")]
    finally:
        driver.quit()
    assert len(found) >= saves * 0.9, f"only {len(found)} of {saves} ripples were seen"
    return found


def _pages(base: str, password: str, path: str, rounds: int) -> list[float]:
    client = _session(base, password, "bea")
    client.get(path).raise_for_status()
    return timed(lambda: client.get(path).raise_for_status(), rounds)


def _download(base: str, password: str, path: str) -> tuple[float, float]:
    """Seconds until the first bytes of a file come, and until all of it has."""
    client = _session(base, password, "bea")
    begun, first = time.perf_counter(), 0.0
    with client.stream("GET", path) as answer:
        answer.raise_for_status()
        for _ in answer.iter_raw():
            first = first or time.perf_counter() - begun
    return first, time.perf_counter() - begun


def _wait(base: str) -> None:
    import httpx

    for _ in range(300):
        try:
            if httpx.get(base + "/healthy").status_code == 200:
                return
        except httpx.HTTPError:
            time.sleep(0.1)


def _memory(pid: int) -> float:
    """Megabytes resident of a process and all below it."""
    children = [child for task in Path(f"/proc/{pid}/task").glob("*/children") for child in task.read_text().split()]
    status = Path(f"/proc/{pid}/status").read_text()
    own = re.search(r"VmRSS:\s*(\d+)", status)
    return (int(own[1]) / 1024 if own else 0) + sum(_memory(int(child)) for child in children)
