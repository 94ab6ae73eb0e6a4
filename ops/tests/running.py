"""A whole practice, started with the real command, for tests: its own data folder, its own ports, stopped at the end."""

import contextlib
import fcntl
import json
import os
import re
import shutil
import signal
import subprocess
import tempfile
import time
import urllib.request
from collections.abc import Callable
from http.cookiejar import CookieJar
from pathlib import Path
from unittest import TestCase
from urllib.parse import urlencode

from selenium.common.exceptions import TimeoutException, WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait

from ops.browser import Browser, browser
from ops.installation import HOME
from ops.machine import free_port
from ops.start import die_with_parent

_DROPPED = ("IMPUESTO_DB_HOST", "IMPUESTO_DB_PORT", "IMPUESTO_DB_USER", "IMPUESTO_DB_PASSWORD", "IMPUESTO_DB_NAME",
            "IMPUESTO_SECRET_KEY", "IMPUESTO_AUTHORITY_KEY", "IMPUESTO_PAYMENT_KEY", "IMPUESTO_TEXT_KEY", "IMPUESTO_MAIL_IN_KEY",
            "IMPUESTO_SET_UP_KEY", "IMPUESTO_FIELD_KEYS", "IMPUESTO_DIGEST_KEY", "DJANGO_SETTINGS_MODULE")  # fmt: skip


def clean_environment() -> dict[str, str]:
    """What a person's shell would have: none of the unit tests' settings."""
    kept = {name: value for name, value in os.environ.items() if name not in _DROPPED}
    return kept | {"IMPUESTO_AUTHORITY_SECONDS": "1", "IMPUESTO_POLL_SECONDS": "1", "IMPUESTO_SWEEP_SECONDS": "6"}


def copy_prepared(data: Path) -> None:
    """Fill a data folder with the demo practice of this run of the tests. Without such a run (IMPUESTO_TESTS_SHARE) the folder
    stays empty and the start fills it."""
    if share := os.environ.get("IMPUESTO_TESTS_SHARE"):
        subprocess.run(["cp", "-a", f"{prepared(share)}/.", str(data)], check=True)


