"""More of what Schedules K-1 say, worked by hand: royalties, portfolio and other deductions, the last year of an estate. IRC 642(h), 702."""

from unittest import TestCase

from taxcore.packs.us.basis.tests.test_worked import S, owned, stock
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, stake, wage

E, N = "us.sch-e.", "us.sch-1."


def estate(**values):
    return paper(
        "k1-1041",
        "t1",
        **{"owner": "taxpayer", "entity": "Estate of O. Fenn", "entity_number": "00-4455671", "participates": "no"} | values,
    )


CASES = (
    ("royalties are rents and royalties", (stake(royalties=500),), 2025, {E + "24": 500, E + "26": 500, N + "5": 500, E + "32": 0}),
    ("and no passive income", (stake(royalties=500, rental=-800, participates="no", active="no"),), 2025, {E + "26": 500, E + "32": 0}),
    ("other deductions of the trade", (stake(ordinary=5_000, trade_deductions=1_000),), 2025, {E + "32": 4_000}),
    ("those of a passive one with its losses", (stake(ordinary=-5_000, trade_deductions=1_000, participates="no"),), 2025, {
        "us.8582.2b": 6_000, E + "32": 0}),
    ("portfolio deductions are itemized", (stake(portfolio_deductions=300), wage(90_000)), 2025, {"us.sch-a.16": 300}),
    ("both within the basis", (owned(trade_deductions=600, portfolio_deductions=200), stock(400)), 2025, {
        S + "45-A": 800, S + "45-C": 400, S + "45-E": 400, E + "32": -300, "us.sch-a.16": 100}),
    ("a passive share's section 1231 gain takes its losses", (stake(ordinary=-10_000, section_1231=4_000, participates="no"),), 2025, {
        "us.8582.2b": 6_000, E + "32": -4_000, "us.4797.2": 4_000, "us.sch-d.11": 4_000}),
    ("and those of another", (stake(ordinary=-10_000, participates="no"), stake("k2", section_1231=4_000, participates="no")), 2025, {
        "us.8582.2a": 4_000, "us.8582.11": 4_000, E + "32": -4_000, "us.sch-d.11": 4_000}),
    ("of a share in rentals it is theirs", (stake(rental=-10_000, section_1231=4_000, participates="no", active="yes"), wage(200_000)), 2025, {
        "us.8582.1b": 6_000, E + "32": -4_000}),
    ("the last year of an estate: expenses before income", (estate(final_expenses=700), wage(50_000)), 2025, {N + "24k": 700, N + "25": 700, "us.1040.11a": 49_300}),
    ("those that are itemized", (estate(final_itemized=900),), 2025, {"us.sch-a.16": 900}),
    ("its capital losses", (estate(final_short=4_000, final_long=1_000, long_gain=600),), 2025, {
        "us.sch-d.5": -4_000, "us.sch-d.12": -400, "us.sch-d.16": -4_400, "us.1040.7a": -3_000}),
)  # fmt: skip


class MoreOfSharesTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)
