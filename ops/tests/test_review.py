"""Reviewers at work, in a browser: initials and their lapse, silencing, the checklist of a family, mends, advice."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from ops.tests.running import RunningTestCase, Walk

FAMILY = "Quist, Marlow and Odile"


class ReviewTests(RunningTestCase):
    def return_of(self, household: str, year: int = 2025) -> int:
        wanted = (
            f"select r.id from returns_return r join clients_household h on h.id = r.household_id where h.name = '{household}'"
        )
        return int(self.practice.sql(f"{wanted} and r.year = {year}"))

    def paper_of(self, return_id: int, kind: str, place: int = 0) -> int:
        wanted = (
            f"select id from returns_paper where of_id = {return_id} and kind = '{kind}' and removed_at is null order by position"
        )
        return int(self.practice.sql(wanted).split()[place])

    def initial(self, walk: Walk, return_id: int, address: str) -> None:
        walk.go(f"/returns/{return_id}/forms?at={address}")
        walk.press("initial it (Alt M)")
        walk.sees("undo")

    def test_initials_of_two_reviewers_lapse_when_a_source_moves(self):
        return_id = self.return_of("Halloran-Voss, Ione and Perrin")
        for who in ("rafe", "sunniva"):
            walk = self.walk()
            walk.sign_in(who)
            self.initial(walk, return_id, "us.1040.1a")
            walk.go(f"/returns/{return_id}/review")
            walk.sees("Reviewed")
        self.assertIn("second reviewer\n1 of", walk.text())
        preparer = self.walk()
        preparer.sign_in("bea")
        preparer.go(f"/returns/{return_id}/papers/{self.paper_of(return_id, 'w2')}")
        preparer.key("Wages, tips, other compensation", "70001")
        walk.go(f"/returns/{return_id}/review")
        walk.sees("lapsed: was", "first reviewer\n0 of", "second reviewer\n0 of")
        walk.press("Since my initials")
        walk.sees("Initials that lapsed", "Lines that moved", "70,001")
        self.assertEqual(walk.complaints(), [])

    def test_silenced_for_the_practice_and_what_stops_refuses(self):
        return_id = self.return_of(FAMILY)
        reviewer, signer = self.walk(), self.walk()
        reviewer.sign_in("rafe")
        reviewer.go("/practice/diagnostics?q=turned+17")
        reviewer.sees("Child turned 17")
        self.assertFalse(reviewer.driver.find_elements(By.XPATH, "//summary[.='suppress']"))  # not a reviewer's to decide
        signer.sign_in("sunniva")
        signer.go(f"/returns/{return_id}/review?q=us.care.not-asked")
        signer.sees("Ask about day care")
        signer.find(".found details.seen summary").click()
        signer.find(".found details.seen[open] button[name=firm]").click()
        signer.sees("Enter a reason")
        signer.find(".found details.seen[open] [name=reason]").send_keys("We ask it in the interview")
        signer.find(".found details.seen[open] button[name=firm]").click()
        signer.sees("Suppressed for the whole practice", "We ask it in the interview")
        signer.go("/practice/diagnostics?weight=silenced")
        signer.sees("us.care.not-asked")
        signer.press("show again")
        signer.sees("0 suppressed for the practice")
        signer.go("/practice/diagnostics?q=us.diligence.missing")
        signer.sees("always")
        self.assertFalse(signer.driver.find_elements(By.XPATH, "//summary[.='suppress']"))
        token = signer.driver.get_cookie("csrftoken")["value"]
        refused = signer.driver.execute_async_script(
            "const done = arguments[1]; fetch('/practice/diagnostics/silence', {method: 'POST', body: new URLSearchParams("
            "{code: 'us.diligence.missing', reason: 'x', csrfmiddlewaretoken: arguments[0]})})"
            ".then(async answer => done([answer.status, await answer.text()]))", token,
        )  # fmt: skip
        self.assertEqual(refused[0], 422)
        self.assertIn("cannot be suppressed", refused[1])

    def test_the_checklist_is_answered_for_two_children(self):
        return_id = self.return_of(FAMILY)
        walk = self.walk()
        walk.sign_in("bea")
        url = f"/returns/{return_id}/review/diligence"
        walk.go(url)
        walk.press("Open all questions")
        walk.sees("For all of them")
        walk.find(".record [name=asked]").send_keys("Marlow Quist")
        walk.find(".record [name=asked_on]").send_keys("2/3/2026")
        walk.find(".record [name=manner]").send_keys("In person")
        walk.press("enter it on each")
        walk.sees("open")
        self.answer_all(walk)
        walk.go(url)
        walk.until(lambda: walk.text().count("all answered") == 3)
        walk.go(f"/returns/{return_id}/review")
        said = walk.text().lower().split("recent changes")[0]
        for open_still in ("is empty. ask the client", "have not been asked", "due diligence is required"):
            self.assertNotIn(open_still, said)

    def answer_all(self, walk: Walk) -> None:
        """Every question, one after the other; those that look for contradictions are answered no."""
        every = "[...document.querySelectorAll('main .f.flag input[name=value]')].map((one) => [one.id, one.ariaLabel])"
        questions = walk.until(lambda: walk.driver.execute_script(f"return {every}"))  # in one go: the page may be drawn anew
        self.assertGreater(len(questions), 10)
        for place, label in questions:
            field = walk.find(f"#{place}")
            self.assertEqual(field.get_attribute("value"), "", f"{label} was answered in advance")
            field.send_keys("n" if label.startswith(("Any information appeared", "Credit disallowed")) else "y", Keys.TAB)
            walk.settle()

    def test_a_mend_is_seen_before_it_is_made_and_taken_back(self):
        return_id = self.return_of(FAMILY)
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/review?q=retirement+plan")
        walk.press("Mark the retirement plan")
        walk.sees("Lines it would change", "Diagnostics this resolves")
        self.assertEqual(self.marked(return_id), "")
        walk.press("Apply")
        walk.sees("Done: Mark the retirement plan")
        self.assertEqual(self.marked(return_id), "yes")
        walk.press("undo it")
        walk.sees("Undone")
        self.assertEqual(self.marked(return_id), "")

    def marked(self, return_id: int) -> str:
        paper = self.paper_of(return_id, "w2")
        return self.practice.sql(f"select coalesce(values->>'retirement_plan', '') from returns_paper where id = {paper}")

    def test_advice_is_switched_on_and_off_and_last_year_is_explained(self):
        return_id = self.return_of(FAMILY)
        walk = self.walk()
        walk.sign_in("bea")
        walk.go(f"/returns/{return_id}/review/last-year?from=0")
        walk.sees("River Bend Savings moved", "Papers")
        walk.go(f"/returns/{return_id}/advice")
        walk.sees("An IRA for Marlow")
        walk.press("■ on")
        walk.sees("□ off")
        walk.click(By.CSS_SELECTOR, "a.btn")
        walk.sees("What you can do", "An IRA for Odile")
        self.assertNotIn("An IRA for Marlow", walk.text())

    def test_the_practices_answer_is_shown_as_such_and_overridden(self):
        return_id = self.return_of("Halloran-Voss, Ione and Perrin")
        walk = self.walk()
        walk.sign_in("sunniva")
        walk.go("/practice/answers")
        walk.find('[aria-label="Prepare vouchers"]').send_keys("no")
        walk.find('form:has([aria-label="Prepare vouchers"]) button').click()
        walk.sees("Saved.")
        walk.go(f"/returns/{return_id}/review?q=vouchers")
        walk.sees("No matches")
        walk.go("/practice/answers")
        walk.find('[aria-label="Prepare vouchers"]').send_keys("asked")
        walk.find('form:has([aria-label="Prepare vouchers"]) button').click()
        walk.sees("Saved.")
