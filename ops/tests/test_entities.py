"""Entities in a browser: a repair shop from its trial balance to both partners' filed returns, a corporation with a loss carried."""

import re

from selenium.webdriver.common.by import By

from ops.tests.running import RunningTestCase, Walk

_SHOP = """Account number,Account,Tax line,Beginning balance,Debit,Credit
1000,Checking,Cash,37000,67000,
3000,Members' capital,Capital,-37000,,37000
3100,Draws,Distributions,,30000,
4000,Sales,Gross receipts,,,170000
6000,Wages,"Salaries, wages",,50000,
6050,Payroll taxes,"Taxes, licenses",,4000,
6100,Shop rent,Rent,,56000,
"""
_ABOUT = {
    "Street address": "12 Weir Lane", "City": "Galena", "State": "IL", "ZIP code": "61036", "Business code": "811490", "Accounting method": "Accrual",
    "Payments that need Form 1099": "yes", "They were or will be filed": "yes",
}  # fmt: skip
_PARTNERSHIP = {
    "Principal business activity": "Repair", "Principal product or service": "Boat engines", "Date business started": "3/1/2019",
    "Type of entity": "Domestic limited liability company", "A partner owns 50% or more, directly or indirectly": "yes",
    "Elects out of the centralized audit regime": "yes", "Items of international tax relevance": "no",
    "Schedules K-1 given and return filed by the due date": "yes",
}  # fmt: skip
_CORPORATION = {
    "Date incorporated": "3/1/2019", "Business activity": "Repair", "Product or service": "Boat engines", "Consolidated return": "no",
    "Personal holding company": "no", "Personal service corporation": "no", "Closely held, with passive activities": "no",
}  # fmt: skip
_PARTNERS = (
    ("Thea Okonjo-Reyes", "929-08-3316", "60", "18000", "22200"),
    ("Bellamy Ngata", "928-31-7740", "40", "12000", "14800"),
)


