"""The demo practice's returns as values: each computes, and nothing stops it but what is known to be open."""

from unittest import TestCase

from practice.demo.plain import demo_returns
from taxcore.engine import compute
from taxcore.packs.us import PACK

EXPECTED = {"us.diligence.missing", "us.diligence.child-missing"}  # questions that are still to be asked
MISSING = {"Roake, Tamsin": set(), "Vantongeren, Mabel": {"us.w2.employer-number-missing"}}


class DemoReturnTests(TestCase):
    def test_about_twenty_five_households(self):
        self.assertGreaterEqual(len(list(demo_returns())), 24)

    def test_each_computes_without_an_unexplained_stop(self):
        for entry, data in demo_returns():
            with self.subTest(entry["name"]):
                found = compute(PACK, data).findings
                stops = {one.code for one in found if one.weight == "stops"}
                self.assertLessEqual(stops, EXPECTED | MISSING.get(entry["name"], set()))

    def test_between_them_they_use_most_kinds_of_papers(self):
        used = {paper.kind for _, data in demo_returns() for paper in data.papers}
        self.assertGreaterEqual(len(used), 30)
