"""Every return that the program computes and lets out is accepted; the same documents, tampered with, are rejected by name."""

import re
import uuid
from collections import Counter
from dataclasses import replace
from datetime import timedelta
from unittest import TestCase as UnitTestCase

from django.test import TestCase
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from authority.agreement import disagreements
from authority.models import Claim, Filing, Person
from authority.receiving import answer, receive
from authority.rules import faults_of, parse
from practice.demo.earlier import years_of
from practice.demo.plain import demo_returns
from taxcore.engine import PaperValues, compute, document, roll_forward
from taxcore.engine.filed import filed_document
from taxcore.packs import pack_named
from taxcore.packs.us.basis.tests import test_worked as test_basis
from taxcore.packs.us.farm.tests import test_worked as test_farms
from taxcore.packs.us.property.tests import (
    test_exchanges,
    test_homes,
    test_installments,
    test_listed,
    test_own_depreciation,
    test_sales,
    test_vacation,
    test_worked,
)
from taxcore.packs.us.states.pa.tests import test_rents as test_pa_rents
from taxcore.packs.us.tests import (
    returns,
    test_annualized,
    test_business_credits,
    test_casualties,
    test_denied,
    test_employed,
    test_excess_loss,
    test_foreign_categories,
    test_foreign_earned,
    test_foreign_gains,
    test_minimum_credits,
    test_more_credits,
    test_more_of_shares,
    test_more_of_statements,
    test_operating_loss,
    test_passive_trades,
    test_rents_elsewhere,
)
from taxcore.packs.us.tests.corrections import amendment, as_filed
from taxcore.packs.us.tests.sampling import examples
from taxcore.packs.us.tests.test_any_return import random_result
from taxcore.packs.us.tests.worked import all_cases

PACK = pack_named("us")
_ASKED_OF_THE_PREPARER = "us.diligence."  # stops until somebody has answered it; no line depends on it

# Modules of cases worked by hand: (name, papers, year, what is expected)
_WORKED = (
    test_worked, test_sales, test_installments, test_homes, test_vacation, test_farms, test_employed, test_operating_loss,
    test_passive_trades, test_excess_loss, test_basis, test_exchanges, test_listed, test_annualized, test_more_of_shares,
    test_rents_elsewhere, test_business_credits, test_casualties, test_denied, test_foreign_categories, test_foreign_earned,
    test_foreign_gains, test_minimum_credits,
    test_pa_rents, test_more_of_statements,
)  # fmt: skip


def going_out(result):
    """(authority, document) of everything that a result files; nothing where law that is not computed stops it."""
    if any(found.weight == "stops" and not found.code.startswith(_ASKED_OF_THE_PREPARER) for found in result.findings):
        return []
    return [(line.authority, filed_document(result, line.authority, "1", "0" * 64)) for line in result.bottom_lines]


def worked():
    """(name, result) of every worked case and every return of the demo practice."""
    for case in all_cases():
        yield f"{case.topic}/{case.name}", compute(PACK, document.read(case.document))
    for entry, data in demo_returns():
        for year in (2023, 2024, 2025):  # the demo's own year, and the same papers in the two before
            yield f"{entry['name']} {year}", compute(PACK, replace(data, year=year))
        if entry.get("earlier"):
            for each, _ in years_of(entry, 2026):
                yield f"{entry['name']} {each.year}, with what the year before closed", compute(PACK, each)
    for module in _WORKED:
        for name, papers, year, _ in module.CASES:
            yield name, test_worked.result(*papers, year=year)
    for name, state, papers, year, _ in test_own_depreciation.CASES:
        yield name, test_own_depreciation.filed(state, *papers, year=year)
    for name, papers, options, _ in test_more_credits.CASES:
        yield name, test_more_credits.result(*papers, **options)
    yield "a qualified loss without its business", _after_a_loss()