class EntityTests(RunningTestCase):
    def test_a_repair_shop_from_its_trial_balance_to_both_partners_filed_returns(self):
        """60,000 of ordinary income: 36,000 and 24,000. Illinois: 59,000 at 1.5% is 885."""
        walk = self.staff()
        made = self.opened(walk, "Heron and Teal Repair", "Partnership", "00-7714402", "Thea Okonjo-Reyes")
        self.bring_in_books(walk, made)
        self.answer(walk, made, "about", _ABOUT | _PARTNERSHIP)
        for called, number, part, drawn, before in _PARTNERS:
            self.add(walk, "Partner")
            given = {"Name": called, "SSN or EIN": number, "Street address": "1 Quay", "City": "Galena", "State": "IL", "What type of entity is it": "Individual",
                     "General partner or LLC member-manager": "yes", "Cash and marketable securities distributed": drawn,
                     "Capital when the year began, tax basis": before}  # fmt: skip
            for label, value in given.items():
                walk.key(label, value)
            walk.press("add a row")
            walk.settle()
            walk.key("Profit, %", part)
        self.add(walk, "Illinois questions")
        for label, value in {
            "All income is business income": "yes",
            "Credits, Schedule 80/20 or Schedules K-1-P received": "no",
            "Illinois taxes deducted": "0",
            "Personal service income or reasonable pay": "0",
        }.items():
            walk.key(label, value)
        walk.go(f"/returns/{made}/forms?at=us-il.il-1065.54")
        walk.sees("IL-1065 line 54 · 885")
        walk.go(f"/returns/{made}/issued")
        walk.sees("What it does to their returns", "Federal: Total tax")
        walk.press("Hand out")
        walk.sees("as here")
        self.file(walk, made, 2)
        for called, share in (("Okonjo-Reyes", "36,000"), ("Ngata", "24,000")):
            own = self.return_of(called)
            self.answer(walk, own, "k1-1065", {"Materially participated": "yes"})
            walk.go(f"/returns/{own}/forms?at=us.sch-1.5")
            walk.sees("Heron and Teal Repair", share)
            self.file(walk, own, 2)
        self.assertEqual(walk.complaints(), [])

    def test_a_corporation_with_a_loss_carried_forward(self):
        """60,000 less 80% of it, of 90,000 that waits: 12,000 at 21% is 2,520; 42,000 go on. Illinois: 60,000 at 9.5%."""
        walk = self.staff()
        made = self.opened(walk, "Teal Slipway Corp", "Corporation or company", "00-7714403", "Bellamy Ngata")
        self.bring_in_books(walk, made, _SHOP.replace("Members' capital,Capital", "Retained earnings,Retained earnings"))
        self.answer(walk, made, "about", _ABOUT | _CORPORATION)
        self.add(walk, "Carryovers")
        walk.press("add a row")
        walk.settle()
        walk.key("Year", "2022")
        walk.key("Not used yet", "90000")
        self.add(walk, "Illinois questions")
        for label, value in {
            "All income is business income": "yes",
            "Credits, Schedule 80/20 or Schedules K-1-P received": "no",
            "Illinois taxes deducted": "0",
        }.items():
            walk.key(label, value)
        walk.go(f"/returns/{made}/forms?at=us.1120.31")
        walk.sees("1120 line 31 · 2,520")
        walk.go(f"/returns/{made}/forms?at=us-il.il-1120.52")
        walk.sees("IL-1120 line 52 · 5,700")
        self.file(walk, made, 2)
        walk.go(f"/returns/{made}/forms?at=us.carryovers.4")
        walk.sees("Carryovers line 4 · 42,000")
        self.assertEqual(walk.complaints(), [])

    def test_an_owner_takes_more_than_the_basis(self):
        """30,920 of stock, 82,400 and 212 of income: 113,532 before deductions. Of 120,000 taken 6,468 are gain."""
        walk = self.staff()
        made = int(self.practice.sql("select min(id) from returns_return where pack = 'us-1120s'"))
        self.answer(walk, made, "shareholder", {"Distributions": "120000"})
        walk.go(f"/returns/{made}/issued")
        walk.sees("without dividends: 79,300.00 there, 120,000.00 here", "1,413")
        walk.press("Hand out")
        walk.sees("as here")
        own = self.return_of("Ashgrove, Percival")
        basis = self.practice.sql(f"select key from returns_paper where of_id = {own} and kind = 'basis-s'")
        walk.go(f"/returns/{own}/forms?at=us.7203[{basis}].above_basis")
        walk.sees("6,468")
        self.assertEqual(walk.complaints(), [])

    def staff(self) -> Walk:
        made = self.walk()
        made.sign_in("sunniva")
        return made

    def return_of(self, name: str) -> int:
        of = "select r.id from returns_return r join clients_household h on h.id = r.household_id"
        return int(
            self.practice.sql(
                f"{of} where h.name like '{name}%' and r.year = 2025 and r.purpose = 'filing' order by r.id limit 1"
            )
        )

    def opened(self, walk: Walk, name: str, form: str, number: str, signer: str) -> int:
        """A client that is no person, who signs for it, and its return of the season."""
        walk.go("/households/company")
        for field, value in (("name", name), ("form", form), ("number", number)):
            walk.find(f"[name={field}]").send_keys(value)
        walk.press("Add")
        walk.sees("Who is what in it")
        walk.find("[name=holder]").send_keys(signer)
        walk.find("[name=signs]").click()
        walk.press("Add")
        walk.sees("signs")
        walk.press("Add 2025")
        walk.sees("Trial balance")
        return int(re.search(r"/returns/(\d+)/", walk.driver.current_url)[1])

    def answer(self, walk: Walk, return_id: int, kind: str, given: dict[str, str]) -> None:
        walk.go(f"/returns/{return_id}/papers/{self.paper(return_id, kind)}")
        for label, value in given.items():
            walk.key(label, value)

    def add(self, walk: Walk, name: str) -> None:
        walk.add(name)
        walk.until(lambda: walk.find("#paper h1").text == name)
        walk.settle()

    def paper(self, return_id: int, kind: str) -> str:
        return self.practice.sql(f"select min(id) from returns_paper where of_id = {return_id} and kind = '{kind}'")

    def bring_in_books(self, walk: Walk, return_id: int, trial: str = _SHOP) -> None:
        walk.preview_file(return_id, "books.rows", self.paper(return_id, "books"), trial)
        walk.press("Import 7")
        walk.press("Open the paper")
        walk.find("//input[@value='Shop rent']", By.XPATH)

    def file(self, walk: Walk, return_id: int, authorities: int) -> None:
        """Reviewed, locked, signed in the office for each authority, filed and accepted."""
        walk.go(f"/returns/{return_id}/review")
        if "First review done" in walk.text():
            walk.press("First review done")
            walk.sees("First review by Sunniva Holt")
        walk.go(f"/returns/{return_id}/sign")
        walk.press("Lock the return")
        walk.sees("Locked")
        walk.sign_in_office(return_id, authorities, lambda: walk.record_identity("Driver", "Illinois", "6/30/2029"))
        walk.go(f"/returns/{return_id}/sign")
        walk.press("E-file")
        walk.until(lambda: walk.text().count("accepted ·") == authorities, 90)
