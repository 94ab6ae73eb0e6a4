"""Casualties of personal property, worked by hand from IRC 165(h) and the disaster relief acts: 100 or 500, a tenth of income, gains first."""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, wage
from taxcore.packs.us.tests.returns import codes

F, A = "us.4684.", "us.sch-a."


def hit(key="c1", **values):
    given = {"description": "House", "happened": "2025-05-05", "acquired": "2015-04-01", "disaster": "DR-4999-TX", "basis": 200_000,
             "before": 250_000, "after": 190_000, "reimbursed": 20_000}  # fmt: skip
    return paper("casualty", key, owner="taxpayer", **given | values)


def paid(key="c2", **values):
    """Insurance above the basis: a gain of 15,000."""
    return hit(key, **{"description": "Boat", "basis": 10_000, "before": 30_000, "after": 0, "reimbursed": 25_000} | values)


PAY = wage(100_000)
CASES = (
    ("a federal disaster: 100, and a tenth of income", (hit(), PAY), 2025, {
        "us.4684-property[c1].7": 60_000, "us.4684-property[c1].9": 40_000, F + "10": 40_000, F + "12": 39_900, F + "13": 39_900, F + "16": 39_900,
        F + "17": 10_000, F + "18": 29_900, A + "15": 29_900, "us.1040.12e": 29_900}),
    ("no more than its basis", (hit(basis=45_000), PAY), 2025, {"us.4684-property[c1].8": 45_000, "us.4684-property[c1].9": 25_000}),
    ("two things of one event: 100 once", (hit(event="Storm"), hit("c3", event="Storm", basis=9_000, before=9_000, after=0, reimbursed=0), PAY), 2025, {
        F + "10": 49_000, F + "12": 48_900}),
    ("two events: twice", (hit(), hit("c3", happened="2025-06-06", basis=9_000, before=9_000, after=0, reimbursed=0), PAY), 2025, {F + "12": 48_800}),
    ("a qualified disaster: 500, no tenth, beside the standard deduction", (hit(qualified="yes"), PAY), 2025, {
        F + "12": 39_500, F + "15": 39_500, F + "18": 0, "us.1040.12e": 55_250, "us.1040.15": 44_750}),
    ("itemized it is among the others", (hit(qualified="yes"), PAY, PaperValues("itemized", "itemized", {"choice": "itemise"})), 2025, {
        A + "15": 0, A + "16": 39_500, "us.1040.12e": 39_500}),
    ("a gain takes losses first", (hit(), paid(), PAY), 2025, {F + "14": 15_000, F + "16": 24_900, F + "17": 10_000, F + "18": 14_900, "us.sch-d.11": 0}),
    ("of gains alone what is left is capital gain", (paid(), PAY), 2025, {F + "14": 15_000, F + "16": 0, "us.sch-d.11": 15_000, "us.1040.7a": 15_000}),
    ("held a year or less", (paid(acquired="2025-01-10"), PAY), 2025, {"us.sch-d.4": 15_000, "us.sch-d.11": 0}),
    ("no disaster: only against gains", (hit(disaster="", basis=6_000, before=6_000, after=0, reimbursed=0), paid(), PAY), 2025, {
        F + "13": 0, F + "18": 0, "us.sch-d.11": 9_100}),
    ("and without gains nothing", (hit(disaster=""), PAY), 2025, {F + "18": 0, A + "15": 0}),
)  # fmt: skip


class CasualtyTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_the_minimum_tax_does_not_take_the_loss_back(self):
        found = result(hit(qualified="yes"), PAY)
        self.assertEqual(found.run.form("us.6251").taxes, 15_750)

    def test_what_a_loss_without_a_disaster_is_is_said(self):
        self.assertIn("us.casualty.no-disaster", codes(result(hit(disaster=""), PAY)))
