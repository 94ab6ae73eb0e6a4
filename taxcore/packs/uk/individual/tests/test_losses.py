"""Losses where they may be set, shares of partnerships in full, lump sums, investments: worked by hand, each names its mistake."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import roll_forward
from taxcore.packs.uk.individual.tests.test_gains import home
from taxcore.packs.uk.individual.tests.test_trades import partner
from taxcore.packs.uk.individual.tests.test_worked import about, dividends, paper, pay, result, savings, sold, trade

D = Decimal


def lost(amount, key="t1", *years, **values):
    """A trade that lost so much; `years` are (year, income, profit, tax before, tax after) of earlier ones."""
    return trade(0, key, goods=str(amount), earlier=reached(*years), **values)


def reached(*years):
    names = ("of_year", "income", "profit", "tax_before", "tax_after")
    return [{"id": str(n)} | dict(zip(names, map(str, one), strict=True)) for n, one in enumerate(years, 1)]


BAD_SHARES = {
    "kind": "unlisted",
    "day": "2025-06-01",
    "proceeds": "1000",
    "costs": "9000",
    "to_income": "yes",
    "subscribed": "yes",
}
ROOM = {"let_beside": "yes", "let_percent": "20", "let_begun": "2016-01-01", "let_ended": "2020-12-31"}
FLOOR = {"let_beside": "yes", "let_percent": "40", "let_begun": "2011-01-01", "let_ended": "2025-12-31"}
STATE = {"payer": "DWP", "state": "yes", "lump_sum": "12000"}

# What it catches; papers; options; {form.attribute: amount}
CASES = (
    ("two trades lose, both against income: 60,000 less 8,000 less 3,000", (
        pay(60_000), lost(8_000, loss_use="income"), lost(3_000, "t2", loss_use="income")), {}, {
        "uk.income.net": "49000", "t1.loss_against_income": "8000", "t2.loss_against_income": "3000"}),
    ("the cap is one for all: 50,000, of which 10,000 are left for the second", (
        pay(150_000), lost(40_000, loss_use="income"), lost(30_000, "t2", loss_use="income")), {}, {
        "uk.income.net": "100000", "t1.loss_against_income": "40000", "t2.loss_against_income": "10000", "t2.loss_forward": "20000"}),
    ("a quarter of 240,000 where that is more", (pay(240_000), lost(70_000, loss_use="income")), {}, {
        "uk.income.net": "180000", "t1.loss_forward": "10000"}),
    ("a trade and a partnership", (pay(60_000), lost(8_000, loss_use="income"), partner(-4_000, loss_use="income")), {}, {"uk.income.net": "48000"}),
    ("carried back: 12,000 at 20%, given as less tax of an earlier year", (
        lost(12_000, "t1", (2024, 30_000, 0, 3_486, 1_086), loss_use="back"),), {}, {
        "t1.loss_carried_back": "12000", "t1.loss_forward": "0", "uk.sa110.earlier_less": "2400.00", "uk.sa110.overpaid": "2400.00"}),
    ("no more than the income of that year: 7,500 go forward", (
        lost(20_000, "t1", (2024, 12_500, 0, 0, 0), loss_use="back"),), {}, {"t1.loss_carried_back": "12500", "t1.loss_forward": "7500"}),
    ("the cap is for income other than of the trade: 50,000 and 30,000", (
        lost(90_000, "t1", (2024, 100_000, 30_000, 27_432, 0), loss_use="back"),), {}, {
        "t1.loss_carried_back": "80000", "t1.loss_forward": "10000"}),
    ("this year first, then the year before", (
        pay(20_000), lost(35_000, "t1", (2024, 40_000, 0, 5_486, 2_486), loss_use="both")), {}, {
        "t1.loss_against_income": "20000", "t1.loss_carried_back": "15000", "t1.loss_forward": "0", "uk.income.net": "0"}),
    ("the year before first, then this one", (
        pay(20_000), lost(35_000, "t1", (2024, 10_000, 0, 0, 0), loss_use="back_first")), {}, {
        "t1.loss_carried_back": "10000", "t1.loss_against_income": "20000", "t1.loss_forward": "5000"}),
    ("of opening years the earliest first: 12,000, 11,000, 7,000", (
        lost(30_000, "t1", (2024, 50_000, 0, 7_486, 6_086), (2022, 12_000, 0, 0, 0), (2023, 11_000, 0, 0, 0), loss_use="opening",
             begun="2024-07-01"),), {}, {
        "t1.loss_carried_back": "30000", "t1.loss_forward": "0", "uk.sa110.earlier_less": "1400.00"}),
    ("at the end profits of the trade alone, the latest first: 5,000, 4,000, 3,000 of 12,000", (
        lost(10_000, "t1", (2022, 60_000, 9_000, 900, 300), (2024, 60_000, 5_000, 1_500, 500), (2023, 60_000, 4_000, 1_200, 400),
             loss_use="end", ended="2025-12-31", end_before="2000"),), {}, {
        "t1.loss_carried_back": "12000", "t1.loss_forward": "0", "uk.sa110.earlier_less": "2400.00"}),
    ("at the end there is no cap", (
        lost(90_000, "t1", (2024, 95_000, 95_000, 30_000, 0), loss_use="end", ended="2025-12-31"),), {}, {"t1.loss_carried_back": "90000"}),
    ("a year that the loss does not reach takes nothing", (
        lost(9_000, "t1", (2024, 30_000, 0, 3_486, 0), loss_use="income"),), {}, {"t1.loss_carried_back": "0", "uk.sa110.earlier_less": "0"}),
    ("a partner's loss of the year before", (
        partner(-8_000, loss_use="back", earlier=reached((2024, 30_000, 0, 3_486, 1_886))),), {}, {
        "p1.loss_carried_back": "8000", "uk.sa110.overpaid": "1600.00"}),
    ("set against income it still lowers class 4 of a later year: 6% of 19,430", (trade(40_000, class_4_before="8000"),), {}, {
        "uk.income.trades": "40000", "uk.national-insurance.class_4": "1165.80", "t1.class_4_left": "0"}),
    ("and is kept for it", (pay(60_000), lost(8_000, loss_use="income")), {}, {"t1.class_4_left": "8000"}),
    ("of 12,000 carried back 7,000 met profits of the trade: only 5,000 are kept", (
        lost(12_000, "t1", (2024, 30_000, 7_000, 3_486, 1_086), loss_use="back"),), {}, {"t1.class_4_left": "5000"}),
    ("carried forward it is not kept twice", (pay(60_000), lost(8_000, loss_use="forward")), {}, {"t1.class_4_left": "0"}),
    ("a share of 15,000 of the transition part less 5,000: a fifth", (partner(40_000, transition_part="15000", overlap="5000"),), {"year": 2023}, {
        "p1.transition": "2000", "p1.transition_left": "8000", "uk.national-insurance.class_4": "2648.70"}),
    ("a partner leaves: all that is left", (partner(40_000, transition_before="6000", ended="2025-10-01"),), {}, {"p1.transition": "6000"}),
    ("lettings of the firm are income, without class 4", (partner(30_000, property="4000"),), {}, {
        "uk.income.property": "4000", "uk.income.total_income": "34000", "uk.national-insurance.class_4": "1045.80"}),
    ("their loss waits for profits of the firm's lettings", (partner(30_000, property="-3000"), paper("property", rents="9000")), {}, {
        "uk.income.property": "9000", "p1.property_left": "3000"}),
    ("and is used by them", (partner(30_000, property="5000", property_before="3000"),), {}, {
        "uk.income.property": "2000", "p1.property_left": "0"}),
    ("800 of taxed interest are 1,000, and 200 were taken off", (partner(30_000, interest_taxed="800"),), {}, {
        "uk.income.savings": "1000", "uk.sa110.deducted": "200.00"}),
    ("dividends of the firm", (pay(30_000), partner(0, dividends="2500")), {}, {"uk.income-tax.tax_on_dividends": "175.00"}),
    ("other income of the firm is taxed and bears no class 4", (partner(30_000, other_income="1000"),), {}, {
        "uk.income.earned": "31000", "uk.national-insurance.class_4": "1045.80"}),
    ("of uncrystallised funds three quarters: 20% of 30,000 less 12,570", (
        paper("pension", payer="Fund", lump_sum="40000", lump_kind="uncrystallised"),), {}, {"uk.income-tax.tax": "3486.00"}),
    ("above the allowance for lump sums all of it", (
        paper("pension", payer="Fund", amount="20000", lump_sum="10000", lump_kind="whole"),), {}, {"uk.income-tax.tax": "3486.00"}),
    ("tax on a lump sum is credited", (
        paper("pension", payer="Fund", lump_sum="40000", lump_kind="uncrystallised", lump_tax="9000"),), {}, {"uk.sa110.overpaid": "5514.00"}),
    ("the State Pension's lump sum at 20%, and no part of income", (pay(30_000), paper("pension", **STATE)), {}, {
        "uk.income-tax.tax": "5886.00", "uk.income.total_income": "30000"}),
    ("at 40% where income reaches that rate", (pay(60_000), paper("pension", **STATE)), {}, {"uk.income-tax.tax": "16232.00"}),
    ("at none where allowances cover all income", (pay(12_570), paper("pension", **STATE)), {}, {"uk.income-tax.tax": "0"}),
    ("what was taken off it is credited", (pay(30_000, 3_486), paper("pension", lump_tax="2400", **STATE)), {}, {"uk.sa110.due": "0"}),
    ("a loss of subscribed shares against income", (pay(60_000), sold(BAD_SHARES)), {}, {
        "uk.income.net": "52000", "uk.sa108.against_income": "8000", "uk.sa108.losses": "0", "uk.sa108.carried_on": "0"}),
    ("it comes before losses of trades, under one cap", (
        pay(150_000), sold(BAD_SHARES | {"costs": "31000"}), lost(30_000, loss_use="income")), {}, {
        "uk.income.net": "100000", "uk.sa108.against_income": "30000", "t1.loss_against_income": "20000"}),
    ("and lowers no gains: 10,000 less 3,000 at 24%", (
        pay(60_000), sold(BAD_SHARES, {"kind": "listed", "day": "2025-06-01", "proceeds": "13000", "costs": "3000"})), {}, {
        "uk.gains-tax.tax": "1680.00"}),
    ("where nothing is said of the conditions it stays a loss of gains", (pay(60_000), sold(BAD_SHARES | {"subscribed": ""})), {}, {
        "uk.income.net": "60000", "uk.sa108.carried_on": "8000"}),
    ("a fifth let for five years: 18,270 relieved besides", (pay(60_000), home(("lived", "2010-01-01", "2025-12-31"), **ROOM)), {}, {
        "uk.sa108.gains": "0"}),
    ("two fifths until the last nine months: 104,080 less 40,000", (pay(60_000), home(("lived", "2010-01-01", "2025-12-31"), **FLOOR)), {}, {
        "uk.sa108.gains": "64080"}),
    ("each owner has a limit: half of it", (pay(60_000), home(("lived", "2010-01-01", "2025-12-31"), percent="50", **FLOOR)), {}, {
        "uk.sa108.gains": "12040"}),
    ("sums instead of disposals: 15,000 and the 3,000 lost", (pay(60_000), paper("gains", summaries=[
        {"id": "1", "kind": "listed", "number": "12", "proceeds": "40000", "costs": "25000", "lost": "3000"}])), {}, {
        "uk.sa108.listed": "12", "uk.sa108.listed_gains": "18000", "uk.sa108.listed_losses": "3000", "uk.gains-tax.taxable": "12000"}),
    ("sums of 2024-25 before and after the change: 3,000 free of the 20% ones first", (pay(60_000), paper("gains", summaries=[
        {"id": "1", "kind": "listed", "number": "1", "proceeds": "10000"},
        {"id": "2", "kind": "listed", "number": "1", "proceeds": "10000", "late": "yes"}])), {"year": 2024}, {"uk.gains-tax.tax": "3680.00"}),
    ("30% of 10,000 of the enterprise scheme", (pay(60_000), paper("reliefs", eis="10000")), {}, {"uk.income-tax.tax": "8432.00"}),
    ("half of the seed scheme", (pay(60_000), paper("reliefs", seis="5000")), {}, {"uk.income-tax.tax": "8932.00"}),
    ("a trust above its limit: 30% of 200,000, and never below nothing", (pay(60_000), paper("reliefs", vct="250000")), {}, {
        "uk.sa101.relief": "60000", "uk.income-tax.investments": "11432.00", "uk.income-tax.tax": "0"}),
    ("a million of ordinary companies, a second one of knowledge-intensive ones", (
        pay(60_000), paper("reliefs", eis="1800000", eis_knowledge="300000")), {}, {"uk.sa101.relief": "390000"}),
    ("pounds at the average of the year: 1,300 dollars at 1.30", (
        paper("rates", rates=[{"id": "1", "currency": "USD", "what": "average", "rate": "1.30", "source": "HMRC"}]),
        paper("foreign", "f1", country="USA", payer="Elm Inc", income_kind="dividends", currency="USD", in_currency="1300")), {}, {
        "uk.income.dividends": "1000"}),
    ("and at the rate of its day where there is one", (
        paper("rates", rates=[{"id": "1", "currency": "USD", "what": "average", "rate": "1.30", "source": "HMRC"},
                              {"id": "2", "currency": "USD", "what": "day", "day": "2025-07-01", "rate": "1.25", "source": "HMRC"}]),
        paper("foreign", "f1", country="USA", payer="Elm Inc", income_kind="dividends", currency="USD", in_currency="1300",
              received="2025-07-01")), {}, {"uk.income.dividends": "1040"}),
    ("what is entered in pounds stands", (
        paper("rates", rates=[{"id": "1", "currency": "USD", "what": "average", "rate": "1.30", "source": "HMRC"}]),
        paper("foreign", "f1", country="USA", payer="Elm Inc", income_kind="dividends", currency="USD", in_currency="1300",
              amount="999")), {}, {"uk.income.dividends": "999"}),
)  # fmt: skip


def place(found, name):
    """A form by its code, or by the key of the trade or share that it is the profit of."""
    if name.startswith("uk."):
        return found.run.form(name)
    return found.run.form("uk.trading-profit" if name.startswith("t") else "uk.partnership-profit", name)


class LossTests(TestCase):
    def test_by_hand(self):
        for catches, papers, options, wanted in CASES:
            found = result(*papers, **options)
            for name, amount in wanted.items():
                form, _, attribute = name.rpartition(".")
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(place(found, form), attribute), D(amount))

    def test_a_year_opens_with_what_the_last_one_kept(self):
        """Of each source its own: a trade's loss for class 4, a share's, its lettings and its transition profit."""
        here = result(
            pay(60_000), lost(8_000, loss_use="income"),
            partner(-4_000, loss_use="income", property="-700", transition_before="1500"), year=2024,
        )  # fmt: skip
        rolled = {one.kind: one.values for one in roll_forward(here).data.papers}
        self.assertEqual(D(rolled["trade"]["class_4_before"]), 8_000)
        self.assertEqual(D(rolled["partnership"]["class_4_before"]), 4_000)
        self.assertEqual(D(rolled["partnership"]["property_before"]), 700)

    def test_the_short_pages_or_the_full_ones(self):
        for values, wanted in (({}, "uk.sa104s"), ({"dividends": "1"}, "uk.sa104f"), ({"overlap": "1"}, "uk.sa104f")):
            run = result(partner(9_000, **values)).run
            with self.subTest(values):
                self.assertEqual([form.code() for form in (*run.every("uk.sa104s"), *run.every("uk.sa104f"))], [wanted])

    def test_losses_are_never_used_twice_nor_lost(self):
        """Whatever the use: what is set and what is kept come to the loss and what was brought."""
        for use in ("forward", "income", "back", "both", "back_first", "opening"):
            years = ((2024, 9_000, 0, 0, 0), (2023, 7_000, 0, 0, 0), (2022, 5_000, 0, 0, 0))
            form = place(
                result(
                    pay(14_000), lost(33_000, "t1", *years, loss_use=use, loss_before="500"), savings(90), dividends(80), about()
                ),
                "t1",
            )
            with self.subTest(use):
                self.assertEqual(form.loss_against_income + form.loss_carried_back + form.loss_forward, 33_500)
