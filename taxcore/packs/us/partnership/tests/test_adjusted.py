"""Basis adjustments of a partner who came by transfer, by hand. IRC 743(b), 754; 26 CFR 1.743-1(j)(2).

Ada has 60 and Ben 40% of 65,000 of ordinary income. Ben bought his interest; what it cost above his part of the books is his alone.
"""

from dataclasses import replace
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.us.partnership.issuing import issues
from taxcore.packs.us.partnership.tests.making import about, ada, ben, paper, result, rows
from taxcore.packs.us.partnership.tests.test_worked import LET, house, shop
from taxcore.packs.us.tests.returns import PaperValues as Keyed
from taxcore.packs.us.tests.returns import result as owners_return

YES = about(basis_adjusted="yes", adjusted_how="partner")


def adjustment(*effects, partner="ben", key="adj1", left=28_000, **values):
    """(item, effect on income) of one property."""
    made = rows(*({"item": item, "amount": str(amount)} for item, amount in effects))
    given = {"property": "Goodwill", "partner": partner, "why": "election", "left": left, "rows": made} | values
    return replace(paper("basis-adjustment", key, **given), attached=1)


GOODWILL = adjustment(("1", -2_000))
# Called; papers; (Ada's, Ben's) of each line of Schedule K-1
CASES = (
    # 26,000 stays in box 1; amortization of 2,000 is told beside it and taken off self-employment and qualified income
    ("more basis of goodwill", (GOODWILL,), {
        "ordinary": (39_000, 26_000), "adjusted_up": (0, 0), "adjusted_down": (0, 2_000), "basis_adjusted": (0, 28_000),
        "self_employment": (49_000, 24_000), "qualified_income": (39_000, 24_000)}),
    ("less gain of machines sold", (adjustment(("10", -1_500), left=0),), {
        "adjusted_down": (0, 1_500), "self_employment": (49_000, 26_000), "qualified_income": (39_000, 26_000)}),
    # A step down: depreciation is 700 less
    ("less basis", (adjustment(("1", 700), left=-4_000, why="loss"),), {
        "adjusted_up": (0, 700), "adjusted_down": (0, 0), "self_employment": (49_000, 26_700), "basis_adjusted": (0, -4_000)}),
    # One amount of each partner: 2,000 less, 1,500 more
    ("net of all of it", (GOODWILL, adjustment(("10", 1_500), key="adj2", left=100)), {
        "adjusted_up": (0, 0), "adjusted_down": (0, 500), "basis_adjusted": (0, 28_100)}),
    ("of both partners", (GOODWILL, adjustment(("1", 700), partner="ada", key="adj2", left=-50)), {
        "adjusted_up": (700, 0), "adjusted_down": (0, 2_000), "self_employment": (49_700, 24_000)}),
)  # fmt: skip


def effects(found):
    return {one.code for one in found.findings}


