"""Returns that correct an accepted one: made, changed, sent, accepted; once more; given up; late; and what follows from them."""

import io
from datetime import date
from decimal import Decimal
from unittest import mock

from pypdf import PdfReader

from practice.delivery import packaging, tasks
from practice.dispatch import filing
from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.firm.models import Firm
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.intake.attaching import attach
from practice.returns import amending, rolling, taking_over
from practice.returns.changing import Settled
from practice.returns.computing import data_of, result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.frozen import document_of, drawn_of
from practice.returns.last_year import last_year
from practice.returns.models import Paper, Return, Stage, counted
from practice.review.notices import notices_of
from practice.signing import requesting
from practice.tests.office import SIGNATURE, OfficeTestCase
from practice.us import extending
from taxcore.engine import figures
from taxcore.engine.amending import reworded

INTEREST = {"payer": "Bank of Galena", "interest": "900.00"}
LATER = date(2026, 9, 1)


class Amending(OfficeTestCase):
    def day(self, day):
        """The practice's day from now on."""
        self.enterContext(mock.patch.object(Firm, "today", lambda firm: day))

    def file(self, return_):
        """Signed in the office, sent, accepted everywhere."""
        requesting.ask_for_signature(self.signer, return_.pk)
        return_.refresh_from_db()
        for line in return_.snapshot.bottom_lines:
            requesting.sign_in_office(
                self.administrator, return_.pk, self.client_person.pk, line["code"], SIGNATURE, None, "41706"
            )
        filing.file_return(self.signer, return_.pk)
        while sent := return_.submissions.filter(state=State.QUEUED).first():
            sent.state, sent.receipt = State.SENT, f"R-{sent.pk}"
            sent.save()
            settle(sent.pk, Answer("accepted"))
        return_.refresh_from_db()
        return return_

    def filed(self):
        return self.file(self.again())

    def corrected(self, day=LATER):
        """The accepted return's correction with 900 of interest that came late, explained."""
        self.filed()
        self.day(day)
        return self.with_interest(amending.amend(self.preparer, self.return_.pk))

    def with_interest(self, made, payer="Bank of Galena"):
        add_paper(self.preparer, made.pk, "1099-int", "taxpayer", INTEREST | {"payer": payer})
        explanation = made.papers.get(kind="amendment")
        save_field(self.preparer, made.pk, explanation.pk, "explanation", "A bank's statement came in August.", "")
        made.refresh_from_db()
        return made

    def stopping(self, return_):
        return [one.code for one in result_of(return_).findings if one.weight == "stops"]


class MakingTests(Amending):
    def test_only_of_what_was_accepted(self):
        with self.assertRaisesRegex(amending.NotAmended, "Only an accepted return"):
            amending.amend(self.preparer, self.return_.pk)

    def test_with_the_same_papers_and_the_figures_as_filed(self):
        self.filed()
        self.day(LATER)
        made = amending.amend(self.preparer, self.return_.pk)
        self.assertEqual((made.purpose, made.year, made.stage), ("amending", 2025, Stage.PREPARE))
        here, there = ({(one.kind, one.key): one.values for one in each.papers.all()} for each in (made, self.return_))
        self.assertEqual(set(here) - set(there), {("amendment", "amendment")})
        self.assertEqual({key: here[key] for key in there}, there)
        amends = data_of(made).amends
        self.assertEqual(amends.filed["us"].lines["us.1040.24"], Decimal(5249))
        self.assertEqual(self.stopping(made), ["us.amendment.explanation-missing", "us.amendment.nothing-moved"])

    def test_twice_is_the_same_one(self):
        self.filed()
        first, second = (amending.amend(self.preparer, self.return_.pk) for _ in range(2))
        self.assertEqual(first, second)

    def test_it_is_work_of_the_practice_and_the_original_stays_closed(self):
        made = self.corrected()
        self.assertEqual(set(counted(Return.objects.for_firm(self.firm))), {made, self.return_})
        with self.assertRaisesRegex(Settled, "belong in an amended return"):
            self.key("wages", "1", "61480.00")

    def test_what_was_owed_is_proposed_as_paid_and_waits_to_be_confirmed(self):
        self.key("federal_withheld", "5000", "5812.00")
        made = self.corrected()
        row = made.papers.get(kind="amendment").values["settled"][0]
        self.assertEqual((row["authority"], row["paid"]), ("US", "249"))
        self.assertIn("us.unconfirmed-tax", self.stopping(made))

    def test_pages_come_along(self):
        attach(self.preparer, self.return_.pk, self.paper.pk, "w2.png", PNG)
        self.return_.attachments.update(state="ready", pages=1)
        made = self.corrected()
        self.assertEqual([one.paper.kind for one in made.attachments.all()], ["w2"])
        self.assertEqual(made.papers.get(kind="w2").attached, self.again().papers.get(kind="w2").attached)

    def test_permission_and_firm(self):
        self.filed()
        with self.assertRaises(Refused):
            amending.amend(self.reviewer, self.return_.pk)
        with self.assertRaises(NotOfThisFirm):
            amending.amend(self.stranger, self.return_.pk)

    def test_no_more_time_is_asked_for_it(self):
        with self.assertRaisesRegex(extending.CannotExtend, "corrects one that was filed"):
            extending.ask(self.preparer, self.corrected().pk)


