"""Recomputed by need equals computed in full, after any sequence of edits: lines, reads, explanations, findings, filed documents."""

import gc
import random
import re
import weakref
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import Override, compute, document, words
from taxcore.engine.filed import filed_document
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.corrections import amendment, as_filed
from taxcore.packs.us.tests.edits import Editing
from taxcore.packs.us.tests.returns import data
from taxcore.packs.us.tests.straight import facts
from taxcore.packs.us.tests.straight.papers import papers
from taxcore.packs.us.tests.test_straight import SEARCH, numbers
from taxcore.packs.us.tests.worked import all_cases

_STEPS = 10
_PLACE = re.compile(r" object at 0x[0-9a-f]+")


def seen(result):
    """All that a result says, as text: {of what: it}."""
    found = {
        "findings": result.all_findings,
        "bottom": [(line.authority.code, str(line.amount)) for line in result.bottom_lines],
        "forms": [form.address_prefix for form in result.forms],
    }
    queue = []
    for cell in result.lines():
        found[cell.address] = (
            _told(cell),
            words.sentences(cell),
            words.why_zero(cell) if cell.is_amount and not cell.value else "",
        )
        queue += cell.sources()
    met = set()
    while queue:
        cell = queue.pop()
        if cell not in met:
            met.add(cell)
            found.setdefault(f"below: {cell.address}", _told(cell))
            queue += cell.sources()
    return found


def filed(result):
    """The documents for all authorities that the return goes to."""
    return [filed_document(result, line.authority, "0" * 32, "0" * 64) for line in result.bottom_lines]


def _told(cell):
    value = _PLACE.sub("", str(cell.value))
    return value, cell.how, cell.reason, [one.address for one in cell.sources()]


class ChangeTests(TestCase):
    maxDiff = 2_000

    def test_after_any_edits_a_result_is_what_a_full_computation_gives(self):
        for number in numbers(24, 4_000):
            with self.subTest(number=number):
                self._sequence(random.Random(number))

    def _sequence(self, chance):
        self._edited(chance, self._start(chance))

    def _edited(self, chance, entered):
        result = compute(PACK, entered)
        editing = Editing(chance, [cell.address for form in result.run.forms() for cell in form.cells.values() if cell.is_amount])
        for _ in range(_STEPS):
            for _ in range(chance.choice((1, 1, 3))):
                entered = editing.edited(entered)
            result = result.changed(entered)
            if chance.random() < 0.5:  # several changes may come before anybody looks
                full = compute(PACK, entered)
                self.assertEqual(seen(result), seen(full))
                self.assertEqual(filed(result), filed(full))

    def test_of_a_correction_too(self):
        """What was filed stands still while the papers move."""
        for number in numbers(8, 1_000):
            chance = random.Random(number)
            entered = self._start(chance)
            amends = as_filed(compute(PACK, entered), superseding=chance.random() < 0.2)
            corrected = entered.but(papers=(*entered.papers, amendment({"authority": "US", "paid": "50"})), amends=amends)
            with self.subTest(number=number):
                self._edited(chance, corrected)

    def test_a_result_taken_apart_leaves_nothing_to_the_collector(self):
        gc.collect()
        gc.disable()
        try:
            result = compute(PACK, self._start(random.Random(1)))
            result = result.changed(result.run.everything.but(papers=result.run.everything.papers[:-1]))
            self.assertNotEqual(seen(result), {})
            marks = [weakref.ref(one) for one in (result.run, *result.forms, *result.run.all_papers())]
            result.take_apart()
            del result
            self.assertEqual([mark() for mark in marks if mark() is not None], [])
        finally:
            gc.enable()

    def test_any_line_may_be_overridden_with_any_amount(self):
        """Nothing raises, whatever the amount: a figure that a table is looked up by is one of those."""
        met, chance = set(), random.Random(0)
        for _ in range(200 if SEARCH else 12):
            entered = self._start(chance)
            result = compute(PACK, entered)
            for address in _overridable(result, met):
                amount = Decimal(chance.choice(("25864", "0.37", "-3", "99999999999.99")))
                result = result.changed(entered.but(overrides={address: Override(amount, "because")}))
                self.assertIsNotNone(result.all_findings, address)

    def _start(self, chance):
        if chance.random() < 0.5:
            household = facts.Drawing(chance).facts()
            return data(*papers(household), year=household.year)
        return document.read(chance.choice(_cases()).document)


def _overridable(result, met):
    """Addresses of amounts on forms, one of each kind of form and line, that were not met before."""
    for form in result.run.forms():
        for cell in list(form.cells.values()):
            mark = (form.code(), cell.spec.name)
            if cell.is_amount and mark not in met:
                met.add(mark)
                yield cell.address


def _cases():
    return [case for case in all_cases() if case.topic != "documents"]
