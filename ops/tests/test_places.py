"""Clients of several states, in a browser: moves, residency changed in place, income allocated, returns left out, more time."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from ops.tests.running import RunningTestCase


class PlacesTests(RunningTestCase):
    def return_of(self, household: str) -> int:
        wanted = (
            f"select r.id from returns_return r join clients_household h on h.id = r.household_id where h.name = '{household}'"
        )
        return int(self.practice.sql(f"{wanted} and r.year = 2025"))

    def fields(self, walk, label: str) -> list:
        return walk.driver.find_elements(By.CSS_SELECTOR, f'#paper [aria-label="{label}"]')

    def bottom(self, walk) -> str:
        return walk.find("#bottom").text

    def test_a_mover_keys_stays_and_shares_wages_out(self):
        return_id = self.return_of("Ngata, Bellamy")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/places")
        walk.sees("lived there all year")
        walk.press("Enter residency periods")
        walk.sees("Residency periods")
        stays = (("Texas", "To", "5/31/2025"), ("Pennsylvania", "From", "6/1/2025"))
        for count, (state, label, day) in enumerate(stays, 1):
            walk.press("add a row")
            walk.until(lambda count=count: len(self.fields(walk, "Person")) == count)
            walk.settle()
            for name, text in (("Person", "Taxpayer"), ("State", state), (label, day)):
                self.fields(walk, name)[-1].send_keys(text, Keys.TAB)
                walk.settle()
        walk.sees("From entered: June 1, 2025")
        walk.go(f"/returns/{return_id}/places")
        walk.sees("TX 151", "PA 214", "Pennsylvania, part-year")
        walk.find(".share summary").click()
        walk.press("by days")
        walk.sees("allocated", "Pennsylvania")
        walk.go(f"/returns/{return_id}/forms?at=us-pa.pa-40.1a")
        walk.sees("Gross compensation")

    def test_a_resident_moves_mid_year_and_nothing_keyed_is_lost(self):
        return_id = self.return_of("Vantongeren, Mabel")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/places")
        before = walk.find(".by-state").text
        self.assertNotIn("Indiana", self.bottom(walk))
        walk.find('[aria-label="State moved to"]').send_keys("Indiana")
        walk.find('[aria-label="First day there"]').send_keys("7/1/2025")
        walk.press("move")
        walk.sees("Moved to Indiana on July 1", "IN 184", "Indiana, part-year", "Illinois, part-year")
        self.assertIn("Indiana", self.bottom(walk))
        walk.find(".share summary").click()
        walk.press("by days")
        walk.sees("allocated")
        walk.find("body").send_keys(Keys.ALT, "z")
        walk.sees("Undone:")
        walk.find("body").send_keys(Keys.ALT, "z")
        walk.sees("IL 365")
        self.assertEqual(walk.find(".by-state").text, before)
        self.assertEqual(walk.complaints(), [])

    def test_a_couple_of_two_states_files_apart_and_together_again(self):
        return_id = self.return_of("Fairwater, Ines and Cormac")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/places")
        walk.sees("both count as residents on a joint return", "Separate returns save")
        walk.press("file separately")
        walk.sees("The separate state return is made", "Not prepared: Ines files separately")
        self.assertNotIn("Illinois", self.bottom(walk))
        walk.driver.find_element(By.LINK_TEXT, "Ines's return").click()
        walk.sees("Illinois only: Ines, separate from the joint return")
        self.assertIn("Illinois", self.bottom(walk))
        self.assertNotIn("Federal", self.bottom(walk))
        wages = self.practice.sql(
            f"select id from returns_paper where of_id = {return_id} and kind = 'w2' order by position limit 1"
        )
        walk.go(f"/returns/{return_id}/papers/{wages}")
        walk.key("Wages, tips, other compensation", "72000")
        walk.go(f"/returns/{return_id}/places")
        walk.driver.find_element(By.LINK_TEXT, "Ines's return").click()
        walk.sees("The joint return was changed since this one was made from it: Pelorus Lock Authority")
        walk.go(f"/returns/{return_id}/places")
        walk.press("file jointly again")
        walk.sees("They file jointly again", "Separate returns save")
        self.assertIn("Illinois", self.bottom(walk))
        self.assertEqual(walk.complaints(), [])

    def test_residency_changes_in_place_from_non_resident_to_resident(self):
        """The same return of Indiana, with its answers, as a nonresident's, a mover's and a resident's."""
        return_id = self.return_of("Caddick, Rowan")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/places")
        walk.find('[aria-label="State to add"]').send_keys("Indiana")
        walk.find('[aria-label="Why it is prepared"]').send_keys("Worked there in March")
        walk.press("add")
        walk.sees("Indiana, nonresident", "Worked there in March")
        walk.driver.find_elements(By.XPATH, "//div[contains(., 'Indiana')]//button[normalize-space()='its questions']")[
            -1
        ].click()
        walk.key("Rent paid, Indiana home", "900")
        for state, day, kind in (("Indiana", "4/1/2025", "Indiana, part-year"),):
            walk.go(f"/returns/{return_id}/places")
            walk.find('[aria-label="State moved to"]').send_keys(state)
            walk.find('[aria-label="First day there"]').send_keys(day)
            walk.press("move")
            walk.sees(kind)
        filing = self.practice.sql(f"select id from returns_paper where of_id = {return_id} and kind = 'residency'")
        walk.press("Change residency periods")
        walk.find('#paper [aria-label^="From"]')
        walk.press("Remove (Alt X)") if "Remove (Alt X)" in walk.text() else walk.find("body").send_keys(Keys.ALT, "x")
        walk.settle()
        self.assertTrue(filing)
        wanted = self.practice.sql(f"select id from returns_paper where of_id = {return_id} and kind = 'filing'")
        walk.go(f"/returns/{return_id}/papers/{wanted}")
        walk.key("State of residence, full year", "Indiana")
        walk.go(f"/returns/{return_id}/places")
        walk.sees("Indiana, full-year")
        walk.go(f"/returns/{return_id}/forms?at=us-in.it-40.4")
        walk.sees("Deductions, Schedule 2", "900")

    def test_a_state_is_left_out_with_a_reason_and_made_after_all(self):
        return_id = self.return_of("Achterberg, Rune")
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/places")
        self.assertIn("Georgia", self.bottom(walk))
        panel = walk.driver.find_elements(By.CSS_SELECTOR, ".state-return")[-1]
        panel.find_element(By.CSS_SELECTOR, "summary").click()
        panel.find_element(By.CSS_SELECTOR, "[name=reason]").send_keys("Below what Georgia asks for", Keys.ENTER)
        walk.sees("Georgia's return is not prepared", "Not prepared: Below what Georgia asks for")
        self.assertNotIn("Georgia", self.bottom(walk))
        walk.press("prepare it anyway")
        walk.sees("follows the facts again")
        self.assertIn("Georgia", self.bottom(walk))

    def test_more_time_for_all_authorities_and_the_payment_on_the_final_return(self):
        return_id = self.return_of("Tregarth, Thea and Marek")
        walk = self.walk()
        walk.sign_in("amos")
        walk.go(f"/returns/{return_id}/more-time")
        walk.sees("Indiana", "Wisconsin", "4868")
        walk.press("Request all")
        walk.sees("3 extensions requested")
        for name, amount in (("Federal", "1600+53"), ("Indiana", "843")):
            walk.settle()  # the answer to the one before replaces the list
            field = walk.find(f'[aria-label="Paying with the extension, {name}"]')
            field.send_keys(amount, Keys.ENTER)
            walk.sees("counts on the return")
        walk.press("Mark all ready")
        walk.sees("3 ready to go")
        walk.press("Send what is ready")
        walk.sees("needs its routing number", "account number", "debit date")
        paper = self.practice.sql(f"select id from returns_paper where of_id = {return_id} and kind = 'extension'")
        walk.sign_in("bea")  # an administrator files, a preparer enters
        walk.go(f"/returns/{return_id}/papers/{paper}")
        account = (("Routing number", "000000518"), ("Account number", "4471-0029"), ("Type of account", "Checking"),
                   ("Debit date", "4/15/2026"))  # fmt: skip
        for label, text in account:
            walk.key(label, text)
        walk.sign_in("amos")
        walk.go(f"/returns/{return_id}/more-time")
        walk.press("Send what is ready")
        walk.sees("on their way")
        walk.until(lambda: walk.text().count("extension accepted") >= 2, 40)
        walk.sees("nothing to send", "receipt US-2025")
        walk.go("/dispatch")
        walk.sees("Extensions", "IT-9", "Oct 15, 2026")
        due = self.practice.sql(f"select due from returns_return where id = {return_id}")
        self.assertEqual(due, "2026-10-15")
        walk.go(f"/returns/{return_id}/forms?at=us.sch-3.10")
        walk.sees("Amount paid with request for extension", "1,653")
        walk.go(f"/returns/{return_id}/forms?at=us-in.it-40.12")
        walk.sees("Credits, Schedule 5", "2,859")
        self.assertEqual(walk.complaints(), [])

    def test_more_time_for_many_goes_on_in_the_background(self):
        walk = self.walk()
        walk.sign_in("sunniva")
        walk.go("/more-time?q=Roake")
        walk.find('[aria-label="Choose all"]').click()
        walk.press("Request for those selected")
        walk.sees("Request extensions 1 of 1", "Roake, Tamsin: requested from US")
        walk.go("/more-time?q=Roake")
        walk.sees("US not sent")
        walk.find('[aria-label="Choose all"]').click()
        walk.press("Send what is ready of those selected")
        walk.sees("1 on their way")
        self.assertEqual(walk.complaints(), [])