class SendingTests(Amending):
    def test_accepted_after_its_original_and_said_in_words_and_numbers(self):
        """900 more are taxed in the 12% band: 108 of the IRS; 4.95% or 45 of Illinois."""
        made = self.file(self.corrected())
        self.assertEqual(made.stage, Stage.DELIVER)
        frozen = drawn_of(made.snapshot)
        self.assertEqual({line.code: line.amount for line in frozen.bottom_lines}, {"us": -108, "us-il": -45})
        self.assertEqual([(one.paper, one.label) for one in frozen.correction.entries], [("Bank of Galena", "")])
        document = document_of(made.snapshot, "us")
        self.assertIn(b'<Amends kind="amended" receipt="R-', document)
        self.assertIn(b'<AmendedReturn number="1040-X">', document)
        package = packaging.make_package(self.signer, made.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        text = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(tasks.read_package(package))).pages)
        for wanted in ("amended", "What changed", "A bank's statement came in August.", "1040-X", "Bank of Galena"):
            self.assertIn(wanted, text.replace("’", "'"))

    def test_dispatch_says_that_it_is_one(self):
        self.file(self.corrected())
        self.client.force_login(self.signer)
        self.assertContains(self.client.get("/dispatch"), "2025 amended")
        self.assertIn(b"amended return", b"".join(self.client.get("/dispatch?as=csv").streaming_content))

    def test_a_second_correction_stands_on_the_first(self):
        first = self.file(self.corrected())
        second = self.with_interest(amending.amend(self.preparer, self.return_.pk), "Bank of Savanna")
        self.assertEqual(second.origin.source, first)
        self.assertEqual(second.origin.amends["number"], 2)
        lines = data_of(second).amends.filed["us"].lines
        self.assertEqual(lines["us.1040.24"], Decimal(5249 + 108))
        self.assertEqual(self.file(second).stage, Stage.DELIVER)

    def test_signatures_stand_under_the_figures_of_the_correction(self):
        made = self.corrected()
        requesting.ask_for_signature(self.signer, made.pk)
        made.refresh_from_db()
        line = drawn_of(made.snapshot).bottom_line("us")
        self.assertEqual({one.number: one.amount for one in line.stated}["20"], Decimal(108))
        self.assertEqual(line.form, "1040-X")

    def test_where_nothing_moves_nothing_is_sent(self):
        """Only Illinois' withholding was wrong."""
        self.filed()
        self.day(LATER)
        made = amending.amend(self.preparer, self.return_.pk)
        wages = made.papers.get(kind="w2")
        row = wages.values["states"][0]["id"]
        save_field(self.preparer, made.pk, wages.pk, f"states.{row}.withheld", "3100", "3043.26")
        explanation = made.papers.get(kind="amendment")
        save_field(self.preparer, made.pk, explanation.pk, "explanation", "Box 17 was read wrong.", "")
        made = self.file(Return.objects.for_firm(self.firm).get(pk=made.pk))
        self.assertEqual([one.authority for one in made.submissions.all()], ["us-il"])
        entry = next(iter(reworded(result_of(made).run)))
        self.assertEqual((entry.before, entry.after), ("3,043.26", "3,100.00"))


class SupersedingTests(Amending):
    def test_before_the_due_date_it_takes_the_place_of_what_was_filed(self):
        made = self.file(self.corrected(date(2026, 3, 20)))
        self.assertIn(b'<Amends kind="superseding"', document_of(made.snapshot, "us"))
        self.assertNotIn("1040-X", {form.title for form in drawn_of(made.snapshot).forms})

    def test_late_it_becomes_an_amended_return(self):
        made = self.corrected(date(2026, 3, 20))
        requesting.ask_for_signature(self.signer, made.pk)
        for code in ("us", "us-il"):
            requesting.sign_in_office(self.administrator, made.pk, self.client_person.pk, code, SIGNATURE, None, "41706")
        self.day(LATER)
        with self.assertRaisesRegex(filing.CannotFile, "due date has passed"):
            filing.file_return(self.signer, made.pk)
        amending.no_longer_superseding(self.preparer, made.pk)
        made.refresh_from_db()
        self.assertIsNone(made.snapshot_id)
        self.assertIn("us.1040-x", {form.code() for form in result_of(Return.objects.for_firm(self.firm).get(pk=made.pk)).forms})


class GivingUpTests(Amending):
    def test_what_was_filed_stands_and_another_can_be_made(self):
        made = self.corrected()
        amending.give_up(self.preparer, made.pk)
        with self.assertRaisesRegex(Settled, "given up"):
            save_field(self.preparer, made.pk, made.papers.get(kind="w2").pk, "wages", "1", "61480.00")
        self.assertNotEqual(amending.amend(self.preparer, self.return_.pk), made)

    def test_an_original_is_not_given_up(self):
        with self.assertRaisesRegex(amending.NotAmended, "corrects none"):
            amending.give_up(self.preparer, self.return_.pk)


