"""British returns worked by hand from the law: each names the mistake that it catches. Pounds and pence."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, ReturnData, compute, roll_forward
from taxcore.packs.uk.individual import PACK

D = Decimal


def person(born="1980-06-15", number="AB123456C"):
    values = {"role": "taxpayer", "first_name": "Isla", "last_name": "Weir", "number": number, "reference": "1234567890"}
    return PaperValues("taxpayer", "person", values | {"birth_date": born})


def about(region="england", **values):
    return PaperValues("about", "about", {"region": region} | values)


def paper(kind, key="x1", **values):
    single = PACK.paper(kind).single
    owner = {"owner": "taxpayer"} if PACK.paper(kind).owned else {}
    return PaperValues(kind if single else key, kind, owner | values)


def pay(amount, tax="0", key="e1", **values):
    return paper("employment", key, employer="Weir Looms", pay=str(amount), tax=str(tax), **values)


def savings(amount, key="i1"):
    return paper("interest", key, payer="Bank", untaxed=str(amount))


def dividends(amount, key="d1"):
    return paper("dividends", key, company="Loch plc", dividends=str(amount))


def trade(turnover, key="t1", **values):
    return paper("trade", key, description="Mending", turnover=str(turnover), **values)


def sold(*rows, **values):
    made = [{"id": str(number), "asset": "Asset", "kind": "other"} | row for number, row in enumerate(rows, 1)]
    return paper("gains", disposals=made, **values)


def result(*papers, year=2025, **said):
    kinds = {one.kind for one in papers}
    given = () if "about" in kinds else (about(**said),)
    people = () if "person" in kinds else (person(),)
    return compute(PACK, ReturnData("uk", year, (*people, *given, *papers)))


# What it catches; papers; options; {form.attribute: amount}
CASES = (
    ("pay within the basic rate: 20% of 17,430", (pay(30_000),), {}, {"uk.income-tax.tax": "3486.00"}),
    ("pay across the higher rate: 37,700 at 20%, 9,730 at 40%", (pay(60_000),), {}, {"uk.income-tax.tax": "11432.00"}),
    ("the allowance falls by half of what is above 100,000: 12,570 less 10,000", (pay(120_000),), {}, {
        "uk.allowances.personal": "2570", "uk.income-tax.tax": "39432.00"}),
    ("no allowance from 125,140; 45% above it", (pay(150_000),), {}, {"uk.allowances.personal": "0", "uk.income-tax.tax": "53703.00"}),
    ("an odd pound above 100,000 leaves the allowance as it is", (pay(100_001),), {}, {"uk.allowances.personal": "12570"}),
    ("Scotland 2025-26: 2,827 at 19%, 12,094 at 20%, 2,509 at 21%", (pay(30_000),), {"region": "scotland"}, {
        "uk.income-tax.tax": "3482.82"}),
    ("Scotland: 16,171 at 21%, 31,338 at 42%, 5,000 at 45%", (pay(80_000),), {"region": "scotland"}, {
        "uk.income-tax.tax": "21763.80"}),
    ("Wales: as in England", (pay(60_000),), {"region": "wales"}, {"uk.income-tax.tax": "11432.00"}),
    ("savings of a basic rate taxpayer: 1,000 free", (pay(30_000), savings(1_500)), {}, {"uk.income-tax.tax_on_savings": "100.00"}),
    ("savings of a higher rate taxpayer: 500 free", (pay(60_000), savings(1_500)), {}, {"uk.income-tax.tax_on_savings": "400.00"}),
    ("none free above 125,140", (pay(150_000), savings(1_000)), {}, {"uk.income-tax.tax_on_savings": "450.00"}),
    ("the starting rate: 5,000 less earned income above the allowance", (pay(14_570), savings(5_000)), {}, {
        "uk.income-tax.starting": "3000", "uk.income-tax.tax": "600.00"}),
    ("savings alone: 12,570 and 5,000 and 1,000 free", (savings(20_000),), {}, {"uk.income-tax.tax": "286.00"}),
    ("dividends: 500 free, 8.75%", (pay(30_000), dividends(2_500)), {}, {"uk.income-tax.tax_on_dividends": "175.00"}),
    ("dividends of 2023-24: 1,000 free", (pay(30_000), dividends(2_500)), {"year": 2023}, {"uk.income-tax.tax_on_dividends": "131.25"}),
    ("dividends on top: 2,700 of the band left, 7,300 above; 500 of them free", (pay(47_570), dividends(10_000)), {}, {
        "uk.income-tax.tax_on_dividends": "2656.25"}),
    ("a director on a small salary: dividends of 40,000 of which 12,570 less 9,100 are covered", (pay(9_100), dividends(40_000)), {}, {
        "uk.income-tax.used_dividends": "3470", "uk.income-tax.tax": "3152.63"}),
    ("the allowance better against dividends than savings that are free anyway", (pay(5_000), savings(6_000), dividends(20_000)), {}, {
        "uk.income-tax.used_savings": "0", "uk.income-tax.used_dividends": "7570", "uk.income-tax.tax": "1043.88"}),
    ("Gift Aid widens the band: 800 paid is 1,000", (pay(60_000), paper("reliefs", gifts="800")), {}, {"uk.income-tax.tax": "11232.00"}),
    ("a pension contribution gives the allowance back: 8,000 paid is 10,000", (pay(120_000), paper("reliefs", relief_at_source="8000")), {}, {
        "uk.allowances.personal": "7570", "uk.income-tax.tax": "35432.00"}),
    ("a gift treated as last year's does not count here", (pay(60_000), paper("reliefs", gifts="800", gifts_to_year_before="800")), {}, {
        "uk.income-tax.tax": "11432.00"}),
    ("marriage allowance received: 252 less", (pay(30_000),), {"receives_allowance": "yes"}, {"uk.income-tax.tax": "3234.00"}),
    ("marriage allowance given: 1,260 less", (pay(12_000),), {"gives_allowance": "yes"}, {
        "uk.allowances.together": "11310", "uk.income-tax.tax": "138.00"}),
    ("blind person's allowance", (pay(30_000),), {"blind": "yes"}, {"uk.income-tax.tax": "2860.00"}),
    ("benefits are taxed, expenses deducted", (pay(30_000, car="4000", medical="600", fees="100.50"),), {}, {
        "uk.income.employments": "34499", "uk.income-tax.tax": "4385.80"}),
    ("class 4 of 2025-26: 6% of 37,700 and 2% of 9,730", (trade(60_000),), {}, {"uk.national-insurance.class_4": "2456.60"}),
    ("class 4 of 2023-24: 9%, and class 2 due by law", (trade(60_000),), {"year": 2023}, {
        "uk.national-insurance.class_4": "3587.60", "uk.national-insurance.class_2": "179.40"}),
    ("class 2 by choice in 2025-26: 52 weeks at 3.50", (trade(5_000),), {"class_2": "yes"}, {"uk.national-insurance.class_2": "182.00"}),
    ("the trading allowance instead of expenses", (trade(9_000, use_allowance="yes", goods="300"),), {}, {"uk.income.trades": "8000"}),
    ("the trading allowance makes no loss", (trade(400, use_allowance="yes"),), {}, {"uk.income.trades": "0"}),
    ("capital allowances and a charge", (trade(20_000, goods="3000", investment_allowance="2500", balancing_charge="400"),), {}, {
        "uk.income.trades": "14900"}),
    ("a loss against other income: 60,000 less 8,000", (pay(60_000), trade(2_000, goods="10000", loss_use="income")), {}, {
        "uk.income.net": "52000", "uk.income-tax.tax": "8232.00", "uk.national-insurance.class_4": "0"}),
    ("a loss is capped at 50,000", (pay(120_000), trade(0, wages="70000", loss_use="income")), {}, {
        "uk.income.losses_set": "50000", "uk.income.net": "70000"}),
    ("or at a quarter of the income", (pay(240_000), trade(0, wages="70000", loss_use="income")), {}, {"uk.income.losses_set": "60000"}),
    ("a loss carried forward is not set against pay", (pay(60_000), trade(2_000, goods="10000", loss_use="forward")), {}, {
        "uk.income.net": "60000"}),
    ("losses of before are used against the same trade", (trade(9_000, loss_before="4000"),), {}, {"uk.income.trades": "5000"}),
    ("a loss of lettings waits for rents", (pay(60_000), paper("property", rents="100", repairs="900")), {}, {
        "uk.sa105.loss_forward": "800", "uk.income.net": "60000"}),
    ("finance costs that are not relieved wait", (pay(60_000), paper("property", rents="5000", repairs="2000", home_finance="6000")), {}, {
        "uk.sa105.home_finance_forward": "3000"}),
    ("finance costs of homes: 20% of the least of costs, profits and income uncovered", (
        pay(60_000), paper("property", rents="12000", repairs="2000", home_finance="6000")), {}, {
        "uk.income.property": "10000", "uk.income-tax.finance_relief": "1200.00", "uk.income-tax.tax": "14232.00"}),
    ("profits below the finance costs", (pay(60_000), paper("property", rents="5000", repairs="2000", home_finance="6000")), {}, {
        "uk.income-tax.finance_relief": "600.00"}),
    ("the property allowance rules the relief out", (pay(60_000), paper("property", rents="5000", use_allowance="yes", home_finance="600")),
     {}, {"uk.income.property": "4000", "uk.income-tax.finance_relief": "0"}),
    ("Child Benefit: 66,000 is 30 steps of 200", (pay(66_000),), {"child_benefit": "2251"}, {"uk.charges.child_benefit": "675"}),
    ("Child Benefit of 2023-24: 55,050 is 50 steps of 100", (pay(55_050),), {"child_benefit": "2075", "year": 2023}, {
        "uk.charges.child_benefit": "1037"}),
    ("all of it from 80,000", (pay(90_000),), {"child_benefit": "2251"}, {"uk.charges.child_benefit": "2251"}),
    ("a gift keeps the benefit: adjusted net income", (pay(61_000), paper("reliefs", gifts="800")), {"child_benefit": "2251"}, {
        "uk.charges.child_benefit": "0"}),
    ("student loan, plan 2 of 2025-26: 9% of 11,530, less what was deducted", (pay(40_000, loan_deducted="500"),), {"loan": "plan_2"}, {
        "uk.charges.student_loan": "537"}),
    ("interest counts for a loan only above 2,000", (pay(40_000), savings(1_999)), {"loan": "plan_2"}, {"uk.charges.student_loan": "1037"}),
    ("and then all of it", (pay(40_000), savings(2_001)), {"loan": "plan_2"}, {"uk.charges.student_loan": "1217"}),
    ("a postgraduate loan besides: 6% above 21,000", (pay(40_000),), {"postgraduate_loan": "yes"}, {"uk.charges.postgraduate_loan": "1140"}),
    ("payments on account: half of income tax and class 4", (trade(40_000),), {}, {"uk.sa110.due": "7131.80", "uk.sa110.on_account": "3565.90"}),
    ("none where four fifths were deducted", (pay(60_000, "10500"), savings(3_500)), {}, {"uk.sa110.due": "2132.00", "uk.sa110.on_account": "0"}),
    ("none below 1,000", (pay(30_000, "3486"), dividends(5_500)), {}, {"uk.sa110.due": "437.50", "uk.sa110.on_account": "0"}),
    ("overpaid at source", (pay(30_000, "4000"),), {}, {"uk.sa110.overpaid": "514.00", "uk.sa110.repaid": "514.00"}),
    ("what was paid on account is taken off", (trade(40_000),), {"paid_on_account": "3000"}, {"uk.sa110.owed": "4131.80"}),
    ("taxed interest is charged gross and its tax taken off", (pay(60_000), paper("interest", payer="Bank", taxed_net="800")), {}, {
        "uk.income.savings": "1000", "uk.sa110.deducted": "200.00"}),
    ("State Pension and another one", (
        paper("pension", "p1", payer="DWP", state="yes", amount="11500"), paper("pension", "p2", payer="Fund", amount="9000", tax="1500")), {}, {
        "uk.income-tax.tax": "1586.00", "uk.sa110.due": "86.00"}),
    ("gains of a higher rate taxpayer: 24% of 7,000", (pay(60_000), sold({"day": "2025-06-01", "proceeds": "30000", "costs": "20000"})), {}, {
        "uk.gains-tax.taxable": "7000", "uk.gains-tax.tax": "1680.00"}),
    ("gains within the basic band: 18%", (pay(30_000), sold({"day": "2025-06-01", "proceeds": "30000", "costs": "20000"})), {}, {
        "uk.gains-tax.tax": "1260.00"}),
    ("2024-25: before and from 30 October; the exempt 3,000 against the later gain", (pay(60_000), sold(
        {"day": "2024-05-01", "proceeds": "10000", "costs": "0"}, {"day": "2024-11-01", "proceeds": "10000", "costs": "0"})), {"year": 2024}, {
        "uk.gains-tax.tax": "3680.00"}),
    ("2023-24: a home at 28%, shares at 20%; the exempt 6,000 against the home", (pay(60_000), sold(
        {"day": "2023-05-01", "kind": "residential", "proceeds": "10000", "costs": "0"}, {"day": "2023-11-01", "proceeds": "10000", "costs": "0"})),
     {"year": 2023}, {"uk.gains-tax.tax": "3120.00"}),
    ("business asset disposal relief of 2025-26: 14%", (pay(60_000), sold(
        {"day": "2025-06-01", "business": "yes", "proceeds": "103000", "costs": "0"})), {}, {"uk.gains-tax.tax": "14000.00"}),
    ("losses of the year first, even below the exempt amount", (pay(60_000), sold(
        {"day": "2025-06-01", "proceeds": "10000", "costs": "0"}, {"day": "2025-06-02", "proceeds": "0", "costs": "9000"})), {}, {
        "uk.gains-tax.taxable": "0", "uk.gains-tax.exempt": "1000"}),
    ("losses brought forward only down to the exempt amount", (pay(60_000), sold(
        {"day": "2025-06-01", "proceeds": "10000", "costs": "0"}, losses_before="9000")), {}, {
        "uk.sa108.losses_before": "7000", "uk.sa108.carried_on": "2000", "uk.gains-tax.tax": "0"}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, options, wanted in CASES:
            found = result(*papers, **options)
            for name, amount in wanted.items():
                form, _, attribute = name.rpartition(".")
                with self.subTest(catches, name=name):
                    self.assertEqual(getattr(found.run.form(form), attribute), D(amount))

    def test_a_plain_return_stops_nowhere(self):
        self.assertEqual([one.says for one in result(pay(30_000)).findings if one.weight == "stops"], [])

    def test_what_stops_by_name(self):
        for papers, code in (
            ((trade(1_000, goods="3000"),), "uk.loss-unsaid"), ((trade(1_000, goods="3000", loss_use="back"),), "uk.loss-no-year"),
            ((trade(900, use_allowance="yes"), trade(500, "t2")), "uk.trading-allowance-twice"),
            ((person("1934-01-01"), pay(9_000)), "uk.couples-allowance"), ((person(number="GB123456C"), pay(9_000)), "uk.number-prefix"),
            ((about(gives_allowance="yes", receives_allowance="yes"), pay(9_000)), "uk.allowance-transferred"),
            ((about(receives_allowance="yes"), pay(90_000)), "uk.marriage-allowance-rate"),
            ((trade(9_000, small_pool="1500"),), "uk.class-4-trades"),
            ((sold({"day": "2025-06-01", "business": "yes", "proceeds": "9", "costs": "0"}),), "uk.business-relief-lifetime"),
        ):  # fmt: skip
            with self.subTest(code):
                self.assertIn(code, {one.code for one in result(*papers).findings})
                self.assertNotIn(code, {one.code for one in result(pay(30_000)).findings})


class FromYearToYearTests(TestCase):
    def test_what_a_year_closes_opens_the_next(self):
        """A trade's loss of 8,000, one of lettings of 800, capital losses of 5,000 less 0 used; who pays comes over without amounts."""
        gone = sold({"day": "2024-06-01", "proceeds": "0", "costs": "5000"})
        here = result(
            pay(60_000),
            trade(2_000, goods="10000", loss_use="forward"),
            paper("property", rents="100", repairs="900"),
            gone,
            year=2024,
        )
        rolled = {one.kind: one.values for one in roll_forward(here).data.papers}
        self.assertEqual(D(rolled["trade"]["loss_before"]), 8_000)
        self.assertEqual(D(rolled["property"]["loss_before"]), 800)
        self.assertEqual(D(rolled["gains"]["losses_before"]), 5_000)
        self.assertEqual(rolled["employment"], {"owner": "taxpayer", "employer": "Weir Looms"})
        self.assertEqual(rolled["person"]["reference"], "1234567890")

    def test_unremittable_income_is_kept_and_shares_are_all_their_deals(self):
        deals = [{"id": "1", "day": "2019-05-01", "what": "bought", "number": "10", "amount": "40"}]
        kept = paper("foreign", payer="Fund", country="USA", income_kind="dividends", amount="500", unremittable="yes")
        here = result(pay(60_000), kept, paper("shares", "s1", company="Loch plc", deals=deals), year=2024)
        rolled = {one.kind: one.values for one in roll_forward(here).data.papers}
        self.assertEqual(rolled["foreign"]["unremittable"], "yes")
        self.assertEqual(D(rolled["foreign"]["kept_before"]), 500)
        self.assertEqual([row["number"] for row in rolled["shares"]["deals"]], ["10"])
