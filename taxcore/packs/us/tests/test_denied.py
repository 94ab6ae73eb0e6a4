"""Form 8862: which credits are claimed again, days of children and of those without. By hand from IRC 32(k)(2)."""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, result, wage
from taxcore.packs.us.tests.returns import child, person


def denied(**values):
    return PaperValues("denied-before", "denied-before", values)


def days(count):
    return [{"id": "1", "child": "d1", "days": count}]


CASES = (
    ("the earned income credit with a child", (person(), child(), wage(20_000), denied(earned_income="yes", children=days("365"))), 2025, {
        "us.8862.1": 2025, "us.8862.2a": 1, "us.8862.2b": 0, "us.8862.9a": 0, "us.8862-child[d1].7": 365}),
    ("and the child tax credit", (person(), child(), wage(40_000), denied(earned_income="yes", child="yes", children=days("300"))), 2025, {
        "us.8862.2a": 1, "us.8862.2b": 1}),
    ("without a child: where one lived", (person(), wage(9_000), denied(earned_income="yes", days_here="365")), 2025, {"us.8862.2a": 1, "us.8862.9a": 365}),
    ("what is not claimed now needs nothing", (person(), wage(90_000), denied(earned_income="yes")), 2025, {"us.8862.2a": 0}),
)  # fmt: skip


class DeniedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_it_goes_along_where_something_is_claimed_again(self):
        wanted = [result(*papers).run.form("us.8862").required() for _, papers, _, _ in CASES]
        self.assertEqual(wanted, [True, True, True, False])
