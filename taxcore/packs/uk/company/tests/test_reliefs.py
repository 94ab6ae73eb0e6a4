"""Deficits, group relief, loans repaid later, single-asset pools, instalments: worked by hand from the law."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.uk.company.tests.test_worked import (
    BEFORE,
    SAME,
    about,
    agree,
    books,
    bought,
    group,
    loan,
    losses,
    other,
    paper,
    plant,
    result,
)

D = Decimal


def short(cost, **values):
    return bought(cost, **{"short": "yes", "claim": "none"} | values)


LATER = ("2024-10-01", "2025-09-30")  # 182 days of it in the period
INTEREST = dict(zip(("id", "begun", "ended", "profits", "interest", "tax_before", "tax_after"),
                    ("1", *BEFORE, "50000", "2000", "9500", "9120"), strict=True))  # fmt: skip
OF_2025 = {"begins": "2025-04-01", "ends": "2026-03-31"}
OLD = {"bought": "2016-06-01", "left": "10000"}


def earlier(*rows, **values):
    return paper("losses", earlier=list(rows), **values)


# What it catches; papers; options; {form.attribute: amount}
CASES = (
    # CTA 2009 ss. 463B to 463E: against profits of the period by claim, then those of loans of the twelve months before
    ("of a deficit no more than claimed", (books(30_000), other(interest_paid="3000"), losses(deficit_claim="1000")), {}, {
        "ct600.taxable": "29000", "ct600.deficit_left": "2000"}),
    ("carried back against profits of loans alone", (books(0), other(interest_paid="5000"), earlier(INTEREST, deficit_back="yes")), {}, {
        "ct600.deficit_back": "2000", "ct600.deficit_left": "3000", "ct600.saved_before": "380.00"}),
    ("not unless it is claimed", (books(0), other(interest_paid="5000"), earlier(INTEREST)), {}, {
        "ct600.deficit_back": "0", "ct600.deficit_left": "5000"}),
    ("of a period that is partly within the twelve months its part: 275 days of 365", (
        books(0), other(interest_paid="5000"), earlier(INTEREST | {"begun": "2023-01-01", "ended": "2023-12-31", "interest": "3650"}, deficit_back="yes")),
     {}, {"ct600.deficit_back": "2750"}),
    ("it takes the room before a trading loss: 48,000 are left of 50,000", (
        books(-49_000), other(interest_paid="5000"), earlier(INTEREST, deficit_back="yes", back="yes")), {}, {
        "ct600.deficit_back": "2000", "ct600.carried_back": "48000", "ct600.trade_left": "1000"}),
    ("twelve months even where the trade ceased", (
        books(0), other(interest_paid="5000"), earlier(INTEREST | {"begun": "2022-04-01", "ended": "2023-03-31"}, deficit_back="yes")),
     {"ceased": "2025-03-31"}, {"ct600.deficit_back": "0"}),
    # CTA 2010 ss. 98 to 142: claims and what is given up
    ("losses of another company of the same period", (books(50_000), group([(*SAME, 30_000, 20_000)])), {}, {
        "ct600.group_relief": "20000", "ct600.taxable": "30000"}),
    ("of an overlap of 182 days: 36,500 lost are 18,200", (books(73_000), group([(*LATER, 36_500, 20_000)])), {}, {
        "ct600.group_relief": "18200"}),
    ("and 73,000 of profits 36,400", (books(73_000), group([(*LATER, 100_000, 40_000)])), {}, {"ct600.group_relief": "36400"}),
    ("two companies for the same days: no more than their profits together", (
        books(73_000), group([(*LATER, 100_000, 30_000), (*LATER, 100_000, 30_000)])), {}, {"ct600.group_relief": "36400"}),
    ("one for the whole period leaves room for another: 40,000 and 18,200", (
        books(73_000), group([(*SAME, 40_000, 40_000), (*LATER, 36_500, 18_200)])), {}, {"ct600.group_relief": "56455"}),
    ("a trading loss given up goes forward no more", (books(-30_000), group(given=[("trade", 12_000)])), {}, {"ct600.trade_left": "18000"}),
    ("of a deficit the rest is used here", (books(30_000), other(interest_paid="3000"), group(given=[("deficit", 1_000)])), {}, {
        "ct600.deficit_used": "2000", "ct600.taxable": "28000", "ct600.deficit_left": "0"}),
    ("a loss of lettings above the profits", (books(1_000), other(rents="0", property_costs="5000"), group(given=[("property", 3_000)])), {}, {
        "ct600.taxable": "0", "ct600.property_left": "1000"}),
    # CTA 2010 ss. 455 to 464A: what is repaid within nine months, and later
    ("repaid later: 33.75% of 8,000 are given back", (books(0), loan(20_000, later="8000", later_on="2026-03-01")), {}, {
        "ct600a.charged": "6750.00", "ct600a.later_relief": "2700.00", "ct600a.tax": "4050.00"}),
    ("some within nine months, some later", (books(0), loan(20_000, repaid="5000", later="8000", later_on="2026-03-01")), {}, {
        "ct600a.early_relief": "1687.50", "ct600a.later_relief": "2700.00", "ct600a.tax": "2362.50"}),
    ("at the rate at which it was charged", (books(0), loan(10_000, "2022-03-01", later="10000", later_on="2023-12-01")),
     {"begins": "2022-01-01", "ends": "2022-12-31"}, {"ct600a.charged": "3250.00", "ct600a.tax": "0"}),
    # CAA 2001 s. 51A(7): less of the annual allowance
    ("no more of it than claimed, the rest at 18%", (books(100_000), plant(bought(30_000), investment_claim="10000")), {}, {
        "plant.investment": "10000", "plant.main_written": "3600"}),
    # CAA 2001 ss. 83 to 89: a pool for one asset
    ("its first year", (books(100_000), plant(short(10_000))), {}, {"plant.single_written": "1800", "plant.single_after": "8200", "plant.main_written": "0"}),
    ("its next one", (books(100_000), plant(short(10_000, bought="2023-06-01", left="8200"))), {}, {"plant.single_written": "1476", "plant.single_after": "6724"}),
    ("sold for less than is left: the rest is allowed", (
        books(100_000), plant(short(10_000, bought="2023-06-01", left="8200", sold="2024-09-01", proceeds="2000"))), {}, {
        "plant.single_written": "6200", "plant.single_after": "0", "plant.charges": "0"}),
    ("for more: charged", (books(100_000), plant(short(10_000, bought="2023-06-01", left="8200", sold="2024-09-01", proceeds="9000"))), {}, {
        "plant.charges": "800", "plant.single_written": "0"}),
    ("never above its cost", (books(100_000), plant(short(10_000, bought="2023-06-01", left="8200", sold="2024-09-01", proceeds="12000"))), {}, {
        "plant.charges": "1800"}),
    ("a small one is not written off whole: 180 of 1,000", (books(100_000), plant(short(1_000))), {}, {"plant.single_written": "180"}),
    ("one that had the annual allowance: what it fetches is charged", (
        books(100_000), plant(short(5_000, bought="2023-06-01", claim="investment", sold="2024-09-01", proceeds="3000"), main_before="10000")), {}, {
        "plant.charges": "3000", "plant.main_written": "1800"}),
    ("eight years after the end of its first period it joins the main pool in the next", (
        books(100_000), plant(short(20_000, **OLD))), OF_2025, {"plant.main_in": "10000", "plant.main_written": "1800", "plant.single_written": "0"}),
    ("and not in the one that ends with them", (books(100_000), plant(short(20_000, **OLD | {"bought": "2017-06-01"}))), OF_2025, {
        "plant.main_in": "0", "plant.single_written": "1800"}),
    ("the trade ceased: all that is left", (books(100_000), plant(short(10_000, bought="2023-06-01", left="8200"))), {"ceased": "2025-03-31"}, {
        "plant.single_written": "8200", "plant.single_after": "0"}),
    ("half a year: 18% of 183 days", (books(100_000), plant(short(10_000))), {"ends": "2024-09-30"}, {"plant.single_written": "903"}),
    # SI 1998/3175: quarterly payments
    ("a large company: four quarters", (books(2_000_000),), {"large_before": "yes"}, {
        "instalments.first": "125000.00", "instalments.second": "125000.00", "instalments.third": "125000.00", "instalments.last": "125000.00"}),
    ("its first year of such profits is spared", (books(2_000_000),), {}, {"instalments.first": "0"}),
    ("but not above ten million", (books(10_000_001),), {}, {"instalments.last": "625000.07"}),
    ("an associated company halves the limits", (books(800_000),), {"associates": "1", "large_before": "yes"}, {"instalments.first": "50000.00"}),
    ("exempt dividends count: 1,400,000 and 100,001", (books(1_400_000), other(dividends="100001")), {"large_before": "yes"}, {
        "instalments.first": "87500.00"}),
    ("the tax on loans is in them", (books(2_000_000), loan(40_000)), {"large_before": "yes"}, {"instalments.first": "128375.00"}),
    ("five months: three fifths, then the rest", (books(1_000_000),), {"ends": "2024-08-31", "large_before": "yes"}, {
        "instalments.first": "150000.00", "instalments.second": "0", "instalments.last": "100000.00"}),
    ("three months: one", (books(1_000_000),), {"ends": "2024-06-30", "large_before": "yes"}, {
        "instalments.first": "0", "instalments.last": "250000.00"}),
    ("little tax is not divided", (books(30_000), other(dividends="1600000")), {"large_before": "yes"}, {
        "instalments.first": "0"}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        agree(self, CASES)

    def test_a_claim_whose_days_are_missing_gives_nothing_and_spoils_nothing(self):
        run = result(books(1_000), group([(*SAME, 900, 600), ("", "", 900, 300)])).run
        self.assertEqual(run.form("uk.ct600c").claimed, D(600))

    def test_each_row_of_the_grid_comes_to_what_it_closes_with(self):
        """Opening and additions, less disposals and what is allowed, with what is charged, are what is left."""
        form = result(books(100_000), plant(
            bought(8_000, bought="2020-01-01", sold="2024-09-01", proceeds="3000", claim="none"), bought(9_000, "special", claim="none"),
            short(10_000, bought="2023-06-01", left="8200", sold="2024-09-01", proceeds="9000"), short(4_000),
            bought(5_000), bought(6_000, "special", claim="first"), main_before="2000", special_before="1000")).run.form("uk.plant")  # fmt: skip
        for pool in ("main", "special", "single"):
            with self.subTest(pool):
                names = ("joined" if pool == "special" else "added", "out", "written", "charged", "after")
                parts = [getattr(form, f"{pool}_{name}") for name in names]
                opening = form.single_before if pool == "single" else getattr(form.paper, f"{pool}_before")
                added, out, written, charged, after = parts
                self.assertEqual(opening + added - out - written + charged, after)
        self.assertEqual((form.main_charged, form.single_charged, form.charges), (1_000, 800, 1_800))

    def test_days_of_instalments(self):
        """Six months and thirteen days after the first day, every three months, three months and fourteen days after the last."""
        large = result(books(2_000_000), large_before="yes").run.form("uk.instalments")
        very = result(books(24_000_000)).run.form("uk.instalments")
        self.assertEqual([day for day, _ in large.payments()],
                         [date(2024, 10, 14), date(2025, 1, 14), date(2025, 4, 14), date(2025, 7, 14)])  # fmt: skip
        self.assertEqual([day for day, _ in very.payments()],
                         [date(2024, 6, 14), date(2024, 9, 14), date(2024, 12, 14), date(2025, 3, 14)])  # fmt: skip
        self.assertEqual(sum(amount for _, amount in very.payments()), 6_000_000)

    def test_a_pool_of_one_asset_comes_along(self):
        rolled = roll_forward(result(books(9), plant(short(10_000)), about(director="Isla Weir")))
        rows = next(one.values["assets"] for one in rolled.data.papers if one.kind == "plant")
        self.assertEqual([(one["cost"], one["short"], one["left"]) for one in rows], [("10000", "yes", "8200.00")])