def _after_a_loss():
    """What a business left, confirmed, a year after it ended; with the wages of that year."""
    shop = PaperValues("b1", "business", {"owner": "taxpayer", "activity": "Repair", "code": "811490", "participates": "yes",
                                          "receipts": "500", "supplies": "1500"})  # fmt: skip
    rolled = roll_forward(returns.result(returns.w2(60_000, 6_000, state_withheld=2_800), shop, year=2024)).data
    kept = [replace(one, carried=()) for one in rolled.papers if one.kind not in ("w2", "business", "filing")]
    assert any(one.kind == "qualified-loss" for one in kept)
    return returns.result(*kept, returns.filing(), returns.w2(60_000, 6_000, state_withheld=2_800))


def answered(authority, year, content):
    """A filing, received and decided."""
    filing = receive(uuid.uuid4(), authority.code, year, content)
    Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
    return answer(filing.receipt)


def forget_everybody():
    Claim.objects.all().delete()
    Person.objects.all().delete()


_OF_EACH = 2  # returns of an authority and year are corrected


class EveryReturnTests(TestCase):
    """Filed as over HTTP, and answered. Each return stands alone: in the next one the same made-up people live another life.

    Some of what was accepted is corrected, and once more: more interest each time, from a bank that wrote late.
    """

    def test_worked_cases_and_demo_returns_are_accepted_and_some_of_every_kind_corrected(self):
        """All of them, and every authority and open year has some."""
        filed, corrected, met = 0, Counter(), Counter()
        for name, result in worked():
            known = all(met[line.authority.code, result.year] >= _OF_EACH for line in result.bottom_lines)
            sent = going_out(result)
            met.update((one.code, result.year) for one, _ in sent)
            with self.subTest(name):
                filings = self.accepted(result.year, sent)
                filed += len(filings)
                if sent and not known:
                    corrected.update(self._corrected_twice(result, filings))
            forget_everybody()
        self.assertGreater(filed, 1200)
        self.assertGreater(corrected.total(), 100)
        self.assertEqual(set(corrected), {one.code for one in PACK.authorities})
        wanted = {(one.code, year) for one in PACK.authorities for year in (2023, 2024, 2025)} | {("us", 2022)}
        self.assertEqual(wanted - set(met), set())

    def accepted(self, year, sent):
        """Filings by authority."""
        filings = {one.code: answered(one, year, content) for one, content in sent}
        for code, found in filings.items():
            self.assertEqual((found.state, found.faults), ("accepted", []), code)
        return filings

    def _corrected_twice(self, result, filings):
        """The authority of each correction that was accepted."""
        corrected = []
        for number in (1, 2):
            result = compute(PACK, self._late(result, filings, number))
            sent = going_out(result)
            filings = self.accepted(result.year, sent)
            corrected += [one.code for one, content in sent if b"<Amends " in content]
        return corrected

    def _late(self, result, filings, number):
        """The same return with 900 of interest that came late, correcting what was accepted."""
        amends = as_filed(result, number, receipts={code: one.receipt for code, one in filings.items()})
        before = result.run.amends.filed if result.run.amends else {}  # in force where the last correction changed nothing
        amends = replace(amends, filed={**before, **amends.filed})
        papers = [one for one in result.run.everything.papers if one.kind not in ("amendment", "split-deposit")]
        late = PaperValues(f"late-{number}", "1099-int", {"owner": "taxpayer", "payer": "Bank of Galena", "interest": "900"})
        return result.run.everything.but(papers=(*papers, late, amendment()), amends=amends)

    def test_without_an_original_it_is_refused(self):
        result = returns.result(returns.w2(60_000, 6_000, state_withheld=2_800))
        filings = {line.authority.code: Filing(receipt="US-2025-999999") for line in result.bottom_lines}
        for authority, content in going_out(compute(PACK, self._late(result, filings, 1))):
            faults = faults_of(authority.code, 2025, content)
            self.assertIn("A-0601", [fault.rule for fault in faults])

    def test_an_original_that_was_corrected_is_not_corrected_again(self):
        first = returns.result(returns.w2(60_000, 6_000, state_withheld=2_800))
        filings = {one.code: answered(one, 2025, content) for one, content in going_out(first)}
        correction = self._late(first, filings, 1)
        (federal, content), *_ = going_out(compute(PACK, correction))
        self.assertEqual(answered(federal, 2025, content).state, "accepted")
        self.assertEqual([one["rule"] for one in answered(federal, 2025, content).faults][:1], ["P-0201"])

    def test_figures_that_were_not_accepted_are_named(self):
        first = returns.result(returns.w2(60_000, 6_000, state_withheld=2_800))
        filings = {one.code: answered(one, 2025, content) for one, content in going_out(first)}
        (federal, content), *_ = going_out(compute(PACK, self._late(first, filings, 1)))
        tampered = _raised(content.decode(), "AmendedReturn", "11-A").encode()
        found = answered(federal, 2025, tampered)
        self.assertTrue(any("@[1040].24" in fault["message"] for fault in found.faults), found.faults)


