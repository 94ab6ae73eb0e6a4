"""Every company return that the program computes and lets out is accepted; a second one of the same period is not."""

import random
import uuid
from datetime import timedelta

from django.test import TestCase
from django.utils import timezone

from authority.models import Claim, Filing
from authority.receiving import answer, receive
from taxcore.engine.filed import Enclosure, filed_document
from taxcore.packs.uk.company import HMRC
from taxcore.packs.uk.company.supporting import drawn
from taxcore.packs.uk.company.tests import test_reliefs, test_straight, test_worked


def answered(year, content):
    filing = receive(uuid.uuid4(), "uk-ct", year, content)
    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
    return answer(filing.receipt)


def document_of(result):
    """What goes out; None where something stops it."""
    stops = any(one.weight == "stops" for one in result.findings)
    along = [Enclosure(one.code, one.name, one.page) for one in drawn(result, "uk-ct")]
    return None if stops else filed_document(result, HMRC, "1", "0" * 64, along)


class CompanyTests(TestCase):
    def test_worked_cases_and_random_companies_are_accepted(self):
        cases = (*test_worked.CASES, *test_reliefs.CASES)
        returns = [(name, test_worked.result(*papers, **options)) for name, papers, options, _ in cases]
        for number in range(15):
            facts = test_straight.drawn(random.Random(f"filed {number}"))  # noqa: S311 - examples, not secrets
            span = {"begins": facts["begins"].isoformat(), "ends": facts["ends"].isoformat()}
            returns.append(
                (number, test_worked.result(*test_straight.entered(facts), associates=str(facts["associates"]), **span))
            )
        filed = 0
        for name, result in returns:
            if (content := document_of(result)) is not None:
                found = answered(result.year, content)
                with self.subTest(name):
                    self.assertEqual((found.state, found.faults), ("accepted", []))
                Claim.objects.all().delete()
                filed += 1
        self.assertGreater(filed, 100)

    def test_two_periods_that_end_in_one_financial_year_and_none_twice(self):
        for span, wanted in (
            ({"begins": "2024-04-01", "ends": "2024-09-30"}, "accepted"),
            ({"begins": "2024-10-01", "ends": "2025-03-31"}, "accepted"),
            ({"begins": "2024-10-01", "ends": "2025-03-31"}, "rejected"),
        ):  # fmt: skip
            result = test_worked.result(test_worked.books(9_000), **span)
            self.assertEqual(answered(result.year, document_of(result)).state, wanted)

    def test_a_figure_changed_on_the_way_is_named(self):
        result = test_worked.result(test_worked.books(9_000))
        found = answered(2024, document_of(result).replace(b'line="315">9000<', b'line="315">9001<'))
        self.assertEqual(found.state, "rejected")
        self.assertIn("CT600", str(found.faults))

    def test_pages_that_no_program_can_read_or_that_say_otherwise_are_refused(self):
        result = test_worked.result(test_worked.books(9_000))
        (one,) = drawn(result, "uk-ct")
        for content, says in (
            (b"%PDF-1.7 computation", "is a PDF, which no program can read"),
            (b"<html/>", "has no tags"), (b"<html>", "no tagged page"),
            (one.page.replace(b">9,000</ix:nonFraction>", b">9,001</ix:nonFraction>"), "says 9,001"),
        ):  # fmt: skip
            sent = filed_document(result, HMRC, "1", "0" * 64, [Enclosure("computation", "Tax computation", content)])
            with self.subTest(says):
                self.assertIn(says, str(answered(2024, sent).faults))
