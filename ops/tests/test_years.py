"""A client's returns over time, in a browser: plans, next year for one and for many, what the year before says otherwise later."""

import tempfile
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from ops.tests.running import RunningTestCase, Walk


class YearsTests(RunningTestCase):
    def household(self, name: str) -> int:
        return int(self.practice.sql(f"select id from clients_household where name = '{name}'"))

    def return_of(self, household: str, year: int, purpose: str = "filing") -> int:
        of = f"select id from returns_return where household_id = {self.household(household)} and year = {year}"
        return int(self.practice.sql(f"{of} and purpose = '{purpose}' and given_up_at is null and apart_from_id is null"))

    def paper_of(self, return_id: int, kind: str) -> int:
        of = f"select id from returns_paper where of_id = {return_id} and kind = '{kind}'"
        return int(self.practice.sql(f"{of} order by position").split()[0])

    def key_death(self, walk: Walk, household: str) -> None:
        return_id = self.return_of(household, 2025)
        walk.go(f"/returns/{return_id}/papers/{self.paper_of(return_id, 'person')}")
        walk.key("Date of death", "5/5/2025")

    def test_a_plan_is_made_changed_taken_over_and_turned_into_filing(self):
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/households/{self.household('Caddick, Rowan')}")
        walk.press("Plan 2025")
        walk.sees("Nothing in it is due, counted or filed")
        plan = self.return_of("Caddick, Rowan", 2025, "planning")
        walk.go(f"/returns/{plan}/papers/{self.paper_of(plan, 'w2')}")
        self.assertTrue(walk.driver.find_elements(By.CSS_SELECTOR, "body.plan .planmark"))
        self.assertEqual(walk.find("#paper .f").value_of_css_property("border-bottom-style"), "dashed")
        walk.key("Wages, tips, other compensation", "71000")
        walk.go(f"/returns/{plan}/plan")
        walk.sees("Other than in the filing return of 2025", "Wages, tips, other compensation", "71000.00")
        walk.find("[name=mark]").click()
        walk.press("Take into the filing return")
        walk.sees("1 fields taken into the filing return", "Plan and filing return have the same entries")
        filing = self.return_of("Caddick, Rowan", 2025)
        walk.go(f"/returns/{filing}/forms?at=us.1040.1a")
        walk.sees("71,000")
        walk.go(f"/households/{self.household('Caddick, Rowan')}")
        walk.press("Plan the year after")
        walk.sees("A plan of 2026")
        walk.press("Plan")
        walk.sees("be due on April 15, 2027")
        walk.press("Make it the filing return of 2026")
        walk.sees("This is the filing return of 2026 now")
        self.assertFalse(walk.driver.find_elements(By.CSS_SELECTOR, "body.plan"))
        self.assertEqual(walk.complaints(), [])

    def test_a_meeting_over_two_years_in_columns(self):
        """A child turns seventeen next year, and a pension is paid out: keyed beside the return, which stays as it is."""
        walk = self.walk()
        walk.sign_in("bea")
        return_id = self.return_of("Szabo, Fern", 2025)
        child = f"select id from returns_paper where of_id = {return_id} and values->>'first_name' = 'Pim'"
        walk.go(f"/returns/{return_id}/papers/{self.practice.sql(child)}")
        walk.key("Date of birth", "3/14/2009")
        before = f"select version from returns_return where id = {return_id}"
        version = self.practice.sql(before)
        walk.press("What-if")
        walk.sees("Add a column: the return once more")
        for name, option in (
            ("Pension paid out", "the return, 2025"),
            ("Seventeen", "Pension paid out, a year on"),
            ("Or not", "the return, a year on"),
        ):
            walk.find("#plan-name").send_keys(name)
            walk.find(f"//select[@id='plan-on']/option[normalize-space()='{option}']", By.XPATH).click()
            walk.press("Add")
            walk.sees(f"{name}")
        walk.click(By.XPATH, "//summary[contains(., 'Pension paid out')]")
        walk.find("//details[@open]//option[contains(., '1099-R')]", By.XPATH).click()
        walk.press("add this paper")
        walk.sees("Gross distribution")
        field = walk.find("[aria-label='Gross distribution, Pension paid out']")
        field.send_keys("20000", Keys.TAB)
        walk.settle()
        walk.sees("20,000")
        # The child tax credit of 2,200 is 500 for other dependents a year on
        walk.click(By.XPATH, "//summary[contains(., 'Every line that differs')]")
        walk.sees("Child tax credit", "Seventeen")
        walk.sees("costs")  # the curve beside it
        walk.press("find")
        walk.sees("instead of 29,480", "No whole amount gives exactly that")  # credits go by tables
        self.assertEqual(self.practice.sql(before), version)
        self.assertEqual(walk.complaints(), [])

    def test_a_couple_is_split_changed_and_split_again(self):
        walk = self.walk()
        walk.sign_in("bea")
        joint = self.return_of("Lindqvist, Arvid and Mira", 2025)
        version = f"select version from returns_return where id = {joint}"
        before = self.practice.sql(version)
        walk.go(f"/returns/{joint}/what-if/both-ways")
        self.share(walk, "many")
        walk.sees("Enter a percent from 0 to 100")
        self.share(walk, "25")
        walk.press("Make two returns")
        walk.sees("Arvid's return", "Mira's return", "this one is not locked")
        walk.click(By.LINK_TEXT, "Mira's return")
        walk.sees("Mira, separate return")
        hers = int(walk.driver.current_url.split("/returns/")[1].split("/")[0])
        walk.go(f"/returns/{hers}/papers/{self.paper_of(hers, '1099-int')}")
        walk.key("Interest", "900")
        walk.go(f"/returns/{joint}/what-if/both-ways")
        walk.sees("changed there: Galena Lamplighters Credit Union, Interest")
        self.share(walk, "40")
        walk.press("replace what they have")
        walk.sees("are ready to go on with")
        interest = f"select values->>'interest' from returns_paper where of_id = {hers} and kind = '1099-int'"
        self.assertEqual(self.practice.sql(interest), "366.86")  # 60% of 611.43
        self.assertNotIn("changed there", walk.text())
        self.assertEqual(self.practice.sql(version), before)
        self.assertEqual(walk.complaints(), [])

    def share(self, walk: Walk, percent: str) -> None:
        field = walk.find("//label[.='Galena Lamplighters Credit Union']/following::input[1]", By.XPATH)
        field.clear()
        field.send_keys(percent)
        walk.press("divide like this")

    def test_many_are_rolled_forward_and_two_fail_for_a_reason(self):
        walk = self.walk()
        walk.sign_in("bea")
        self.key_death(walk, "Faulkner-Obi, Juno")
        self.key_death(walk, "Haverford, Bram")
        walk.go("/next-year?year=2025")
        walk.sees("Roll forward to 2026", "none yet")
        number = int(walk.driver.find_element(By.CSS_SELECTOR, "button[name=all]").text.split()[1])
        walk.press(f"All {number}")
        # A couple that another walk has divided files separately and is refused as well
        divided = self.practice.sql("select count(distinct apart_from_id) from returns_return where apart_state = ''")
        walk.sees(f"{number} of {number}", f"{2 + int(divided)} not done", "there is no individual return for 2026", seconds=60)
        walk.go("/next-year?year=2025&which=there")
        walk.sees(f"All {number - 2 - int(divided)}")
        walk.go("/next-year?year=2025&q=Tolliver")
        walk.find('[aria-label="Choose all"]').click()
        walk.press("Roll forward those selected")
        walk.sees("1 of 1", "left: there is a return of 2026 already", seconds=40)
        self.assertEqual(walk.complaints(), [])

    def test_a_family_is_rolled_forward_and_a_couple_parts(self):
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/households/{self.household('Quist, Marlow and Odile')}")
        walk.press("Quist family")
        walk.sees("2 clients that belong together", "Odile Quist (member 60%)")
        walk.press("Roll 2025 forward")
        walk.sees("Roll forward to 2026", "Quist, Marlow and Odile")
        walk.find('[aria-label="Choose all"]').click()
        walk.press("Roll forward those selected")
        walk.sees("1 of 1", seconds=40)
        walk.go(f"/households/{self.household('Marchetti, Silvio and Ada')}")
        walk.press("they file separately from 2026 on")
        walk.press("divide and roll forward")
        walk.sees("Marchetti, Silvio and Marchetti, Ada each have a 2026 return")
        made = self.return_of("Marchetti, Ada", 2026)
        walk.go(f"/returns/{made}/carried")
        walk.sees("Filing status proposed: Single")
        self.assertEqual(walk.complaints(), [])

    def test_one_return_is_confirmed_by_key_and_as_a_whole(self):
        return_id = self.return_of("Wetherby-Low, Sorrel", 2025)
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/papers/{self.paper_of(return_id, 'w2')}")
        walk.sees("8 values rolled forward")
        field = walk.field("EIN")
        self.assertEqual(field.value_of_css_property("font-style"), "italic")
        field.click()
        field.send_keys(Keys.ALT, "y")
        walk.sees("7 values rolled forward")
        self.assertEqual(walk.field("EIN").value_of_css_property("font-style"), "normal")
        walk.key("Wages, tips, other compensation", "52000")
        walk.go(f"/returns/{return_id}/carried")
        walk.sees("Rolled forward from 2024", "Long-term loss carryover from prior year", "Sandbar Brokers")
        walk.find("form.acts button").click()
        walk.sees("values confirmed", "Nothing waits to be confirmed")
        walk.go(f"/returns/{return_id}/review?q=confirm")
        self.assertNotIn("Rolled forward and not confirmed", walk.text())
        walk.go(f"/returns/{return_id}/forms?at=us.capital-loss-carryover.13")
        walk.sees("Over years", "2023", "5,595", "11,763")
        self.assertEqual(walk.complaints(), [])

    def test_the_year_before_moves_and_is_taken_over(self):
        earlier, return_id = (self.return_of("Lindqvist, Arvid and Mira", year) for year in (2024, 2025))
        walk = self.walk()
        walk.sign_in("tilde")
        walk.go(f"/returns/{earlier}/papers/{self.paper_of(earlier, 'business')}")
        walk.key("Inventory at end of year", "16000")
        walk.go(f"/returns/{return_id}/papers")
        walk.sees("The 2024 return moved since this one was made from it")
        walk.press("Take over or leave")
        walk.sees("2024 says otherwise now", "Inventory at beginning of year", "16000")
        walk.press("Take over")
        walk.sees("taken over", "The year before")
        walk.go(f"/returns/{return_id}/papers/{self.paper_of(return_id, 'business')}")
        self.assertEqual(walk.field("Inventory at beginning of year").get_attribute("value"), "16,000.00")
        self.assertEqual(walk.complaints(), [])

    def test_an_accepted_return_is_amended_sent_and_acknowledged(self):
        """1,336 of wages came late: 156 of the IRS in the 12% band less credits that stay, 66 of Illinois."""
        walk = self.walk()
        walk.sign_in("sunniva")
        original = self.return_of("Okonjo-Reyes, Thea", 2024)
        stage = f"select stage from returns_return where id = {original}"
        walk.until(lambda: self.practice.sql(stage) == "deliver", 60)  # what the demo sent is answered in the background
        walk.go(f"/returns/{original}/sign")
        walk.press("Amend this return")
        walk.sees("Correction 1 of 2024", "No figure moves, so nothing is sent")
        made = self.return_of("Okonjo-Reyes, Thea", 2024, "amending")
        walk.go(f"/returns/{made}/papers/{self.paper_of(made, 'w2')}")
        walk.key("Wages, tips, other compensation", "37000")
        walk.sees("as filed 35,664.00")
        walk.press("Correction")
        walk.find("#paper textarea").send_keys("The employer corrected box 1 in August.")
        walk.key("Overpayment applied to next year", "0")
        walk.go(f"/returns/{made}/correction")
        walk.sees("The employer corrected box 1 in August.", "35,664.00", "37,000.00")
        walk.go(f"/returns/{made}/review")
        walk.press("First review done")
        walk.sees("Second review done")
        walk.go(f"/returns/{made}/sign")
        walk.press("Lock the return")
        walk.sees("sign here in the office")
        walk.sign_in_office(made)
        walk.go(f"/returns/{made}/sign")
        walk.press("E-file")
        walk.sees("Federal accepted", "Illinois accepted", seconds=60)
        sent = "select encode(document, 'escape') from authority_filing order by id desc limit 2"
        self.assertIn('kind="amended"', self.practice.sql(sent, "authority"))
        walk.press("Assemble the package")
        walk.sees("Deliver", seconds=60)
        walk.go(f"/returns/{original}/sign")
        walk.sees("Amend this return")  # once more, on top of the correction
        self.assertEqual(walk.complaints(), [])

    def test_a_landlord_goes_from_a_list_of_assets_to_filed_and_the_register_goes_on(self):
        """A boiler of 4,000 from a file: 20% of it this year, 32% the next, beside houses, a fence and a house that was sold."""
        walk = self.walk()
        walk.sign_in("sunniva")
        return_id = self.return_of("Ravenscar, Idris", 2025)
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "assets.csv")
            file.write_text(
                "Description,Kind,Placed in service,Cost or other basis,No special allowance\n"
                "Boiler,Appliances and furniture of a rental,3/14/2025,4000,yes\n"
            )
            walk.go(f"/returns/{return_id}/import?into=asset")
            walk.find("#file").send_keys(str(file))
            walk.press("Preview")
            walk.sees("Map each column")
            walk.press("Preview")
            walk.sees("Boiler", "4,000.00")
            walk.press("Import 1")
            walk.sees("1 imported", seconds=40)
        boiler = f"select id from returns_paper where of_id = {return_id} and values->>'description' = 'Boiler'"
        walk.go(f"/returns/{return_id}/papers/{self.practice.sql(boiler)}")
        walk.key("Used in", "3 Weir Lane")
        walk.go(f"/returns/{return_id}/assets")
        walk.sees("3 Weir Lane", "Boiler", "800", "18 Foundry Street", "40 Quarry Road")
        walk.go(f"/returns/{return_id}/forms?at=us.4797.7")
        walk.sees("4797 line 7")
        self.file(walk, return_id)
        walk.go("/next-year?year=2025&q=Ravenscar")
        walk.find('[aria-label="Choose all"]').click()
        walk.press("Roll forward those selected")
        walk.sees("1 of 1", seconds=40)
        after = self.return_of("Ravenscar, Idris", 2026)
        walk.go(f"/returns/{after}/assets")
        walk.sees("Boiler", "1,280")
        self.assertNotIn("40 Quarry Road", walk.text())
        self.assertEqual(walk.complaints(), [])

    def test_a_van_and_a_house_of_which_half_was_let_are_sold_and_filed(self):
        """The van: 30,000 in March 2023, 20% and 32%, half of 19.2% in the year of the sale: 11,520 left, sold for 12,500. The house:
        of 300,000 half was a home and its gain of 90,000 is left out; of the other half, 60,000, were 1,137 written off in 2016,
        1,818 in each of eight years and 682 in the year of the sale."""
        walk = self.walk()
        walk.sign_in("sunniva")
        return_id = self.return_of("Caddick, Rowan", 2025)
        walk.go(f"/returns/{return_id}/papers")
        self.asset(walk, "Van", ("Used in", "Schedule C"), ("Kind", "Truck"), ("Placed in service", "3/1/2023"),
                   ("Cost or other basis", "30000"), ("No special allowance", "yes"), ("Business use, percent", "100"),
                   ("Sold or retired on", "9/1/2025"), ("Sales price", "12500"))  # fmt: skip
        walk.add("Rental property or royalties")
        walk.until(lambda: walk.find("#paper h1").text == "Rental property or royalties")
        for label, value in (("Street address", "7 Ferry Row"), ("Type of property", "Multi"), ("State", "Illinois"), ("Active participation", "yes"),
                             ("Fair rental days", "120"), ("Rents received", "4200"), ("Taxes", "900"), ("Insurance", "310"),
                             ("Disposed of entirely this year", "yes")):  # fmt: skip
            walk.key(label, value)
        self.asset(walk, "House, half", ("Used in", "7 Ferry Row"), ("Kind", "Residential"), ("Placed in service", "5/15/2016"),
                   ("Cost or other basis", "120000"), ("Of it, land", "20000"), ("Business use, percent", "50"),
                   ("Sold or retired on", "5/1/2025"), ("Sales price", "300000"))  # fmt: skip
        walk.add("Sale of the main home")
        walk.until(lambda: walk.find("#paper h1").text == "Sale of the main home")
        for label, value in (("Address", "7 Ferry Row"), ("State", "Illinois"), ("Date acquired", "5/15/2016"), ("Date sold", "5/1/2025"),
                             ("Home's share of the building, percent", "50"), ("Selling price", "300000"),
                             ("Cost or other basis when acquired", "120000"), ("Months owned of the last 60", "60"),
                             ("Months used as main home, of the last 60", "60")):  # fmt: skip
            walk.key(label, value)
        walk.add("Section 1231 losses of earlier years")
        walk.settle()
        walk.go(f"/returns/{return_id}/forms?at=us.4797.7")
        walk.sees("4797 line 7 · 106,363")
        walk.go(f"/returns/{return_id}/forms?at=us.sch-1.4")
        walk.sees("Schedule 1 line 4 · 980")
        self.file(walk, return_id)
        self.assertEqual(walk.complaints(), [])

    def asset(self, walk, name, *values):
        walk.add("Asset")
        walk.until(lambda: walk.find("#paper h1").text == "Asset")
        walk.key("Description", name)
        for label, value in values:
            walk.key(label, value)

    def file(self, walk, return_id):
        """Reviewed, locked, signed in the office, e-filed and accepted, of a client in Illinois."""
        walk.go(f"/returns/{return_id}/review")
        walk.press("First review done")
        walk.sees("Second review done")
        walk.go(f"/returns/{return_id}/sign")
        walk.press("Lock the return")
        walk.sees("sign here in the office")
        walk.sign_in_office(return_id, verify=lambda: walk.record_identity("Driver", "Illinois", "6/30/2029"))
        walk.go(f"/returns/{return_id}/sign")
        walk.press("E-file")
        walk.sees("Federal accepted", "Illinois accepted", seconds=60)
