"""The whole story in a real browser: a client's return from nothing to the delivered package, and the two ways it goes wrong."""

import re
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from ops.tests.accessing import faults
from ops.tests.running import RunningTestCase, Walk
from taxcore.packs.us.questions import QUESTIONS

_NO = len(QUESTIONS) - 2  # of all that is asked: one is answered with yes, one with not sure
_SAY_NO = """
const done = arguments[arguments.length - 1];
const open = [...document.querySelectorAll("form.ask-one")].filter((one) => !one.querySelector("[aria-pressed=true]"));
const says = open.map((one) => { const body = new FormData(one); body.set("said", "no"); return () => fetch(one.action, {method: "POST", body, headers: {"HX-Request": "true"}}); });
says.reduce((before, say) => before.then(say), Promise.resolve()).then(() => done());
"""
LINK = re.compile(r"(http://\S+/portal/enter/\S+)")


class StoryTests(RunningTestCase):
    def return_of(self, name: str) -> int:
        query = f"select r.id from returns_return r join clients_household h on h.id = r.household_id where h.name like '{name}%' order by r.id limit 1"
        return int(self.practice.sql(query))

    def newest(self, walk: Walk, to: str, words: str) -> str:
        def found():
            mails = [mail["text"] for mail in self.practice.mails() if mail["to"] == to and words in mail["text"]]
            return mails[-1] if mails else False

        return walk.until(found, 30)

    def enter_portal(self, walk: Walk, mail: str, words: str = "sign here") -> None:
        codes = [m for m in self.practice.mails() if m["to"] == mail and "Your code" in m["text"]]
        walk.go(LINK.search(self.newest(walk, mail, words))[1])
        walk.press("Send me a code")
        new = walk.until(
            lambda: [m for m in self.practice.mails() if m["to"] == mail and "Your code" in m["text"]][len(codes) :], 30
        )
        walk.find("[name=code]").send_keys(re.search(r"\d{6}", new[-1]["text"])[0])
        walk.press("Continue")
        walk.sees("tax return")

    def add_client(self, staff: Walk, **values: str) -> None:
        staff.go("/households/new")
        for name, value in values.items():
            staff.find(f"[name={name}]").send_keys(value)
        staff.find("[name=state]").send_keys("Illinois")
        staff.press("Add")
        staff.sees("Add a paper")

    def record_identity(self, walk: Walk) -> None:
        """First too little, which is said at its field with nothing lost; then all of it."""
        walk.find("[name=document]").send_keys("Driver")
        walk.find("[name=issued_by]").send_keys("Illinois")
        walk.find("[name=expires]").send_keys("6/30/2029")
        walk.press("Record it")
        walk.sees("last 2 to 4 characters")
        self.assertEqual(walk.find("[name=issued_by]").get_attribute("value"), "Illinois")
        walk.find("[name=ending]").send_keys("4417")
        walk.press("Record it")
        walk.sees("ends 4417")

    def test_accepted_from_new_client_to_download(self):
        staff = self.walk()
        staff.sign_in_by_hand("sunniva")
        # A client of one's own, and an employer of one's own, whom no register has met
        self.add_client(
            staff, first_name="Posy", last_name="Nettle-Béland", number="955-12-7788", birth_date="May 19, 1983",
            email="new.client@mail.example", street="41 Cattail Road", city="Galena", zip="61036",
        )  # fmt: skip
        # Status and questions, with the keyboard
        staff.press("Filing status and information")
        staff.key("State of residence, full year", "IL")
        staff.key("Received or disposed of digital assets", "No")
        # The command line adds a wage statement
        staff.find("h1").click()
        staff.driver.switch_to.active_element.send_keys("/")
        staff.sees("Add: Wage statement")
        staff.driver.switch_to.active_element.send_keys("wage st")
        staff.sees("W-2")
        staff.settle()
        staff.driver.switch_to.active_element.send_keys(Keys.ENTER)
        staff.sees("Wage statement, W-2")
        for label, value in {
            "Employer": "Cattail Weir Works", "EIN": "006543210", "Street address": "4 Slipway", "City": "Savanna",
            "ZIP code": "61074", "Wages, tips, other compensation": "5000*12+1480", "Federal income tax withheld": "5,812",
        }.items():  # fmt: skip
            staff.key(label, value)
        # Boxes 3 to 6 follow, the ripple tells what moved, the bottom line shows it
        self.assertEqual(staff.field("Social Security wages").get_attribute("placeholder"), "= 61,480.00")
        staff.sees("federal income tax withheld, entered: 5,812.00", "Total federal income tax withheld", "563")
        staff.key("State", "IL")
        review = staff.find("#bottom").text
        self.assertIn("nothing stops filing", review)
        # A figure traced from the bottom line to its paper and corrected there
        return_id = int(re.search(r"/returns/(\d+)/", staff.driver.current_url)[1])
        staff.go(f"/returns/{return_id}/forms?at=us.1040.25a")
        staff.sees("1040 line 25a · 5,812", "Cattail Weir Works")
        staff.key("Federal income tax withheld", "5830", "#lineage")
        staff.sees("1040 line 25a · 5,830", "581")
        # Review, as the practice wants it before the return is locked
        staff.go(f"/returns/{return_id}/sign")
        staff.sees("The first review is not done yet.")
        staff.go(f"/returns/{return_id}/review")
        staff.press("First review done")
        staff.sees("First review by Sunniva Holt")
        # Signature by the client
        staff.go(f"/returns/{return_id}/sign")
        staff.press("Request e-signatures")
        staff.sees("Links are being emailed")
        client = self.walk(390, 844)
        self.enter_portal(client, "new.client@mail.example")
        client.sees("Federal: you will receive", "581")
        client.press("Review your return")
        client.sees("Every form, with the official line numbers", "Total income", "61,480")
        client.press("I have examined it: continue to sign")
        client.sees("Verify your identity")
        self.answer(client, {"street": "Heron Street", "month": "May", "year": "1983"})
        client.sees("Some answers do not match")
        self.answer(client, {"street": "Cattail Road", "month": "May", "year": "1983"})
        for authority in ("Federal", "Illinois"):
            client.sees(f"Sign your {authority} return", "Under penalties of perjury")
            client.find("[name=pin]").send_keys("41706")
            client.press("Sign")
            client.sees("The signature is empty")
            client.draw()
            client.press("Sign")
        client.sees("We will file the return next")
        # Filing: federal first, then the state; then the package
        staff.go(f"/returns/{return_id}/sign")
        staff.press("E-file")
        staff.sees("documents are on their way")
        staff.until(lambda: staff.text().count("accepted ·") == 2, 60)
        staff.go(f"/returns/{return_id}/sign")
        staff.press("Assemble the package")
        staff.sees("pages, assembled", seconds=60)
        staff.press("Deliver")
        staff.sees("The package is in the portal")
        self.enter_portal(client, "new.client@mail.example", "was accepted")
        client.press("Download")
        staff.until(lambda: self.practice.sql("select count(*) from delivery_download") == "1")
        staff.go(f"/returns/{return_id}/sign")
        staff.sees("Posy Nettle-Béland downloaded it")
        self.assertEqual(staff.complaints() + client.complaints(), [])

    def test_asked_answered_on_a_phone_and_accepted_beside_it(self):
        mail = "asked.client@mail.example"
        staff, client = self.walk(), self.walk(390, 844)
        staff.sign_in("bea")
        self.add_client(
            staff, first_name="Bram", last_name="Osterlund", number="955-12-7799", birth_date="May 3, 1990", email=mail,
            street="43 Cattail Road", city="Galena", zip="61036",
        )  # fmt: skip
        return_id = self.return_of("Osterlund")
        staff.go(f"/returns/{return_id}/requests")
        staff.press("Start a request")
        staff.sees("A draft: the client has not seen it", "Did you move in 2025?")
        staff.find('[aria-label="Another item"]').send_keys("The closing statement of the house")
        staff.find("form.answer button").click()
        staff.sees("The closing statement of the house")
        staff.press("Send to Bram Osterlund")
        staff.sees("Sent to Bram Osterlund")
        # The client, on a phone
        self.enter_portal(client, mail, "We need a few things")
        self.stands_on_a_phone(client)
        client.press("See and send")
        client.sees("0 of ", "The closing statement of the house")
        self.stands_on_a_phone(client)
        item = client.find("//section[h2='The closing statement of the house']", By.XPATH)
        item.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(self.photo()))
        item.find_element(By.CSS_SELECTOR, "form button").click()
        client.sees("closing.png: received")
        client.find('textarea[aria-label="Answer to Did you move in 2025?"]').send_keys("Yes, to Savanna <on May 3>")
        client.find("//section[h2='Did you move in 2025?']//button[normalize-space()='Answer']", By.XPATH).click()
        client.sees("“Yes, to Savanna <on May 3>”", "2 of ")
        self.answers_the_questionnaire(client)
        # The office beside it
        staff.go("/requests")
        staff.sees("Osterlund, Bram")
        staff.go(f"/returns/{return_id}/requests")
        staff.sees("closing.png", "Yes, to Savanna <on May 3>")
        staff.press("accept")
        staff.sees("■ accepted")
        staff.press(f"1 yes, {_NO} no, 1 not sure")
        staff.sees("Was anyone employed during the year?", "Two jobs")
        staff.press(f"Take over {_NO} no")
        staff.sees(f"{_NO} answers taken over")
        staff.find("[name=n-w2]").clear()
        staff.find("[name=n-w2]").send_keys("2")
        staff.press("take over")
        staff.until(lambda: not staff.driver.find_elements(By.NAME, "n-w2"))  # others have initials already: they say nothing
        staff.go(f"/returns/{return_id}/papers")
        staff.sees("Wage statement")
        staff.go(f"/returns/{return_id}/requests")
        # A letter, read and signed
        staff.driver.execute_script("document.querySelector('input[name=kind][value=engagement]').checked = true")
        staff.press("Send to sign")
        staff.sees("1 sent")
        self.enter_portal(client, mail, "a letter")
        client.press("Engagement letter")
        client.sees("Sign here with your finger or mouse", "Dear Bram Osterlund")
        self.stands_on_a_phone(client)
        client.press("Sign")
        client.sees("The signature is empty")
        client.draw()
        client.press("Sign")
        client.sees("Engagement letter, signed")
        # And a word, both ways
        client.press("Write to the office")
        client.find("textarea[name=words]").send_keys("Is June 1 early enough?")
        self.stands_on_a_phone(client)
        client.press("Send")
        client.sees("Is June 1 early enough?")
        staff.go(f"/returns/{return_id}/requests")
        staff.sees("Is June 1 early enough?", "■ signed")
        staff.find('textarea[aria-label="Message to the client"]').send_keys("Yes.")
        staff.find("form.write button").click()
        staff.sees("not read yet")
        self.invoiced_and_paid(staff, client, return_id, mail)
        self.assertEqual(staff.complaints() + client.complaints(), [])

    def answers_the_questionnaire(self, client: Walk) -> None:
        """A tap an answer; the first with a word, the last not sure."""
        client.click(By.CSS_SELECTOR, "a.btn.go[href*='/portal/questions/']")
        client.sees("Was anyone employed during the year?")
        self.stands_on_a_phone(client)
        keys = [form.get_attribute("id") for form in client.driver.find_elements(By.CSS_SELECTOR, "form.ask-one")]
        for key, said in ((keys[0], "no"), ("q-wages", "yes"), (keys[-1], "unsure")):
            client.click(By.CSS_SELECTOR, f"#{key} button[value={said}]")
            client.find(f"#{key} button[value={said}][aria-pressed=true]")
        client.driver.execute_async_script(_SAY_NO)
        client.find("#q-wages [name=words]").send_keys("Two jobs")
        client.click(By.CSS_SELECTOR, "#q-wages [name=words] ~ button")
        client.settle()
        client.press("I am done")
        client.sees(f"1 yes, {_NO} no, 1 not sure")

    def invoiced_and_paid(self, staff: Walk, client: Walk, return_id: int, mail: str) -> None:
        """From the price list to the payment service and back; a declined card first."""
        staff.go(f"/returns/{return_id}/invoice")
        staff.press("Draft an invoice")
        staff.sees("Individual return", "340.00")
        staff.press("Send to Bram Osterlund")
        staff.sees("sent to Bram Osterlund")
        self.enter_portal(client, mail, "an invoice")
        for card, says in (
            ("4000 0000 0000 0002", "The card was declined"),
            ("4000 0000 0000 0010", "Your payment was received"),
        ):
            client.go("/portal/")
            client.click(By.PARTIAL_LINK_TEXT, "Invoice 2026-")
            client.click(By.CSS_SELECTOR, "form button.go")
            self.stands_on_a_phone(client)
            client.press("Continue to the payment service")
            client.find("[name=card]").send_keys(card)
            client.press("Pay")
            client.sees(says)
        client.sees("■ Paid. Thank you.")
        self.stands_on_a_phone(client)
        staff.go(f"/returns/{return_id}/invoice")
        staff.sees("online PS-", "PDF")

    def photo(self) -> Path:
        from PIL import Image

        path = self.practice.data / "closing.png"
        Image.new("RGB", (900, 600), "white").save(path)
        return path

    def stands_on_a_phone(self, client: Walk) -> None:
        """Nothing beside the screen, light, and axe finds nothing."""
        self.assertLessEqual(client.driver.execute_script("return document.documentElement.scrollWidth - innerWidth"), 0)
        self.assertLess(len(client.driver.page_source), 150_000)
        self.assertEqual(faults(client), [])

    def answer(self, client: Walk, answers: dict[str, str]) -> None:
        for question, option in answers.items():
            client.find(f'[name="q-{question}"][value="{option}"]').click()
        client.press("Answer")

    def test_rejected_mended_and_sent_again(self):
        return_id = self.return_of("Fennimore")
        staff = self.walk()
        staff.sign_in("sunniva")
        staff.go("/dispatch")
        staff.sees("P-0201", seconds=60)
        # The number on the card turns out to be another one
        staff.press("Fix it")
        staff.sees("Social Security number")
        staff.until(lambda: staff.driver.switch_to.active_element.get_attribute("aria-label") == "Social Security number")
        staff.key("Social Security number", "945080001")
        self.assertEqual(staff.field("Social Security number").get_attribute("placeholder"), "•••-••-0001")
        staff.go(f"/returns/{return_id}/sign")
        # The corrected number moved no signed figure: the signatures stand, and what was corrected is shown
        staff.press("Lock the return")
        staff.sees("Corrected since signing", "so the signatures stand")
        staff.press("E-file again")
        staff.until(lambda: staff.text().count("accepted ·") == 2, 60)
        staff.go("/dispatch?q=Fennimore")
        staff.sees("sent again since")
        self.assertEqual(staff.complaints(), [])

    def test_changed_after_signing_needs_a_new_signature(self):
        return_id = self.return_of("Pilcrow")
        staff = self.walk()
        staff.sign_in("sunniva")
        staff.go(f"/returns/{return_id}/sign")
        staff.sees("Ines Pilcrow", "in the office")
        staff.go(f"/returns/{return_id}/papers")
        staff.key("Federal income tax withheld", "3300")
        staff.go(f"/returns/{return_id}/sign")
        staff.sees("The return was changed after it was signed", "review lapsed: a figure moved since")
        staff.go(f"/returns/{return_id}/review")
        staff.press("First review done")
        staff.sees("First review by Sunniva Holt")
        staff.go(f"/returns/{return_id}/sign")
        self.assertNotIn("File", [b.text for b in staff.driver.find_elements("css selector", "button.go")])
        # The clients get new links, and sign the new figures
        staff.press("Request e-signatures")
        staff.sees("Links are being emailed")
        staff.sign_in_office(
            return_id, 3, lambda: self.record_identity(staff)
        )  # the state's figures did not move: one signature for it stands
        staff.go(f"/returns/{return_id}/sign")
        staff.press("E-file")
        staff.until(lambda: staff.text().count("accepted ·") == 2, 60)
        self.assertEqual(staff.complaints(), [])

    def test_two_people_in_one_return_see_each_other_and_never_overwrite(self):
        return_id = self.return_of("Quist")
        bea, tilde = self.walk(), self.walk()
        bea.sign_in("bea")
        tilde.sign_in("tilde")
        for walk in (bea, tilde):
            walk.go(f"/returns/{return_id}/papers")
        bea.go(f"/returns/{return_id}/papers")
        self.assertIn("TM", bea.find("#presence").text)
        bea.key("Federal income tax withheld", "5300")
        tilde.key("Federal income tax withheld", "5400")
        tilde.sees("Bea Thorne entered 5,300.00", "you entered 5400")
        self.assertEqual(
            self.practice.sql(f"select values->>'federal_withheld' from returns_paper where of_id={return_id} and key='w1'"),
            "5300.00",
        )
