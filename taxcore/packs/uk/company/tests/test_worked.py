"""Companies' returns worked by hand from the law: each names the mistake that it catches. Whole pounds, tax in pence."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, Period, ReturnData, compute, roll_forward
from taxcore.packs.uk.company import PACK

D = Decimal


def company(**values):
    return PaperValues(
        "taxpayer",
        "person",
        {"role": "taxpayer", "company": "Larch Joinery Ltd", "number": "1234567890"} | {"registration": "01234567"} | values,
    )


def about(**values):
    return PaperValues("about", "about", {"associates": "0", "director": "Isla Weir"} | values)


def paper(kind, **values):
    return PaperValues(kind, kind, values)


def books(profit=0, **values):
    return paper("accounts", profit=str(profit), turnover=str(abs(profit)), **values)


def balance(*rows):
    """A trial balance of (account, heading, debit less credit)."""
    made = []
    for number, (account, heading, net, *more) in enumerate(rows, 1):
        side = {"debit": str(net)} if net > 0 else {"credit": str(-net)}
        made.append({"id": str(number), "account": account, "heading": heading} | side | (more[0] if more else {}))
    return paper("accounts", rows=made)


def plant(*rows, **values):
    made = [{"id": str(number), "what": "Thing"} | row for number, row in enumerate(rows, 1)]
    return paper("plant", assets=made, **values)


def bought(cost, sort="main", bought="2024-06-01", **values):
    return {"sort": sort, "bought": bought, "cost": str(cost)} | values


def other(**values):
    return paper("other-income", **values)


def losses(*earlier, **values):
    names = ("begun", "ended", "profits", "tax_before", "tax_after")
    return paper(
        "losses",
        earlier=[{"id": str(n)} | dict(zip(names, map(str, one), strict=False)) for n, one in enumerate(earlier, 1)],
        **values,
    )


def sold(proceeds, cost, **values):
    return {
        "id": "1",
        "asset": "Yard",
        "bought": "2010-05-01",
        "sold": "2024-09-01",
        "proceeds": str(proceeds),
        "cost": str(cost),
    } | values


def gains(*rows, **values):
    return paper("gains", disposals=list(rows), **values)


def loan(amount, made="2024-06-01", **values):
    return paper("loans", loans=[{"id": "1", "who": "Isla Weir", "made": made, "amount": str(amount)} | values])


def group(claims=(), given=(), consented="yes", files=0):
    """(begun, ended, loss, amount) of companies that gave up losses; (sort, amount) of what is given up to another one."""
    names = ("begun", "ended", "loss", "amount")
    who = {"company": "Oak Ltd", "reference": "1234567890", "consented": consented}
    claims = [{"id": str(n)} | who | dict(zip(names, map(str, one), strict=True)) for n, one in enumerate(claims, 1)]
    given = [{"id": str(n), "sort": sort, "amount": str(amount)} | who for n, (sort, amount) in enumerate(given, 1)]
    return replace(paper("group", claims=claims, given=given), attached=files)


def result(*papers, begins="2024-04-01", ends="2025-03-31", **said):
    period = Period(date.fromisoformat(begins), date.fromisoformat(ends))
    kinds = {one.kind for one in papers}
    given = [*(() if "person" in kinds else (company(),)), *(() if "about" in kinds else (about(**said),))]
    return compute(PACK, ReturnData("uk-ct", PACK.year_in(period), (*given, *papers), period=period))


CALENDAR = {"begins": "2023-01-01", "ends": "2023-12-31"}
HALF = {"begins": "2024-04-01", "ends": "2024-09-30"}
OF_2022 = {"begins": "2022-04-01", "ends": "2023-03-31"}
LONG = {"begun": "2024-04-01", "ended": "2025-09-30"}
BEFORE = ("2023-04-01", "2024-03-31")
SAME = ("2024-04-01", "2025-03-31")
TRIAL = balance(
    ("Sales", "turnover", -200_000), ("Materials", "cost", 80_000), ("Wages", "expense", 40_000), ("Depreciation", "expense", 5_000),
    ("Entertaining clients", "expense", 1_000), ("Bank interest received", "income", -500), ("Plant", "fixed", 60_000),
    ("Bank", "cash", 24_500), ("Trade creditors", "creditors", -10_000),
)  # fmt: skip

# What it catches; papers; options; {form.attribute: amount}
CASES = (
    ("small profits: 19% of 40,000", (books(40_000),), {}, {"ct600.chargeable": "7600.00"}),
    ("at the lower limit still 19%", (books(50_000),), {}, {"ct600.chargeable": "9500.00"}),
    ("marginal relief: 25,000 less 0.015 of 150,000", (books(100_000),), {}, {"ct600.relief": "2250.00", "ct600.chargeable": "22750.00"}),
    ("at the upper limit none", (books(250_000),), {}, {"ct600.relief": "0", "ct600.chargeable": "62500.00"}),
    ("an associated company halves the limits: 25,000 less 0.015 of 25,000", (books(100_000),), {"associates": "1"}, {"ct600.chargeable": "24625.00"}),
    ("exempt dividends count for the limits: 0.015 of 130,000, five sixths of it", (books(100_000), other(dividends="20000")), {}, {
        "ct600.relief": "1625.00", "ct600.chargeable": "23375.00"}),
    ("six months: limits of 183 days, 0.015 of 25,342.47", (books(100_000),), HALF, {"ct600.relief": "380.14", "ct600.chargeable": "24619.86"}),
    ("90 days at 19%, 275 at 25% less relief", (books(100_000),), CALENDAR, {
        "ct600.first_profits": "24657", "ct600.second_profits": "75343", "ct600.first_tax": "4684.83", "ct600.second_tax": "18835.75",
        "ct600.relief": "1695.20", "ct600.chargeable": "21825.38"}),
    ("financial year 2022: 19% of all", (books(300_000),), OF_2022, {"ct600.chargeable": "57000.00"}),
    ("a close investment-holding company has no small rate", (books(40_000),), {"investment_holding": "yes"}, {"ct600.chargeable": "10000.00"}),
    ("a loss bears no tax", (books(-9_000),), {}, {"ct600.chargeable": "0", "trading-profit.loss": "9000"}),
    ("depreciation and entertaining come back, interest is no trade's: 74,500 become 80,000 and 500", (TRIAL,), {}, {
        "ct600.turnover": "200000", "accounts.profit": "74500", "ct600.trading": "80000", "ct600.interest": "500", "ct600.taxable": "80500"}),
    ("adjustments besides: 700 added, 200 deducted", (books(10_000, adjustments=[
        {"id": "1", "what": "Private", "by": "add", "amount": "700"}, {"id": "2", "what": "Late", "by": "deduct", "amount": "200"}]),), {}, {
        "ct600.trading": "10500"}),
    ("eighteen months of accounts: 365 of 548 days", (books(109_600, **LONG),), {}, {"ct600.trading": "73000"}),
    ("and the rest: 183 days", (books(109_600, **LONG),), {"begins": "2025-04-01", "ends": "2025-09-30"}, {"ct600.trading": "36600"}),
    ("a donation is no expense of the trade, and comes off all profits", (balance(("Sales", "turnover", -10_000), ("Donation", "expense", 600)),), {}, {
        "ct600.trading": "10000", "ct600.donations": "600", "ct600.taxable": "9400"}),
    ("plant at once", (books(100_000), plant(bought(30_000))), {}, {"plant.investment": "30000", "ct600.trading": "70000"}),
    ("full expensing", (books(100_000), plant(bought(30_000, claim="first"))), {}, {"plant.first_main": "30000", "plant.investment": "0"}),
    ("super-deduction: 130%", (books(100_000), plant(bought(10_000, bought="2022-06-01", claim="first"))), OF_2022, {"plant.first_main": "13000"}),
    ("super-deduction in a period that goes on after it: 130% for 90 days of 365", (
        books(100_000), plant(bought(10_000, bought="2023-02-01", claim="first"))), CALENDAR, {"plant.first_main": "10740"}),
    ("after March 2023 it is 100% in the same period", (
        books(100_000), plant(bought(10_000, bought="2023-05-01", claim="first"))), CALENDAR, {"plant.first_main": "10000"}),
    ("half of special rate plant; the rest waits for the next period", (books(100_000), plant(bought(10_000, "special", claim="first"))), {}, {
        "plant.first_special": "5000", "plant.special_written": "0", "plant.special_after": "5000"}),
    ("the main pool at 18%", (books(100_000), plant(main_before="20000")), {}, {"plant.main_written": "3600", "plant.main_after": "16400"}),
    ("the special pool at 6%", (books(100_000), plant(special_before="10000")), {}, {"plant.special_written": "600"}),
    ("a small pool whole", (books(100_000), plant(main_before="900")), {}, {"plant.main_written": "900", "plant.main_after": "0"}),
    ("half a year: 18% for 183 days of 365", (books(100_000), plant(main_before="20000")), HALF, {"plant.main_written": "1805"}),
    ("and a small pool is 501 then", (books(100_000), plant(main_before="600")), HALF, {"plant.main_written": "55"}),
    ("the company's part of the annual allowance; the rest at 18%", (books(100_000), plant(bought(30_000), investment_share="10000")), {}, {
        "plant.investment": "10000", "plant.main_written": "3600", "plant.allowances": "13600"}),
    ("special rate plant first", (books(100_000), plant(bought(8_000, "special"), bought(8_000), investment_share="10000")), {}, {
        "plant.investment": "10000", "plant.special_written": "0", "plant.main_written": "1080"}),
    ("a car of 40 g", (books(100_000), plant(bought(20_000, "car"))), {}, {"plant.allowances": "3600"}),
    ("a car of 120 g", (books(100_000), plant(bought(20_000, "high"))), {}, {"plant.allowances": "1200"}),
    ("a new electric car at once", (books(100_000), plant(bought(30_000, "zero"))), {}, {"plant.allowances": "30000"}),
    ("a used one at 18%", (books(100_000), plant(bought(30_000, "zero", used="yes"))), {}, {"plant.allowances": "5400"}),
    ("sold: 18% of what is left", (books(100_000), plant(
        bought(8_000, bought="2020-01-01", sold="2024-09-01", proceeds="3000", claim="none"), main_before="10000")), {}, {
        "plant.main_written": "1260", "plant.main_after": "5740"}),
    ("no more than the cost is brought in", (books(100_000), plant(
        bought(8_000, bought="2020-01-01", sold="2024-09-01", proceeds="9000", claim="none"), main_before="10000")), {}, {"plant.main_written": "360"}),
    ("more than the pool: charged", (books(100_000), plant(
        bought(8_000, bought="2020-01-01", sold="2024-09-01", proceeds="3000", claim="none"), main_before="2000")), {}, {
        "plant.charges": "1000", "plant.main_after": "0", "ct600.trading": "101000"}),
    ("what was expensed in full is charged in full", (books(100_000), plant(
        bought(9_000, bought="2023-05-01", sold="2024-09-01", proceeds="4000", claim="first"))), {}, {"plant.charges": "4000"}),
    ("what had the super-deduction is charged 130% while it lasts", (books(100_000), plant(
        bought(9_000, bought="2021-06-01", sold="2022-09-01", proceeds="4000", claim="first"))), OF_2022, {"plant.charges": "5200"}),
    ("and 100% later", (books(100_000), plant(
        bought(9_000, bought="2021-06-01", sold="2024-09-01", proceeds="4000", claim="first"))), {}, {"plant.charges": "4000"}),
    ("of half expensed plant half is charged, half leaves the pool: 6% of 8,000", (books(100_000), plant(
        bought(9_000, "special", bought="2023-05-01", sold="2024-09-01", proceeds="4000", claim="first"), special_before="10000")), {}, {
        "plant.charges": "2000", "plant.special_written": "480"}),
    ("the trade ceased: all that is left, and nothing at once", (books(100_000), plant(bought(3_000), main_before="5000")), {"ceased": "2025-03-31"}, {
        "plant.investment": "0", "plant.main_written": "8000", "plant.main_after": "0"}),
    ("less may be claimed", (books(100_000), plant(main_before="20000", main_claim="1000")), {}, {"plant.main_written": "1000", "plant.main_after": "19000"}),
    ("of a small pool too", (books(100_000), plant(main_before="900", main_claim="100")), {}, {"plant.main_written": "100", "plant.main_after": "800"}),
    ("a building at 3%", (books(100_000), paper("plant", buildings=[{"id": "1", "what": "Shop", "since": "2020-05-01", "cost": "100000"}])), {}, {
        "plant.buildings": "3000"}),
    ("for 182 days", (books(100_000), paper("plant", buildings=[{"id": "1", "what": "Shop", "since": "2024-10-01", "cost": "100000"}])), {}, {
        "plant.buildings": "1496"}),
    ("a trading loss against all profits of the period", (books(-30_000), other(interest="10000"), losses(this_year="yes")), {}, {
        "ct600.loss_against": "10000", "ct600.taxable": "0", "ct600.trade_left": "20000"}),
    ("unless claimed it goes forward", (books(-30_000), other(interest="10000")), {}, {"ct600.taxable": "10000", "ct600.trade_left": "30000"}),
    ("losses of before against all profits", (books(30_000), other(interest="10000"), losses(trade_before="15000")), {}, {"ct600.taxable": "25000"}),
    ("no more than claimed", (books(30_000), other(interest="10000"), losses(trade_before="15000", trade_claim="5000")), {}, {
        "ct600.taxable": "35000", "ct600.trade_left": "10000"}),
    ("those of before April 2017 against the trade alone", (books(30_000), other(interest="10000"), losses(trade_before_2017="50000")), {}, {
        "ct600.old_losses": "30000", "ct600.taxable": "10000", "ct600.old_left": "20000"}),
    ("carried back twelve months", (books(-30_000), losses((*BEFORE, 50_000, 9_500, 3_800), back="yes")), {}, {
        "ct600.carried_back": "30000", "ct600.trade_left": "0", "ct600.saved_before": "5700.00"}),
    ("this period's profits first", (books(-30_000), other(interest="10000"), losses((*BEFORE, 50_000, 9_500, 5_700), this_year="yes", back="yes")), {}, {
        "ct600.carried_back": "20000"}),
    ("the latest period first, of one that is partly in the twelve months its part by days: 9,100 and 27,500", (
        books(-50_000), losses(("2023-01-01", "2023-12-31", 36_500, 0, 0), ("2024-01-01", "2024-03-31", 9_100, 0, 0), back="yes")), {}, {
        "ct600.carried_back": "36600", "ct600.trade_left": "13400"}),
    ("three years where the trade ceased", (books(-55_000), losses(
        (*BEFORE, 10_000, 0, 0), ("2022-04-01", "2023-03-31", 20_000, 0, 0), ("2021-04-01", "2022-03-31", 30_000, 0, 0), back="yes")),
     {"ceased": "2025-03-31"}, {"ct600.carried_back": "55000"}),
    ("above the allowance half: 10,000 and half of 40,000", (books(50_000), losses(trade_before="100000", allowance="10000")), {}, {
        "ct600.taxable": "20000", "ct600.trade_left": "70000"}),
    ("a loss of lettings against all profits", (books(30_000), other(rents="5000", property_costs="12000")), {}, {"ct600.taxable": "23000"}),
    ("one of before too", (books(30_000), other(rents="10000"), losses(property_before="4000")), {}, {"ct600.taxable": "36000", "ct600.property_left": "0"}),
    ("a deficit of loans against all profits", (books(30_000), other(interest_paid="3000")), {}, {"ct600.taxable": "27000"}),
    ("what it is above them goes forward", (books(1_000), other(interest_paid="3000")), {}, {"ct600.taxable": "0", "ct600.deficit_left": "2000"}),
    ("and is used later", (books(0), other(interest="5000"), losses(deficit_before="2000")), {}, {"ct600.taxable": "3000"}),
    ("donations never make a loss", (books(1_000), paper("reliefs", donations="5000")), {}, {"ct600.taxable": "0", "ct600.donations": "1000"}),
    ("group relief", (books(50_000), group([(*SAME, 20_000, 20_000)])), {}, {"ct600.taxable": "30000"}),
    ("a loss given up to others is kept no more", (books(-30_000), group(given=[("trade", 12_000)])), {}, {"ct600.trade_left": "18000"}),
    ("indexation to 2017: a quarter of 20,000", (books(0), gains(sold(50_000, 20_000, factor="0.25"))), {}, {"ct600.net_gains": "25000"}),
    ("it makes no loss", (books(0), gains(sold(21_000, 20_000, factor="0.25"))), {}, {"ct600.net_gains": "0", "ct600.capital_left": "0"}),
    ("capital losses of before", (books(0), gains(sold(50_000, 25_000), losses_before="10000")), {}, {"ct600.net_gains": "15000"}),
    ("a capital loss waits for gains", (books(30_000), gains(sold(5_000, 8_000), losses_before="1000")), {}, {
        "ct600.taxable": "30000", "ct600.capital_left": "4000"}),
    ("a loan to a participator: 33.75%", (books(0), loan(20_000)), {}, {"ct600a.tax": "6750.00", "ct600.payable": "6750.00"}),
    ("repaid within nine months", (books(0), loan(20_000, repaid="5000")), {}, {"ct600a.tax": "5062.50"}),
    ("lent before 6 April 2022: 32.5%", (books(0), loan(10_000, "2022-03-01")), {"begins": "2022-01-01", "ends": "2022-12-31"}, {"ct600a.tax": "3250.00"}),
    ("an associated company in a period of two years' law: 4,684.83 and 18,835.75 less 0.015 of 18,835.08", (books(100_000),),
     CALENDAR | {"associates": "1"}, {"ct600.relief": "282.53", "ct600.chargeable": "23238.05"}),
    ("a leap year: two parts of 91 and 275 days come to what one would", (books(100_000),), {"begins": "2024-01-01", "ends": "2024-12-31"}, {
        "ct600.first_profits": "24863", "ct600.relief": "2250.00", "ct600.chargeable": "22750.00"}),
    ("three months: 249,315 of the annual allowance, rounded up, and the rest at 18% of 91 days", (books(400_000), plant(bought(300_000))),
     {"ends": "2024-06-30"}, {"plant.investment": "249316", "plant.main_written": "2275"}),
    ("a loss smaller than other profits", (books(-5_000), other(interest="10000"), losses(this_year="yes")), {}, {
        "ct600.loss_against": "5000", "ct600.taxable": "5000"}),
    ("losses of before in their order: of the trade, of lettings, of loans", (
        books(4_000), losses(trade_before="3000", property_before="2000", deficit_before="1000")), {}, {
        "ct600.trade_before": "3000", "ct600.property_losses": "1000", "ct600.deficit_before": "0", "ct600.property_left": "1000",
        "ct600.deficit_left": "1000", "ct600.taxable": "0"}),
    ("donations before group relief", (books(1_000), paper("reliefs", donations="300"), group([(*SAME, 2_000, 2_000)])), {}, {
        "ct600.donations": "300", "ct600.group_relief": "700", "ct600.taxable": "0"}),
    ("lettings of long accounts by days too", (paper("accounts", **LONG, rows=balance(
        ("Sales", "turnover", -54_800), ("Rent received", "income", -5_480)).values["rows"]),), {}, {"ct600.trading": "36500", "ct600.property": "3650"}),
    ("old losses against the trade first, newer ones against what is left", (books(10_000), losses(trade_before_2017="4000", trade_before="20000")), {}, {
        "ct600.net_trading": "6000", "ct600.trade_before": "6000", "ct600.trade_left": "14000", "ct600.taxable": "0"}),
    ("dividends lift it above the upper limit", (books(240_000), other(dividends="20000")), {}, {"ct600.relief": "0", "ct600.chargeable": "60000.00"}),
    ("and above the lower one: 0.015 of 195,000, 45 of 55 parts", (books(45_000), other(dividends="10000")), {}, {
        "ct600.relief": "2393.18", "ct600.chargeable": "8856.82"}),
    ("what was paid is taken off", (books(40_000),), {"paid": "5000"}, {"ct600.owed": "2600.00"}),
    ("and repaid where it was too much", (books(40_000),), {"paid": "9000"}, {"ct600.repaid": "1400.00", "ct600.owed": "0"}),
    ("income tax taken off", (books(40_000),), {"tax_deducted": "600"}, {"ct600.owed": "7000.00"}),
)  # fmt: skip


def agree(test, cases):
    """Each case comes to what was worked out by hand."""
    for catches, papers, options, wanted in cases:
        run = result(*papers, **options).run
        for name, amount in wanted.items():
            form, _, attribute = name.rpartition(".")
            with test.subTest(catches, name=name):
                test.assertEqual(getattr(run.form(f"uk.{form}"), attribute), D(amount))


class WorkedTests(TestCase):
    def test_by_hand(self):
        agree(self, CASES)

    def test_a_period_opens_with_what_the_last_one_kept(self):
        """16,400 of the main pool, a loss of 9,000 with the allowances of 3,600, an asset that was not sold."""
        here = result(
            books(-9_000),
            plant(
                bought(500, "car", bought="2020-01-01"), bought(50, sold="2024-07-01", bought="2020-01-01"), main_before="20000"
            ),
        )
        rolled = roll_forward(here).data
        papers = {one.kind: one.values for one in rolled.papers}
        self.assertEqual((rolled.period.start, rolled.period.end), (date(2025, 4, 1), date(2026, 3, 31)))
        self.assertEqual(D(papers["plant"]["main_before"]), 16_400)
        self.assertEqual(D(papers["losses"]["trade_before"]), 12_600)
        self.assertEqual([one["cost"] for one in papers["plant"]["assets"]], ["500"])
        self.assertEqual(papers["person"]["registration"], "01234567")

    def test_what_became_of_an_account_is_known_the_next_time(self):
        """Accounts come along with heading and treatment, without their amounts."""
        here = result(balance(("Sales", "turnover", -900), ("Wages", "expense", 900, {"treatment": "disallowed"})))
        rows = next(one.values["rows"] for one in roll_forward(here).data.papers if one.kind == "accounts")
        self.assertEqual([(one["account"], one.get("treatment"), one.get("debit")) for one in rows],
                         [("Sales", None, None), ("Wages", "disallowed", None)])  # fmt: skip