class RandomReturnsTests(UnitTestCase):
    @settings(max_examples=examples(70), deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.randoms(use_true_random=False))
    def test_random_returns_agree_with_themselves(self, chance):
        result = random_result(chance, owns=chance.random() < 0.5)
        for line in result.bottom_lines:
            root = parse(filed_document(result, line.authority, "1", "0" * 64))
            said = [(one.statement.form, one.statement.text, one.found, one.expected)
                    for one in disagreements(root, line.authority.code, result.year)]  # fmt: skip
            self.assertEqual(said, [])


class TamperedTests(TestCase):
    LINES = [  # form's element, line, code that says so
        ("IncomeTaxReturn", "1z", "T-0401"),
        ("IncomeTaxReturn", "9", "T-0401"),
        ("IncomeTaxReturn", "8", "T-0403"),
        ("IncomeTaxReturn", "11a", "T-0401"),
        ("IncomeTaxReturn", "15", "T-0401"),
        ("IncomeTaxReturn", "20", "T-0403"),
        ("IncomeTaxReturn", "23", "T-0403"),
        ("IncomeTaxReturn", "24", "T-0401"),
        ("IncomeTaxReturn", "25a", "T-0402"),
        ("IncomeTaxReturn", "25b", "T-0402"),
        ("IncomeTaxReturn", "33", "T-0401"),
        ("IncomeTaxReturn", "37", "T-0401"),
        ("Adjustments", "10", "T-0401"),
        ("Business", "31", "T-0401"),
        ("Itemized", "17", "T-0401"),
        ("OtherTaxes", "21", "T-0401"),
    ]

    def test_a_line_that_was_changed_is_named_with_its_code_and_path(self):
        for form, line, code in self.LINES:
            with self.subTest(form, line=line):
                content = next((made for made in self._documents() if f"<{form} number=" in made), None)
                self.assertIsNotNone(content, "no demo return has this form")
                faults = faults_of("us", 2025, _raised(content, form, line).encode())
                at_fault = [fault for fault in faults if fault.rule == code and re.search(rf"/Forms/{form}\b", fault.path)]
                self.assertTrue(at_fault, faults)

    def _documents(self):
        if not hasattr(type(self), "_made"):
            results = [compute(PACK, data) for _, data in demo_returns()]
            type(self)._made = [
                content.decode() for one in results for authority, content in going_out(one) if authority.code == "us"
            ]
        return self._made

    def test_a_paper_that_was_changed_is_missed_on_its_line(self):
        content = next(made for made in self._documents() if "<WageStatement " in made)
        changed = re.sub(r"<FederalWithheld>(\d+)", lambda found: f"<FederalWithheld>{int(found[1]) + 700}", content, count=1)
        self.assertEqual([fault.rule for fault in faults_of("us", 2025, changed.encode())], ["T-0402"])


def _raised(content, form, line):
    """The document with 7 more on one line of the first form of that element."""
    begin = content.index(f"<{form} number=")
    pattern = re.compile(rf'( line="{re.escape(line)}">)(-?[\d.]+)')
    found = pattern.search(content, begin)
    return content[: found.start(2)] + f"{float(found[2]) + 7:.0f}" + content[found.end(2) :]