def prepared(share: str) -> Path:
    """A data folder with the demo practice, made once for a run of the tests: making it takes longer than most of them."""
    made = Path(share) / "demo"
    with open(f"{made}.lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # two processes test at a time
        if not (made / "prepared").exists():
            made.mkdir(mode=0o711, exist_ok=True)
            practice = RunningPractice(data=made).start(600)
            practice.work_off()  # each copy would do all that anew
            practice.stop()
            (made / "prepared").touch()
    return made


class RunningPractice:
    """`./impuesto start` in a subprocess. `home` is the checkout it runs from, `packs` are the kinds of returns that it makes; in a
    data folder that is given it makes its demo itself."""

    def __init__(self, home: Path = HOME, demo: bool = True, packs: str = "", data: Path | None = None):
        self.home, self.demo, self.packs = home, demo, packs
        self.is_copy = data is None and demo and home == HOME and not packs
        self.data = data or Path(tempfile.mkdtemp(prefix="impuesto-running-"))
        self.data.chmod(0o711)
        self.port = free_port()
        self.process: subprocess.Popen | None = None
        self.idle: list[Browser] = []  # browsers that nobody uses: starting one takes longer than many a test

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def password(self) -> str:
        return (self.data / "demo-password").read_text()

    def ports(self) -> dict[str, int]:
        return json.loads((self.data / "ports.json").read_text())

    def start(self, seconds: int = 180) -> "RunningPractice":
        if self.is_copy and not any(self.data.iterdir()):
            copy_prepared(self.data)
        command = [str(self.home / "impuesto"), "start", "--port", str(self.port), "--data", str(self.data)]
        command += [] if self.demo else ["--no-demo"]
        self.output = open(self.data / "start.out", "w+")  # noqa: SIM115 - closed with the process
        self.process = subprocess.Popen(
            command, cwd="/", env=clean_environment() | self._packs(), stdout=self.output, stderr=subprocess.STDOUT, start_new_session=True,
            preexec_fn=die_with_parent,  # a test run that is killed leaves nothing running either
        )  # fmt: skip
        until = time.monotonic() + seconds
        while "Ctrl+C" not in self.said():
            if self.process.poll() is not None or time.monotonic() > until:
                raise AssertionError(f"the practice did not start: {self.said()[-3000:]}")
            time.sleep(0.1)
        return self

    def _packs(self) -> dict[str, str]:
        return {"IMPUESTO_PACKS": self.packs} if self.packs else {}

    def said(self) -> str:
        return (self.data / "start.out").read_text()

    def work_off(self, seconds: int = 120) -> None:
        """Wait until nothing of its demo waits for the worker, which would keep what a walk asks for waiting behind it."""
        waiting = """select count(*) from procrastinate_jobs where status in ('todo', 'doing') and attempts = 0
                     and coalesce(scheduled_at, now()) < now() + interval '1 minute'"""
        until = time.monotonic() + seconds
        while self.sql(waiting) != "0" and time.monotonic() < until:
            time.sleep(0.5)

    def stop(self) -> int:
        """Ctrl+C, and the exit code."""
        assert self.process is not None
        self.process.send_signal(signal.SIGINT)
        code = self.process.wait(30)
        self.output.close()
        return code

    def destroy(self) -> None:
        for driver in self.idle:
            driver.quit()
        with contextlib.suppress(Exception):
            self.stop()
        for line in leftovers(self.data):
            with contextlib.suppress(ProcessLookupError):
                os.kill(int(line.split()[0]), signal.SIGKILL)
        shutil.rmtree(self.data, ignore_errors=True)

    def kill(self, name: str, children: bool = True) -> None:
        """SIGKILL one of the programs (web, worker, authority, stand-ins) with all its processes."""
        file = self.data / "logs" / f"{name}.pid"
        for _ in range(50):  # the supervisor writes it anew for a process that it starts again
            if file.read_text():
                break
            time.sleep(0.1)
        pid = int(file.read_text())
        with contextlib.suppress(ProcessLookupError):
            if children:
                os.killpg(pid, signal.SIGKILL)
            else:
                os.kill(pid, signal.SIGKILL)

    def mood(self, **switches) -> None:
        """Set the authority's console: slow_ms, answers_to_lose, is_down."""
        base = f"http://127.0.0.1:{self.ports()['authority']}"
        form = {"slow_ms": "0", "answers_to_lose": "0"} | {name: str(value) for name, value in switches.items()}
        self.sent(f"{base}/", form, to=f"{base}/mood")

    def mails(self) -> list[dict]:
        with urllib.request.urlopen(f"http://127.0.0.1:{self.ports()['standins']}/mail.json") as answer:
            return json.load(answer)

    def sent(self, path: str, form: dict[str, str], jar: CookieJar | None = None, to: str = "") -> str:
        """The page that comes back when the form of a page is filled in and sent, to another place where `to` names one; its cookies
        go into the jar."""
        opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
        url = path if path.startswith("http") else self.url + path
        page = opener.open(url, timeout=60).read().decode()
        token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
        assert token is not None
        given = urlencode(form | {"csrfmiddlewaretoken": token[1]}).encode()
        return opener.open(to or url, given, timeout=60).read().decode()

    def sql(self, query: str, database: str = "practice") -> str:
        from ops.installation import Installation

        return Installation(self.data).cluster.psql(database, query).strip()


def leftovers(folder: Path) -> list[str]:
    """Processes whose command or environment names the data folder."""
    found = []
    for entry in Path("/proc").iterdir():
        if not entry.name.isdigit() or int(entry.name) == os.getpid():
            continue
        with contextlib.suppress(OSError):
            about = (entry / "cmdline").read_bytes() + (entry / "environ").read_bytes()
            if str(folder).encode() in about and b"chrom" not in about.split(b"\0")[0]:
                found.append(f"{entry.name} {about[:160]!r}")
    return found


class Walk:
    """A person at a browser: signs in, goes, types, presses, reads."""

    def __init__(self, practice: RunningPractice, width: int = 1280, height: int = 800):
        self.practice = practice
        self.driver = practice.idle.pop() if practice.idle else browser()
        self.driver.resize(width, height)

    def quit(self) -> None:
        """Leave the browser to the next walk, unless it cannot forget this one: a page may refuse to be left."""
        try:
            self.driver.forget()
            self.practice.idle.append(self.driver)
        except WebDriverException:
            self.driver.quit()

    def go(self, path: str) -> None:
        self.driver.get(path if path.startswith("http") else self.practice.url + path)

    def sign_in(self, who: str) -> None:
        """A session as the sign-in page gives it, without typing there; the page that is shown stays."""
        jar = CookieJar()
        form = {"username": f"{who}@larkspurrow.example", "password": self.practice.password, "next": "/healthy"}
        self.practice.sent("/sign-in", form, jar)
        self.driver.execute_cdp_cmd("Network.clearBrowserCookies", {})
        for cookie in jar:
            given = {"name": cookie.name, "value": cookie.value, "url": self.practice.url, "httpOnly": True}
            self.driver.execute_cdp_cmd("Network.setCookie", given)

    def sign_in_by_hand(self, who: str) -> None:
        """As a person does; the desk is shown then."""
        self.driver.delete_all_cookies()
        self.go("/sign-in")
        # Who types before the page has put the cursor there makes the browser complain of it.
        self.find("[name=username]:focus")
        self.find("[name=username]").send_keys(f"{who}@larkspurrow.example")
        self.find("[name=password]").send_keys(self.practice.password)
        self.press("Sign in")
        self.sees("Desk")

    def find(self, what: str, by: str = By.CSS_SELECTOR):
        return self.until(lambda: self.driver.find_element(by, what))

    def until(self, found, seconds: float = 20):
        def attempt(_):
            try:
                return found()
            except Exception:
                return False

        try:
            return WebDriverWait(self.driver, seconds, 0.1).until(attempt)
        except TimeoutException:
            read = self.text()
            read = read if len(read) < 3000 else f"{read[:1500]}\n…\n{read[-1500:]}"
            raise AssertionError(f"still not so after {seconds} s: {read}") from None

    def text(self) -> str:
        with contextlib.suppress(Exception):
            return self.driver.execute_script("return document.body.innerText")
        return ""

    def sees(self, *words: str, seconds: float = 20) -> None:
        for word in words:
            self.until(lambda word=word: word in self.text(), seconds)

    def press(self, text: str) -> None:
        """Press the button or follow the link with that text."""
        path = " | ".join(f"//{tag}[normalize-space()='{text}']" for tag in ("button", "a", "a/span", "summary"))
        self.click(By.XPATH, path)

    def click(self, by: str, what: str) -> None:
        """Find and click in one go: a fragment that arrives between the two would leave an element that is no longer there."""
        self.until(lambda: self.driver.find_element(by, what).click() or True)

    def field(self, label: str, scope: str = "#paper"):
        return self.find(f'{scope} [aria-label="{label}"]')

    def key(self, label: str, text: str, scope: str = "#paper") -> None:
        """Type into a field and leave it with Enter, then wait until the server has it."""
        from selenium.webdriver.common.keys import Keys

        field = self.field(label, scope)
        if field.tag_name == "select":
            field.send_keys(text, Keys.ENTER)
            self.settle()
            return
        field.click()
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, Keys.ENTER)
        self.settle()

    def preview_file(self, return_id: int, into: str, paper: str, text: str) -> None:
        """A file of rows for a table of a paper, with its columns as they were guessed, up to the page of all rows."""
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "trial.csv")
            file.write_text(text)
            self.go(f"/returns/{return_id}/import?into={into}&paper={paper}")
            self.find("#file").send_keys(str(file))
            self.press("Preview")
            self.sees("Map each column", seconds=60)  # the worker reads it
            self.press("Preview")
            self.sees("All rows")

    def add(self, name: str) -> None:
        """A new paper by its name, from wherever one is in the return."""
        from selenium.webdriver.common.keys import Keys

        self.settle()
        self.find("h1").click()
        self.driver.switch_to.active_element.send_keys("/")
        self.until(lambda: self.driver.switch_to.active_element.tag_name == "input")
        self.driver.switch_to.active_element.send_keys(name)
        self.sees(f"Add: {name}")
        self.settle()
        self.driver.switch_to.active_element.send_keys(Keys.ENTER)

    def settle(self) -> None:
        """Wait until no request is under way."""
        time.sleep(0.05)
        self.until(
            lambda: self.driver.execute_script(
                "return !document.querySelector('.htmx-request') && document.readyState === 'complete'"
            )
        )

    def draw(self) -> None:
        from selenium.webdriver import ActionChains

        canvas = self.find("canvas[data-signature]")
        chain = ActionChains(self.driver).move_to_element(canvas).click_and_hold()
        for step in ((-80, -20), (30, 40), (30, -40), (40, 30), (30, -20)):
            chain = chain.move_by_offset(*step)
        chain.release().perform()

    def record_identity(self, document: str, issued_by: str, expires: str) -> None:
        """What the client showed, before a signature is taken in the office."""
        shown = {"document": document, "issued_by": issued_by, "expires": expires, "ending": "4417"}
        for name, value in shown.items():
            self.find(f"[name={name}]").send_keys(value)
        self.press("Record it")
        self.sees("ends 4417")

    def sign_in_office(self, return_id: int, times: int = 2, verify: Callable[[], None] | None = None) -> None:
        """Draw so many signatures in the office; `verify` records who the client is where that is asked first."""
        for _ in range(times):
            self.go(f"/returns/{return_id}/sign")
            self.press("sign here in the office")
            self.sees("witnessed by")
            if verify is not None and "First verify the identity" in self.text():
                verify()
            self.find("[name=pin]").send_keys("41706")
            self.draw()
            self.press("Sign")
            self.sees("Signatures")

    def complaints(self) -> list[str]:
        """What the browser wrote to its console, but for answers that refuse on purpose."""
        entries = self.driver.get_log("browser")
        return [
            entry["message"]
            for entry in entries
            if not re.search(r"status of (4(?:03|04|09|10|22)|5\d\d)|ERR_", entry["message"])
        ]


class RunningTestCase(TestCase):
    """One running practice for the whole class."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.practice = RunningPractice()
        cls.addClassCleanup(cls.practice.destroy)
        cls.practice.start()

    def walk(self, *size) -> Walk:
        made = Walk(self.practice, *size)
        self.addCleanup(made.quit)
        return made


__all__ = ["RunningPractice", "RunningTestCase", "Walk", "clean_environment", "leftovers"]
