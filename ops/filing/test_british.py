"""Every British return that the program computes and lets out is accepted; changed on the way, it is rejected by name."""

import random
import re
import uuid
from datetime import date, timedelta

from django.test import TestCase
from django.utils import timezone

from authority.models import Claim, Filing, Person
from authority.receiving import answer, receive
from taxcore.engine import Amends, AsFiled, compute
from taxcore.engine.filed import filed_document
from taxcore.packs.uk.disposal import HMRC as DISPOSALS
from taxcore.packs.uk.disposal.tests import test_disposal
from taxcore.packs.uk.individual import HMRC, PACK
from taxcore.packs.uk.individual.tests import test_allowance, test_foreign, test_gains, test_losses, test_trades, test_worked
from taxcore.packs.uk.individual.tests.test_straight import drawn, entered


def document_of(result):
    """What goes out; None where something stops it."""
    stops = any(one.weight == "stops" for one in result.findings)
    return None if stops else filed_document(result, HMRC, "1", "0" * 64)


def answered(year, content, *, keep=False):
    filing = receive(uuid.uuid4(), "uk", year, content)
    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
    found = answer(filing.receipt)
    if not keep:
        Claim.objects.all().delete()
        Person.objects.all().delete()
    return found


class BritishTests(TestCase):
    def test_worked_cases_and_random_returns_are_accepted(self):
        returns = [(name, test_worked.result(*papers, **options)) for name, papers, options, _ in test_worked.CASES]
        for cases in (test_trades.CASES, test_gains.CASES, test_losses.CASES):
            returns += [(name, test_worked.result(*papers, **options)) for name, papers, options, _ in cases]
        for cases in (test_foreign.CASES, test_allowance.CASES):
            returns += [(name, test_worked.result(*papers)) for name, papers, _ in cases]
        for number in range(15):
            facts = drawn(random.Random(f"filed {number}"))  # noqa: S311 - examples, not secrets
            returns.append((number, test_worked.result(*entered(facts), region=facts["region"], year=facts["year"])))
        filed, years = 0, set()
        for name, result in returns:
            if (content := document_of(result)) is not None:
                with self.subTest(name):
                    found = answered(result.year, content)
                    self.assertEqual((found.state, found.faults), ("accepted", []))
                    filed, years = filed + 1, years | {result.year}
        self.assertGreater(filed, 150)
        self.assertEqual(years, {2023, 2024, 2025})

    def test_amended_returns_are_accepted_after_their_originals(self):
        """Interest of 5,000 that was forgotten, on every fourth worked case."""
        amended = 0
        for name, papers, options, _ in test_worked.CASES[::4]:
            first = test_worked.result(*papers, **options)
            if (content := document_of(first)) is None:
                continue
            Claim.objects.all().delete()
            original = answered(first.year, content, keep=True)
            lines = {cell.address: cell.value for cell in first.lines() if cell.is_amount}
            filed = Amends(filed={"uk": AsFiled(date(first.year + 1, 9, 1), original.receipt, lines)})
            late = (
                test_worked.savings(5_000, "late"),
                test_worked.paper("amendment", explanation="It was forgotten.", anyway="yes"),
            )
            given = first.run.everything
            second = compute(PACK, given.but(papers=(*given.papers, *late), amends=filed))
            with self.subTest(name):
                self.assertEqual((original.state, original.faults), ("accepted", []))
                self.assertEqual([one.says for one in second.findings if one.weight == "stops"], [])
                found = answered(first.year, document_of(second))
                self.assertEqual((found.state, found.faults), ("accepted", []))
                amended += 1
        self.assertGreater(amended, 12)

    def test_a_line_that_was_changed_is_named(self):
        result = test_worked.result(test_worked.pay(60_000), test_worked.savings(1_500))
        content = document_of(result)
        for old, new, path in (
            (b'<Savings line="f">1500.00', b'<Savings line="f">1700.00', "Incomes"),
            (b'<IncomeTax line="1.1">', b'<IncomeTax line="1.1">9', "Summary"),
            (b"<Untaxed>1500.00", b"<Untaxed>2500.00", "MainReturn"),
        ):
            with self.subTest(path):
                self.assertIn(old, content)
                found = answered(2025, content.replace(old, new))
                self.assertEqual(found.state, "rejected")
                self.assertTrue(any(path in fault["path"] for fault in found.faults), found.faults)

    def test_a_reference_that_is_not_issued_and_one_that_was_used(self):
        content = document_of(test_worked.result(test_worked.pay(30_000)))
        found = answered(2025, re.sub(rb"1234567890", b"9991234567", content))
        self.assertEqual([fault["rule"] for fault in found.faults], ["P-0101"])


class HomeSoldTests(TestCase):
    def test_every_worked_case_is_accepted_and_one_of_the_same_day_is_not(self):
        filed = 0
        for name, sold, options, _ in test_disposal.CASES:
            result = test_disposal.result(sold, **options)
            if not any(one.weight == "stops" for one in result.findings):
                content = filed_document(result, DISPOSALS, "1", "0" * 64)
                for wanted in ("accepted", "rejected"):
                    filing = receive(uuid.uuid4(), "uk-ppd", result.year, content)
                    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
                    with self.subTest(name, wanted=wanted):
                        self.assertEqual(answer(filing.receipt).state, wanted)
                Claim.objects.all().delete()
                filed += 1
        self.assertGreater(filed, 6)

    def test_another_day_of_the_same_year_is_another_return(self):
        for day in (date(2026, 1, 20), date(2026, 2, 20)):
            content = filed_document(test_disposal.result(test_disposal.CASES[0][1], day=day), DISPOSALS, "1", "0" * 64)
            filing = receive(uuid.uuid4(), "uk-ppd", 2025, content)
            Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
            self.assertEqual(answer(filing.receipt).state, "accepted")
