"""`./impuesto pictures`: one current picture of each main view, from a fresh demo practice, into docs/screenshots."""

import io
import re
import tempfile
import time
from pathlib import Path

from PIL import Image

from ops.installation import HOME
from ops.tests.running import RunningPractice, Walk

FOLDER = HOME / "docs" / "screenshots"


def shrink(path: Path) -> None:
    """Few colors are enough for letters and lines: a picture is a third as large, and reads the same."""
    with Image.open(path) as picture:
        few = picture.convert("RGB").quantize(128, Image.Quantize.MEDIANCUT, dither=Image.Dither.NONE)
    few.save(path, optimize=True)


def main() -> int:
    for packs, work in (("", _american), ("uk uk-home uk-ct", _british)):
        practice = RunningPractice(packs=packs)
        try:
            practice.start()
            _wait_for_answers(practice)
            work(practice)
        finally:
            practice.destroy()
    return 0


def _american(practice: RunningPractice) -> None:
    _staff(practice)
    _sheet(practice, "dispatch", ("/dispatch", "/fees"), dark=-1)
    _property(practice)
    _business(practice)
    _portal(practice)


def _british(practice: RunningPractice) -> None:
    """British returns on one sheet: papers, the calculation with its lineage, flow, review in the dark theme, a company's
    accounts, its pools, its return."""
    company = int(practice.sql("select id from returns_return where pack = 'uk-ct' order by id limit 1"))
    _sheet(practice, "british", (
        "/returns/5/papers", "/returns/1/forms?at=uk.foreign-credit.a", "/returns/1/flow", "/returns/8/review",
        _paper(practice, company, "accounts"), _paper(practice, company, "plant"), f"/returns/{company}/forms?at=uk.ct600.435",
        f"/returns/{company}/sign/attachments",
    ), dark=3)  # fmt: skip


def _property(practice: RunningPractice) -> None:
    """A landlord: the register of assets, a property, what waits, a house that was sold; farmers: their books, their register;
    shareholder and partner: Form 7203, the paper of a partner's basis."""
    of = "select r.id from returns_return r join clients_household h on h.id = r.household_id where h.name like '{}%'"
    return_id, farm = int(practice.sql(of.format("Ravenscar"))), int(practice.sql(of.format("Ormsgill")))
    first = f"{of} and r.year = 2025 order by r.id limit 1"  # other pictures plan with them
    owner, partner = (int(practice.sql(first.format(name))) for name in ("Ashgrove", "Ibsen-Clay"))
    _sheet(practice, "property", (
        f"/returns/{return_id}/assets", _paper(practice, return_id, "rental"), f"/returns/{return_id}/forms?at=us.8582.11",
        f"/returns/{return_id}/forms?at=us.4797.7", _paper(practice, farm, "farm"), f"/returns/{farm}/assets",
        f"/returns/{owner}/forms?at=us.7203[basiss1].15", _paper(practice, partner, "basis-p"),
    ), dark=3)  # fmt: skip


def _business(practice: RunningPractice) -> None:
    """A partnership: its books, a partner, a share with its lineage, what it does to the owner's return, balance sheet,
    Illinois' return; an S corporation's accounts, its shareholder."""
    of = "select r.id from returns_return r where r.pack = '{}'"
    partnership, corporation = (int(practice.sql(of.format(code))) for code in ("us-1065", "us-1120s"))
    partner = practice.sql(f"select min(key) from returns_paper where of_id = {partnership} and kind = 'partner'")
    _sheet(practice, "business", (
        _paper(practice, partnership, "books"), _paper(practice, partnership, "partner"),
        f"/returns/{partnership}/forms?at=us.sch-k-1[{partner}].1", f"/returns/{partnership}/issued",
        f"/returns/{partnership}/forms?at=us.sch-l.14-d", f"/returns/{partnership}/forms?at=us-il.il-1065.54",
        f"/returns/{corporation}/forms?at=us.sch-m-2.8-a", _paper(practice, corporation, "shareholder"),
    ), dark=3)  # fmt: skip


def _paper(practice: RunningPractice, return_id: int, kind: str) -> str:
    found = practice.sql(f"select min(id) from returns_paper where of_id = {return_id} and kind = '{kind}'")
    return f"/returns/{return_id}/papers/{found}"