class AdjustedTests(TestCase):
    def test_worked_by_hand(self):
        for called, papers, lines in CASES:
            found = result(YES, ada(), ben(), *papers)
            shares = found.run.every("us.sch-k-1")
            for name, wanted in lines.items():
                with self.subTest(called, line=name):
                    self.assertEqual(tuple(getattr(one, name) for one in shares), wanted)

    def test_schedule_k_has_the_sums_and_m_1_still_reconciles(self):
        plain = result().run
        for called, papers, _ in CASES:
            with self.subTest(called):
                run = result(YES, ada(), ben(), *papers).run
                up, down = (
                    sum(getattr(one, name) for one in run.every("us.sch-k-1")) for name in ("adjusted_up", "adjusted_down")
                )
                schedule, m1 = run.form("us.sch-k"), run.form("us.sch-m-1")
                self.assertEqual((schedule.adjusted_up, schedule.adjusted_down), (up, down))
                self.assertEqual(schedule.net - plain.form("us.sch-k").net, up - down)
                self.assertEqual(m1.unreconciled, plain.form("us.sch-m-1").unreconciled)
                analysed = [value for name, value in _lines(schedule) if name.startswith("Analysis 2")]
                self.assertEqual(sum(analysed), schedule.net)

    def test_capital_and_the_other_partner_stay(self):
        before, after = (result(YES, ada(), ben(), *papers).run.every("us.sch-k-1") for papers in ((), (GOODWILL,)))
        self.assertEqual([one.capital for one in before], [one.capital for one in after])
        self.assertEqual(dict(_lines(before[0])), dict(_lines(after[0])))

    def test_of_rentals_only_where_they_are_trades(self):
        let = adjustment(("2", -600))
        for trade, wanted in (("no", 26_000), ("yes", 26_000 + 6_000 - 600)):
            run = result(YES, ada(), ben(), shop(*LET), house(24_000, taxes=9_000, is_trade=trade), let).run
            with self.subTest(trade):
                self.assertEqual(
                    (run.every("us.sch-k-1")[1].rental, run.every("us.sch-k-1")[1].qualified_income), (6_000, wanted)
                )

    def test_it_is_let_out_and_what_stops_it(self):
        stop = [one.code for one in result(YES, ada(), ben(), GOODWILL).findings if one.weight == "stops"]
        self.assertEqual(stop, [])
        election = about(basis_adjusted="yes", adjusted_how="election")
        self.assertEqual([one.code for one in result(election).findings if one.weight == "stops"], [])

    def test_what_comes_again_next_year(self):
        rolled = roll_forward(result(YES, ada(), ben(), GOODWILL))
        values = next(one.values for one in rolled.data.papers if one.kind == "basis-adjustment")
        self.assertEqual([values.get(name) for name in ("property", "partner", "left", "rows")], ["Goodwill", "ben", None, None])

    def test_the_owner_has_each_effect_where_it_belongs(self):
        issued = next(
            one for one in issues(result(YES, ada(), ben(), GOODWILL, adjustment(("10", 300), key="b")).run)
            if one.kind == "k1-1065" and "Ben" in one.named
        )  # fmt: skip
        told = {name: issued.values.get(name) for name in ("ordinary", "adjusted_business", "adjusted_1231", "adjusted_rental")}
        self.assertEqual(
            told, {"ordinary": "26000", "adjusted_business": "-2000.00", "adjusted_1231": "300.00", "adjusted_rental": None}
        )


class OwnerTests(TestCase):
    """What an owner's return makes of it: the share of 26,000 with each effect."""

    def share(self, *more, **values):
        given = {
            "entity": "Heron & Teal", "entity_number": "00-4455668", "ordinary": "26000", "self_employment": "24000",
            "participates": "yes", "owner": "taxpayer",
        }  # fmt: skip
        return owners_return(Keyed("k1", "k1-1065", given | values), *more).run

    def test_business_rental_and_gains(self):
        run = self.share(adjusted_business="-2000", adjusted_rental="-500", adjusted_1231="300", adjusted_long_gain="40")
        share = run.form("us.share", "k1")
        self.assertEqual((share.own, share.rental), (24_000, -500))
        self.assertEqual(run.form("us.4797").net, 300)
        self.assertEqual(run.form("us.sch-d").long_term, 340)

    def test_a_loss_with_it_is_limited_by_basis(self):
        """1,000 of loss and 500 of section 743(b): 1,500 of loss, of which a basis of 1,200 lets 1,200 through."""
        basis = Keyed("b", "basis-p", {"share": "k1", "basis": "1200", "owner": "taxpayer", "liabilities": "0"})
        run = self.share(basis, ordinary="-1000", adjusted_business="-500", self_employment="0")
        self.assertEqual(run.form("us.share", "k1").own, -1_200)
        self.assertEqual(run.form("us.partner-basis", "b").at_end, 0)


def _lines(form):
    return [(cell.number, cell.value) for cell in form.lines()]


# For the list of all diagnostics: code, papers about which it speaks, the same mended
DIAGNOSTICS = (
    ("us.1065.adjusted-how", (about(basis_adjusted="yes"),), (about(basis_adjusted="yes", adjusted_how="election"),)),
    ("us.1065.adjusted-missing", (YES,), (YES, GOODWILL)),
    ("us.1065.adjusted-answer", (GOODWILL,), (YES, GOODWILL)),
    ("us.1065.property-adjusted", (about(basis_adjusted="yes", adjusted_how="property"),), (YES, GOODWILL)),
    ("us.adjusted.left", (YES, replace(GOODWILL, values=GOODWILL.values | {"left": ""})), (YES, GOODWILL)),
    ("us.adjusted.nothing", (YES, adjustment()), (YES, GOODWILL)),
    ("us.adjusted.cents", (YES, adjustment(("1", "-2.50"))), (YES, GOODWILL)),
    ("us.adjusted.sign", (YES, adjustment(("1", 2_000))), (YES, GOODWILL)),
    ("us.adjusted.attached", (YES, replace(GOODWILL, attached=0)), (YES, GOODWILL)),
)  # fmt: skip
