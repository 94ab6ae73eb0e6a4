"""The seat as a preparer uses it, in a real browser: by keyboard alone, with pastes, files, colleagues and second thoughts."""

import re
import tempfile
from pathlib import Path

from ops.installation import HOME
from ops.tests.running import RunningTestCase
from ops.tests.typist import Typist

COUNTS = HOME / "docs" / "keystrokes.md"


class SeatTests(RunningTestCase):
    def typist(self, who: str = "bea") -> Typist:
        made = Typist(self.practice)
        self.addCleanup(made.quit)
        made.sign_in(who)
        made.count()
        return made

    def return_of(self, name: str) -> int:
        query = f"select r.id from returns_return r join clients_household h on h.id = r.household_id where h.name like '{name}%' and r.year = 2025 and r.pack = 'us'"
        return int(self.practice.sql(query))

    def amount_shown(self, typist: Typist) -> int:
        """The amount at the head of the lineage."""
        return int(typist.find("#lineage h1").text.rpartition("·")[2].replace(",", ""))

    def bottom(self, typist: Typist) -> str:
        return re.sub(r"\s+", " ", typist.find("#bottom").text)

    def test_a_family_with_eight_papers_from_blank_to_computed(self):
        bea = self.typist()
        bea.go("/")
        bea.count()
        bea.command("add a house", "Add a household")
        bea.sees("Its people")
        for value in ("Ada", "Merrow", "900-11-4471", "4/9/1984", "ada@merrow.example", "surveyor", "Ivo", "Merrow", "901-22-5582",
                      "6/1/1983", "", "cook", "5 Quay Lane", "Galena", "Illinois"):  # fmt: skip
            bea.type(value).hit("Tab") if value else bea.hit("Tab")
        bea.type("61036").hit("Enter")
        bea.sees("Add a paper")
        # Two people and their status are there; a child, two wage statements, interest, care and a gift come by command
        bea.command("child", "Add: Dependent")
        bea.at("First name and initial")
        bea.fill("Lio")
        bea.at("Last name")
        bea.fill("Merrow", "902334471", "5/6/2019").on_to("Relationship").fill("child", "12")
        for employer, number, wages, withheld in (
            ("Kittiwake", "007140362", "61480", "4212"),
            ("Sandbar", "002905518", "38000", "2600"),
        ):
            bea.command("wage st", "Add: Wage statement")
            bea.at("Employee's SSN")
            bea.hit("alt+o", "Enter")  # whose it is; the number follows
            bea.at("EIN")
            bea.fill(number)
            bea.sees("On file under this number")
            bea.hit("alt+k")
            bea.sees(employer)
            bea.at("Control number")
            bea.fill("", wages, withheld)
            bea.settle()
        bea.command("1099-int", "Add: Interest income")
        bea.at("Payer")
        bea.fill("River Bend Savings", "003090128", "", "420*2+10")
        bea.sees("Box 1, interest, entered: 850.00")
        bea.command("charitable", "Add: Charitable contributions")
        bea.at("Charity")
        bea.command("care pro", "Add: Dependent care provider")
        bea.sees("Dependent care provider, 2441")
        bea.hit("alt+e")
        bea.at("Qualifying person")
        bea.type("lio").hit("Enter")  # a reference is chosen by its words
        bea.sees("Box 2a, qualifying person, entered")
        return_id = int(re.search(r"/returns/(\d+)/", bea.driver.current_url)[1])
        papers = int(self.practice.sql(f"select count(*) from returns_paper where of_id={return_id} and removed_at is null"))
        self.assertGreaterEqual(papers, 8)
        bea.command("1040 1z", "1040 line 1z")
        bea.sees("1040 line 1z · 99,480")
        bea.command("1040 2b", "1040 line 2b")
        bea.sees("1040 line 2b · 850")
        self.assertEqual(bea.complaints(), [])

    def test_a_figure_traced_from_the_bottom_line_and_corrected(self):
        return_id = self.return_of("Beaumont")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        before = self.bottom(bea)
        bea.count()
        bea.command("1040 25a", "1040 line 25a")
        bea.sees("1040 line 25a ·", "Source papers")
        bea.hit("alt+3")
        while bea.here() != "Federal income tax withheld":
            bea.hit("Tab")
        bea.type("6,000").hit("Enter")
        bea.sees("1040 line 25a · 14,300")
        self.assertNotEqual(self.bottom(bea), before)
        self.kept(bea, "correct a figure traced from its line")

    def test_another_statement_from_the_same_employer(self):
        return_id = self.return_of("Ashgrove")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        bea.sees("Wage statement, W-2")
        bea.count()
        bea.hit("alt+n")
        bea.at("Control number")
        bea.fill("", "12000", "900")
        bea.sees("Box 2, federal income tax withheld, entered: 900.00")
        self.kept(bea, "add a second statement from the same employer")

    def test_who_presses_enter_before_the_answer_is_there_gets_what_was_typed(self):
        return_id = self.return_of("Ashgrove")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        bea.sees("Wage statement, W-2")
        bea.hit("/")
        bea.type("1099-int\ue007")  # Enter right behind the last letter: nothing can have been answered yet
        bea.at("Payer")
        self.assertEqual(bea.complaints(), [])

    def test_a_wage_statement_of_a_known_employer(self):
        return_id = self.return_of("Roake")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        bea.count()
        bea.command("wage", "Add: Wage statement")
        bea.at("EIN")
        bea.fill("006127745")
        bea.sees("Tern Point Ferry Co")
        bea.hit("alt+k")
        bea.at("Control number")
        bea.fill("", "41200", "3120")
        bea.hit("alt+e", "alt+e")  # a row in box 12, then the state's row below it
        bea.settle()
        self.kept(bea, "key a W-2 of a known employer")

    def kept(self, typist: Typist, task: str):
        """No more keys and screens than docs/keystrokes.md says."""
        row = re.search(rf"\| {re.escape(task)} \| (\d+) \| (\d+) \|", COUNTS.read_text())
        self.assertIsNotNone(row, f"docs/keystrokes.md does not tell of: {task} ({typist.keys} keys, {typist.screens} screens)")
        self.assertLessEqual((typist.keys, typist.screens), (int(row[1]), int(row[2])), "more keys or screens than before")
        self.assertEqual(typist.complaints(), [])

    def test_forty_rows_pasted_into_the_table(self):
        return_id = self.return_of("Pilcrow")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/forms?at=us.1040.2b")
        before = self.amount_shown(bea)
        bea.go(f"/returns/{return_id}/papers/table/1099-int")
        rows = "\\n".join(f"Bank {n}\\t00-30901{n:02d}\\t{n}.00" for n in range(1, 41))
        paste = f'const data = new DataTransfer(); data.setData("text", "{rows}"); const at = document.querySelector(".pasted input") ?? document.querySelector("textarea"); '
        if bea.driver.find_elements("css selector", ".pasted input"):
            bea.driver.execute_script(
                paste + 'at.dispatchEvent(new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true}))'
            )
        else:
            bea.driver.execute_script(paste + 'at.value = data.getData("text"); at.form.submit()')
        bea.sees("Import 40")
        bea.press("Import 40")
        bea.sees("40 imported", seconds=30)
        bea.go(f"/returns/{return_id}/forms?at=us.1040.2b")
        self.assertEqual(self.amount_shown(bea) - before, 820)  # 1 + 2 + … + 40
        # All forty are one act, and go together
        bea.go(f"/returns/{return_id}/papers")
        bea.hit("alt+z")
        bea.sees("Undone: 40 changes made at once")
        self.assertEqual(bea.complaints(), [])

    def test_a_file_with_bad_rows_then_a_good_one(self):
        return_id = self.return_of("Haverford")
        bea = self.typist()
        with tempfile.TemporaryDirectory() as folder:
            bad, good = Path(folder, "bad.csv"), Path(folder, "good.csv")
            heads = "Security,Date sold,Proceeds,Cost,Term"
            bad.write_text(f"{heads}\nAlder,3/4/2025,120,100,Short\nBirch,someday,lots,80,Short\n")
            good.write_text(f"{heads}\nAlder,3/4/2025,120,100,Short\nBirch,3/5/2025,90,80,Long\n")
            bea.go(f"/returns/{return_id}/import?into=1099-b.sales")
            bea.find("#file").send_keys(str(bad))
            bea.press("Preview")
            bea.sees("Map each column")
            bea.press("Preview")
            bea.sees("1 with errors", "Date sold takes a date", "lots")
            self.assertEqual(
                self.practice.sql(f"select count(*) from returns_paper where of_id={return_id} and kind='1099-b'"), "0"
            )
            bea.press("Another file")
            bea.find("#file").send_keys(str(good))
            bea.press("Preview")
            bea.sees("mapped as last time")
            bea.press("Preview")
            bea.press("Import 2")
            bea.press("Open the paper")
            bea.sees("Transactions", "Total")
            bea.go(f"/returns/{return_id}/forms?at=us.sch-d.16")
            bea.sees("Schedule D line 16 · 30")
        self.assertEqual(bea.complaints(), [])

    def test_undo_field_by_field_and_a_paper_put_back(self):
        return_id = self.return_of("Eastlake")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        bea.sees("Wage statement, W-2")
        was = bea.field("Federal income tax withheld").get_attribute("value")
        before = self.bottom(bea)
        bea.key("Federal income tax withheld", "1")
        self.assertNotEqual(self.bottom(bea), before)
        bea.hit("alt+z")
        bea.sees("Undone: federal income tax withheld")
        # A lineage beside the paper makes room for the ripple as soon as something is keyed
        bea.at("Federal income tax withheld")
        bea.hit("alt+l")
        bea.sees("Entered by")
        bea.key("Federal income tax withheld", "2")
        bea.sees("entered: 2.00")
        bea.hit("alt+z")
        bea.sees("Undone: federal income tax withheld")
        self.assertEqual(bea.field("Federal income tax withheld").get_attribute("value"), was)
        bea.at("Federal income tax withheld")
        bea.hit("alt+x")
        bea.sees("removed")
        bea.press("Restore")
        bea.sees("Wage statement, W-2")
        self.assertEqual(self.bottom(bea).split("Saved")[0], before.split("Saved")[0])

    def test_two_sessions_in_one_field_show_both_values_and_lose_none(self):
        return_id = self.return_of("Ngata")
        bea, tilde = self.typist(), self.typist("tilde")
        for one in (bea, tilde):
            one.go(f"/returns/{return_id}/papers")
            one.sees("Wage statement, W-2")
        bea.key("Federal income tax withheld", "4100")
        tilde.key("Federal income tax withheld", "4200")
        tilde.sees("Bea Thorne entered 4,100.00", "you entered 4200")
        tilde.press("keep mine")
        tilde.sees("entered: 4,200.00, was 4,100.00")
        bea.go(f"/returns/{return_id}/changes?q=federal")
        bea.sees("4100.00", "4200.00", "TM", "BT")

    def test_a_list_is_searched_walked_and_refuses_what_is_not_on_it(self):
        return_id = self.return_of("Lindqvist")
        bea = self.typist()
        bea.go(f"/returns/{return_id}/papers")
        bea.command("wage st", "Add: Wage statement")
        bea.at("Employee's SSN")  # two people: nobody has said whose it is
        bea.hit("alt+e")
        bea.at("Code")
        bea.type("roth")
        bea.sees("AA Designated Roth contributions, 401(k)", "EE Designated Roth contributions, governmental 457(b)")
        bea.hit("Down", "Enter")
        self.assertIn(
            "BB Designated Roth contributions, 403(b)",
            [one.get_attribute("value") for one in bea.driver.find_elements("css selector", "#paper [aria-label=Code]")],
        )
        bea.at("Amount")
        bea.hit("shift+Enter")
        bea.at("Code")
        bea.type("tulip").hit("Enter")
        bea.sees("choose one of the list; 'tulip' is not on it")