def _sheet(practice: RunningPractice, name: str, pages: tuple[str, ...], dark: int) -> None:
    """Several views on one picture, two in a row, one of them in the dark theme."""
    walk, size = Walk(practice), (960, 600)
    sheet = Image.new("RGB", (size[0] * 2, size[1] * ((len(pages) + 1) // 2)))
    try:
        walk.sign_in_by_hand("sunniva")
        for place, page in enumerate(pages):
            walk.driver.add_cookie({"name": "theme", "value": "dark" if place == dark else "light"})
            walk.go(page)
            walk.settle()
            time.sleep(0.3)
            with Image.open(io.BytesIO(walk.driver.get_screenshot_as_png())) as view:
                small = view.convert("RGB").resize(size, Image.Resampling.LANCZOS)
            sheet.paste(small, (place % 2 * size[0], place // 2 * size[1]))
    finally:
        walk.quit()
    path = FOLDER / f"{name}.png"
    sheet.save(path)
    shrink(path)
    print(f"docs/screenshots/{name}.png", flush=True)


def _wait_for_answers(practice: RunningPractice) -> None:
    """The demo's returns are on their way when it starts; the pictures want them answered."""
    for _ in range(120):
        if practice.sql("select count(*) from dispatch_submission where state in ('queued', 'sent', 'waiting')") == "0":
            return
        time.sleep(0.5)


def _shoot(walk: Walk, name: str) -> None:
    walk.settle()
    time.sleep(0.3)
    path = FOLDER / f"{name}.png"
    walk.driver.save_screenshot(str(path))
    shrink(path)
    print(f"docs/screenshots/{name}.png", flush=True)


def _staff(practice: RunningPractice) -> None:
    walk = Walk(practice)
    try:
        walk.sign_in_by_hand("bea")
        _shoot(walk, "desk")
        for name, page in {
            "household": "/households/28",
            "rolled-forward": "/returns/30/carried",
            "forms": "/returns/1/forms?at=us.1040.16",
            "flow": "/returns/1/flow",
            "what-if": "/returns/1/what-if",
            "review": "/returns/1/review",
            "sign": "/returns/5/sign",
            "requests": "/returns/30/requests",
        }.items():
            walk.go(page)
            _shoot(walk, name)
        walk.go("/returns/25/places")
        _shoot(walk, "places")
        walk.go("/returns/8/papers")
        walk.key("Federal income tax withheld", "3381+200")
        _shoot(walk, "papers")
        of = "select id from returns_paper where of_id = 30 and kind = 'w2' and attached > 0"
        walk.go(f"/returns/30/papers/{practice.sql(of)}?beside=1")
        walk.sees("take over")
        _shoot(walk, "pages-beside")
        walk.driver.execute_script("sessionStorage.beside = ''")
        _import(walk)
        _dark(practice)
    finally:
        walk.quit()


def _dark(practice: RunningPractice) -> None:
    """In the dark theme: a couple jointly and separately."""
    walk = Walk(practice)
    try:
        walk.sign_in_by_hand("sunniva")
        walk.driver.add_cookie({"name": "theme", "value": "dark"})
        walk.go("/returns/9/what-if/both-ways")
        _shoot(walk, "couple")
    finally:
        walk.quit()


_SALES = """Security,Date acquired,Date sold,Gross proceeds,Cost basis,Wash sale loss disallowed,Term
Alder Freight,02/11/2024,03/04/2025,"1,210.40",980.10,,Long
Birch Fund,11/02/2024,03/05/2025,840.00,912.35,72.35,Short
Cedar Power,06/30/2025,soon,410.00,400.00,,Short
Dogwood Paper,VARIOUS,09/17/2025,"3,005.75","2,110.00",,Long
"""


def _import(walk: Walk) -> None:
    """A broker's file with one bad row, as it is looked at before anything is imported."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder, "sandbar-brokers.csv")
        path.write_text(_SALES)
        walk.go("/returns/8/import?into=1099-b.sales")
        walk.find("#file").send_keys(str(path))
        walk.press("Preview")
        walk.press("Preview")
        walk.sees("1 with errors")
        _shoot(walk, "import")


def _enter(practice: RunningPractice, walk: Walk, who: str) -> None:
    """Into the portal with the newest mail to somebody."""
    mail = [one for one in practice.mails() if one["to"].startswith(who) and "/portal/enter/" in one["text"]][-1]
    walk.go(re.search(r"(http://\S+/portal/enter/\S+)", mail["text"])[1])  # type: ignore[index]
    walk.press("Send me a code")
    code = walk.until(lambda: next(m for m in practice.mails() if m["to"] == mail["to"] and "Your code" in m["text"]))
    walk.find("[name=code]").send_keys(re.search(r"\d{6}", code["text"])[0])  # type: ignore[index]
    walk.press("Continue")


def _portal(practice: RunningPractice) -> None:
    walk = Walk(practice, 390, 844)
    try:
        _enter(practice, walk, "sorrel")
        walk.press("See and send")
        walk.sees("What we need from you")
        asked = Image.open(io.BytesIO(walk.driver.get_screenshot_as_png())).convert("RGB")
        _enter(practice, walk, "dov")
        walk.sees("How we got there")
        walk.settle()
        done = Image.open(io.BytesIO(walk.driver.get_screenshot_as_png())).convert("RGB")
        both = Image.new("RGB", (asked.width + done.width + 20, asked.height), "white")
        both.paste(asked, (0, 0))
        both.paste(done, (asked.width + 20, 0))
        both.save(FOLDER / "portal.png")
        shrink(FOLDER / "portal.png")
        print("docs/screenshots/portal.png", flush=True)
    finally:
        walk.quit()
