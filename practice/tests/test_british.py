"""The application with the British self assessment return: opened, entered, seen on every page, locked, signed, filed, printed."""

import io
from datetime import date
from unittest import mock

from django.test import override_settings
from pypdf import PdfReader

from practice.clients.identity import record_identity
from practice.clients.models import Person
from practice.delivery import packaging, printing, tasks
from practice.delivery.models import Printed
from practice.demo.building import build_firm
from practice.dispatch import filing, posting
from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.firm import dates
from practice.firm.models import Staff
from practice.intake.drawn import enclosed_in
from practice.returns import amending, computing, rolling
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.frozen import document_of
from practice.returns.models import Return, Stage
from practice.returns.opening import open_household, open_return
from practice.signing import requesting
from practice.signing.tasks import to_sign
from practice.tests.kept import KeptTestCase
from practice.tests.office import SIGNATURE, Reader
from practice.tests.test_another_country import AMERICAN, PAGES, nothing_american
from practice.whatif import keeping, working


@override_settings(PACK="uk", PACKS=["uk"])
class BritishPractice(KeptTestCase):
    """Isla Weir has a job, a little business, shares in an American fund, and sold some of them."""

    client_class = Reader

    def lay_out(self):
        super().lay_out()
        self.firm, _ = build_firm("a password for tests")
        self.firm.lock_needs, self.firm.season = [], 2025
        self.firm.save()
        self.preparer, self.signer, self.administrator = (
            Staff.objects.filter(firm=self.firm, role=role).first() for role in ("preparer", "signer", "administrator")
        )
        person = {"first_name": "Isla", "last_name": "Weir", "number": "AB123456C", "birth_date": date(1980, 6, 15)}
        household = open_household(self.preparer, "Weir", [person])
        self.person = household.people.get()
        self.return_ = open_return(self.preparer, household.pk, 2025, [(self.person.pk, "taxpayer")])
        papers = {(one.kind, one.key): one for one in self.return_.papers.all()}
        save_field(self.preparer, self.return_.pk, papers["person", "taxpayer"].pk, "reference", "1234567890", "")
        self.about = papers.get(("about", "about")) or add_paper(self.preparer, self.return_.pk, "about", "", {})[1]
        save_field(self.preparer, self.return_.pk, self.about.pk, "region", "england", "")
        self.add("employment", employer="Weir Looms", pay="60000.00", tax="11432.00")
        self.add("trade", description="Mending", turnover="4000.00", goods="1000.00")
        self.add(
            "foreign", payer="Heron Fund", country="USA", income_kind="dividends", amount="10000.00", tax="1500.00", claims="yes"
        )

    def setUp(self):
        computing.forget()
        working.forget()

    def add(self, kind, **values):
        return add_paper(self.preparer, self.return_.pk, kind, "taxpayer", values)[1]

    def fresh(self):
        return Return.objects.for_firm(self.firm).get(pk=self.return_.pk)

    def client_of(self, staff):
        self.client.force_login(staff)
        return self.client

    def sent_and_accepted(self, return_, authority):
        """Signed in the office, filed and accepted: the return as it is then."""
        requesting.ask_for_signature(self.signer, return_.pk)
        record_identity(self.administrator, self.person.pk, "known", "", "", "")
        requesting.sign_in_office(self.administrator, return_.pk, self.person.pk, authority, SIGNATURE, None, "41706")
        filing.file_return(self.signer, return_.pk)
        sent = return_.submissions.get()
        sent.state, sent.receipt = State.SENT, "H-1"
        sent.save()
        settle(sent.pk, Answer("accepted"))
        return Return.objects.for_firm(self.firm).get(pk=return_.pk)

    def packed(self, return_):
        """The state of the package that is made for the client."""
        package = packaging.make_package(self.signer, return_.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        return package.state


class BritishTests(BritishPractice):
    def test_it_is_due_on_the_31st_of_january_and_computed_in_pounds_and_pence(self):
        """Pay and profit of 63,000: 50,430 taxable, of which 12,730 at 40%; dividends of 9,500 at 33.75%, less 1,500 of credit."""
        self.assertEqual(self.return_.due, date(2027, 1, 31))  # a Sunday, which moves nothing
        found = result_of(self.fresh()).run
        self.assertEqual(str(found.form("uk.income-tax").tax), "14338.25")
        self.assertEqual([one.says for one in result_of(self.fresh()).findings if one.weight == "stops"], [])

    def test_days_are_read_and_written_with_the_day_first(self):
        person = self.return_.papers.get(kind="person")
        save_field(self.preparer, self.return_.pk, person.pk, "birth_date", "7/12/1981", "1980-06-15")
        self.assertEqual(self.fresh().papers.get(kind="person").values["birth_date"], "1981-12-07")
        shown = self.client_of(self.preparer).get(f"/returns/{self.return_.pk}/papers/{person.pk}").content.decode()
        self.assertIn('value="7/12/1981"', shown)
        self.assertEqual((dates.long(date(2027, 1, 31)), dates.short(date(2027, 1, 31))), ("31 January 2027", "31 Jan 2027"))
        self.client.force_login(self.signer)
        page = self.client.get(f"/returns/{self.return_.pk}/papers").content.decode()
        self.assertIn("2025-26 · England or Northern Ireland", page)
        self.assertIn("31 Jan", self.client.get(f"/households/{self.return_.household_id}").content.decode())

    def test_no_page_says_what_is_american(self):
        self.client.force_login(self.signer)
        nothing_american(
            self, ("", *(f"returns/{self.return_.pk}/{name}" for name in (*PAGES, "what-if", "what-if/choices")),
                   f"households/{self.return_.household_id}", "households/", "households/new", "dispatch"),
        )  # fmt: skip

    def test_the_whole_way(self):
        done = self.sent_and_accepted(self.return_, "uk")
        self.assertEqual(done.stage, Stage.DELIVER)
        self.assertIn(b'returnType="SA100"', document_of(done.snapshot, "uk"))
        self.assertEqual(self.packed(done), "ready")

    def test_the_computation_of_gains_goes_along_by_itself(self):
        """Two holdings: 600 of 1,000 shares that cost 4,000, sold for 9,100; a gain of 6,700 above the exempt amount."""
        self.add("shares", company="Loch plc", deals=[
            {"day": "2019-05-01", "what": "bought", "number": "1000", "amount": "4000.00"},
            {"day": "2025-09-10", "what": "sold", "number": "600", "amount": "9100.00"}])  # fmt: skip
        self.client.force_login(self.signer)
        page = self.client.get(f"/returns/{self.return_.pk}/sign/attachments")
        self.assertContains(page, "Capital gains computation")
        seen = self.client.get(f"/returns/{self.return_.pk}/sign/attachments/drawn/gains-computation")
        words = "".join(one.extract_text() for one in PdfReader(io.BytesIO(seen.content)).pages)
        for text in ("Loch plc", "10 September 2025", "2,400", "6,700", "24%", "3,700", "888"):
            self.assertIn(text, words)
        self.assertEqual(self.client.get(f"/returns/{self.return_.pk}/sign/attachments/drawn/nothing").status_code, 404)
        requesting.ask_for_signature(self.signer, self.return_.pk)
        ((name, content),) = enclosed_in(document_of(self.fresh().snapshot, "uk"))
        self.assertEqual((name, content[:4]), ("Capital gains computation", b"%PDF"))

    def test_on_paper_the_computation_is_printed_with_it(self):
        self.add("shares", company="Loch plc", deals=[
            {"day": "2019-05-01", "what": "bought", "number": "1000", "amount": "4000.00"},
            {"day": "2025-09-10", "what": "sold", "number": "600", "amount": "9100.00"}])  # fmt: skip
        requesting.ask_for_signature(self.signer, self.return_.pk)
        posting.choose(self.signer, self.return_.pk, "uk", {"way": "paper", "reason": "wish", "mail_to": "HMRC, BX9 1AS"})
        printed = Printed(firm=self.firm, of=self.fresh(), snapshot=self.fresh().snapshot, authority="uk")
        words = "".join(
            page.extract_text() for content in printing._on_paper(printed) for page in PdfReader(io.BytesIO(content)).pages
        )
        self.assertIn("Capital gains computation", words)
        self.assertIn("Losses carried forward", words)

    def test_what_is_signed_says_nothing_american(self):
        requesting.ask_for_signature(self.signer, self.return_.pk)
        sheet = PdfReader(io.BytesIO(to_sign(self.fresh().snapshot, "uk", self.person, "taxpayer")))
        words = " ".join("".join(page.extract_text() for page in sheet.pages).split())
        self.assertIsNone(AMERICAN.search(words), words)
        self.assertIn("may send the return for 2025-26 to HM Revenue & Customs for me", words)
        record_identity(self.administrator, self.person.pk, "known", "", "", "")
        self.client.force_login(self.administrator)
        page = self.client.get(f"/returns/{self.return_.pk}/sign/office/{self.person.pk}/uk")
        self.assertNotContains(page, "perjury")

    def test_a_statement_for_a_lender(self):
        """Income by source with the tax taken off, and what is charged: 14,338.25 of income tax on 73,000."""
        self.client.force_login(self.signer)
        self.assertContains(self.client.get(f"/returns/{self.return_.pk}/sign"), "Income and tax of the year")
        seen = self.client.get(f"/returns/{self.return_.pk}/sign/attachments/drawn/lender")
        words = "".join(one.extract_text() for one in PdfReader(io.BytesIO(seen.content)).pages)
        for text in ("Weir Looms", "60,000", "11,432", "Mending", "3,000", "Heron Fund, USA", "10,000", "73,000", "14,338.25"):
            self.assertIn(text, words)

    def test_amended_after_it_was_accepted(self):
        self.test_the_whole_way()
        made = amending.amend(self.preparer, self.return_.pk)
        add_paper(self.preparer, made.pk, "interest", "taxpayer", {"payer": "Tay Bank", "untaxed": "1500.00"})
        explained = made.papers.get(kind="amendment")
        save_field(self.preparer, made.pk, explained.pk, "explanation", "A statement came late.", "")
        self.assertEqual([one.says for one in result_of(made).findings if one.weight == "stops"], [])
        nothing_american(self, (f"returns/{made.pk}/papers", f"returns/{made.pk}/forms", f"returns/{made.pk}/correction"))
        requesting.ask_for_signature(self.signer, made.pk)
        requesting.sign_in_office(self.administrator, made.pk, self.person.pk, "uk", SIGNATURE, None, "41706")
        filing.file_return(self.signer, made.pk)
        sent = made.submissions.get()
        sent.state, sent.receipt = State.SENT, "H-2"
        sent.save()
        settle(sent.pk, Answer("accepted"))
        made.refresh_from_db()
        self.assertEqual(made.stage, Stage.DELIVER)

    def test_planned_and_rolled(self):
        column = keeping.add(self.preparer, self.return_.pk, "More work")
        rows = keeping.columns_of(self.return_)
        self.assertIsNotNone(working.results(self.fresh(), rows)[column.key].result)
        self.assertEqual(Person.objects.for_firm(self.firm).count(), 1)
        with self.assertRaisesRegex(rolling.NotRolled, "The law of 2026"), mock.patch.object(rolling, "LEAVE", "leave"):
            rolling.roll(self.preparer, self.return_.pk)