class WhatFollowsTests(Amending):
    def test_next_year_looks_back_at_the_correction_once_it_is_accepted(self):
        self.filed()
        following = rolling.roll(self.preparer, self.return_.pk).return_
        self.day(LATER)
        made = self.with_interest(amending.amend(self.preparer, self.return_.pk))
        self.assertEqual(last_year(following), self.return_)
        self.assertEqual(taking_over.differences(self.fresh(following)), [])
        made = self.file(made)
        self.assertEqual(last_year(following), made)
        found = {one.label: (one.here, one.now) for one in taking_over.differences(self.fresh(following))}
        self.assertEqual(found["Adjusted gross income"], ("61480", "62380"))
        self.assertEqual(found["Total tax"], ("5249", "5357"))
        taking_over.take_over(self.preparer, following.pk)
        self.assertEqual(taking_over.differences(self.fresh(following)), [])

    def fresh(self, return_):
        return Return.objects.for_firm(self.firm).get(pk=return_.pk)

    def test_rolled_from_the_correction_where_it_was_there_first(self):
        made = self.file(self.corrected())
        following = rolling.roll(self.preparer, self.return_.pk).return_
        self.assertEqual(following.origin.source, made)
        self.assertFalse(Paper.objects.for_firm(self.firm).filter(of=following, kind="amendment").exists())

    def test_a_refund_that_can_be_claimed_no_more_is_told(self):
        self.filed()
        self.day(LATER)
        made = amending.amend(self.preparer, self.return_.pk)
        wages = made.papers.get(kind="w2")
        save_field(self.preparer, made.pk, wages.pk, "federal_withheld", "6800", "5812.00")
        for day, weight in ((LATER, None), (date(2029, 3, 20), "check"), (date(2029, 5, 1), "stops")):
            self.day(day)
            fresh = self.fresh(made)
            told = [one.weight for one in notices_of(fresh, result_of(fresh), []) if one.code == "statute"]
            self.assertEqual(told, [weight] if weight else [])

    def test_the_original_and_its_figures_never_move(self):
        self.filed()
        before = figures(result_of(self.return_)), self.again().snapshot.hash
        self.file(self.with_interest(amending.amend(self.preparer, self.return_.pk)))
        self.assertEqual((figures(result_of(self.again())), self.return_.snapshot.hash), before)


class PageTests(Amending):
    def test_pages_of_a_correction(self):
        made = self.corrected()
        self.client.force_login(self.preparer)
        for name in ("papers", "forms", "correction", "sign", "review", "flow"):
            page = self.client.get(f"/returns/{made.pk}/{name}")
            self.assertEqual(page.status_code, 200, name)
            self.assertContains(page, "Amended")
        page = self.client.get(f"/returns/{made.pk}/correction")
        for wanted in ("Bank of Galena", "A bank&#x27;s statement came in August.", "62,380", "refund claimable until"):
            self.assertContains(page, wanted)
        self.assertContains(self.client.get(f"/returns/{made.pk}/forms/us.1040-x"), "Change")

    def test_a_changed_field_shows_what_was_filed(self):
        made = self.corrected()
        self.client.force_login(self.preparer)
        paper = made.papers.get(kind="w2")
        answer = self.client.post(
            f"/returns/{made.pk}/papers/{paper.pk}/field", {"path": "wages", "value": "62000", "was": "61480.00"}
        )
        self.assertContains(answer, "as filed <s>61,480.00</s>")

    def test_made_and_given_up_from_the_pages(self):
        self.filed()
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get(f"/returns/{self.return_.pk}/sign"), "Amend this return")
        answer = self.client.post(f"/returns/{self.return_.pk}/correction/make")
        made = Return.objects.for_firm(self.firm).get(purpose="amending")
        self.assertRedirects(answer, f"/returns/{made.pk}/correction")
        self.assertContains(self.client.get(f"/returns/{self.return_.pk}/sign"), "The correction under way")
        self.client.post(f"/returns/{made.pk}/correction/give-up")
        made.refresh_from_db()
        self.assertIsNotNone(made.given_up_at)

    def test_the_paper_of_corrections_is_offered_on_corrections_alone(self):
        self.client.force_login(self.preparer)
        self.assertNotContains(self.client.get(f"/returns/{self.return_.pk}/papers"), 'value="amendment"')


PNG = (
    b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x00\x00\x00\x01\x00\x00\x00\x01\x08\x06\x00\x00\x00\x1f\x15\xc4\x89"
    b"\x00\x00\x00\rIDATx\x9cc\xf8\xcf\xc0\xf0\x1f\x00\x05\x00\x01\xff\x89\x99=\x1d\x00\x00\x00\x00IEND\xaeB`\x82"
)
