"""Every diagnostic of the company return speaks when it should, and is silent once that is mended."""

from unittest import TestCase

from taxcore.packs.uk.company import PACK
from taxcore.packs.uk.company.tests.test_worked import (
    BEFORE,
    SAME,
    about,
    balance,
    books,
    bought,
    gains,
    group,
    loan,
    losses,
    other,
    paper,
    plant,
    result,
    sold,
)

SALES = ("Sales", "turnover", -1_000)


def tried(account, heading="expense", more=None, net=1_000):
    return balance(SALES, (account, heading, net, more or {}))


def adjusted(amount):
    return books(1_000, adjustments=[{"id": "1", "what": "Late", "by": "add", "amount": amount}])


def large(turnover, assets):
    return balance(("Sales", "turnover", -turnover), ("Building", "fixed", assets), ("Reserves", "reserves", turnover - assets))


def sized(size, accounts, **values):
    return paper("accounts", **dict(accounts.values) | {"size": size} | values)


def noted(at):
    return paper("notes", lines=[{"id": "1", "at": at, "says": "Agreed."}])


NOTE = [{"id": "1", "what": "Vans", "cost_before": "800", "bought": "300", "charged": "100"}]  # 1,000 are left


def kept(amount):
    return paper("accounts", reserves_before=amount, rows=tried("Wages").values["rows"])


def building(**values):
    return paper("plant", buildings=[{"id": "1", "what": "Shop", "since": "2020-05-01", "cost": "9"} | values])


def reliefs(**values):
    return paper("reliefs", **values)


def interest_before(amount, **values):
    row = {
        "id": "1",
        "begun": BEFORE[0],
        "ended": BEFORE[1],
        "profits": "50",
        "interest": amount,
        "tax_before": "9",
        "tax_after": "3",
    }
    return paper("losses", earlier=[row], **values)


ROW = (*BEFORE, 50, 9, 3)
YEAR = (*SAME, 9, 9)
PAGES = {"abroad": "CT600B", "insurance": "CT600D", "charity": "CT600E", "ships": "CT600F", "royalties": "CT600H", "oil": "CT600I",
         "schemes": "CT600J", "research": "CT600L", "freeports": "CT600M", "homes": "CT600N", "creative": "CT600P"}  # fmt: skip
BACK = {"back": "yes"}
CLOSE = {"close": "yes"}
# Code; papers that make it speak; papers that do not; options of both
CASES = (
    ("uk.ct-no-accounts", (), (books(9),), {}),
    ("uk.ct-accounts-untagged", (books(9),), (tried("Wages"),), {}),
    ("uk.ct-unbalanced", (balance(SALES),), (tried("Wages"),), {}),
    ("uk.ct-both-sides", (tried("Wages", more={"credit": "5"}),), (tried("Wages"),), {}),
    ("uk.ct-no-amount", (tried("Wages", net=0),), (tried("Wages"),), {}),
    ("uk.ct-account-twice", (tried("sales "),), (tried("Wages"),), {}),
    ("uk.ct-profit-differs", (paper("accounts", profit="5", rows=tried("Wages").values["rows"]),), (tried("Wages"),), {}),
    ("uk.ct-opening", (kept("5"),), (kept("0"),), {}),
    ("uk.ct-posted-twice", (paper("accounts", posted="yes", rows=tried("Tax charge", "tax").values["rows"]),), (tried("Tax charge", "tax"),), {}),
    ("uk.ct-turnover-none", (paper("accounts", profit="5"),), (books(5),), {}),
    ("uk.ct-suggested", (tried("Entertaining"),), (tried("Entertaining", more={"treatment": "disallowed"}),), {}),
    ("uk.ct-treatment-balance", (tried("Bank", "cash", {"treatment": "trade"}),), (tried("Bank", "cash"),), {}),
    ("uk.ct-tax-in-profit", (tried("Corporation tax"),), (tried("Corporation tax", "tax"),), {}),
    ("uk.ct-provision", (tried("Provision for repairs"),), (tried("Provision for repairs", more={"treatment": "disallowed"}),), {}),
    ("uk.ct-legal", (tried("Legal fees"),), (tried("Wages"),), {}),
    ("uk.ct-political", (tried("Political party"),), (tried("Wages"),), {}),
    ("uk.ct-research", (tried("Research"),), (tried("Wages"),), {}),
    ("uk.ct-car-lease", (tried("Car lease"),), (tried("Van lease"),), {}),
    ("uk.ct-director-loan", (tried("Director's loan", "debtors"),), (tried("Director's loan", "debtors"), loan(1_000)), {}),
    ("uk.ct-accounts-days", (books(9, begun="2024-04-02"),), (books(9, begun="2024-04-01"),), {}),
    ("uk.ct-accounts-long", (books(9, ended="2025-10-02"),), (books(9, ended="2025-09-30"),), {}),
    ("uk.ct-by-date", (paper("accounts", ended="2025-09-30", rows=tried("Donation").values["rows"]),), (tried("Donation"),), {}),
    ("uk.ct-adjustment-large", (adjusted("501"),), (adjusted("500"),), {}),
    ("uk.ct-allowances-could", (tried("Depreciation"),), (tried("Depreciation"), plant(main_before="9")), {}),
    ("uk.ct-ceased-day", (books(9), about(ceased="2024-03-31")), (books(9), about(ceased="2025-03-31")), {}),
    ("uk.ct-ceased-not-end", (books(9), about(ceased="2025-03-30")), (books(9), about(ceased="2025-03-31")), {}),
    ("uk.ct-holding-not-close", (about(investment_holding="yes"),), (about(investment_holding="yes", close="yes"),), {}),
    ("uk.ct-close-unsaid", (loan(9),), (loan(9), about(close="yes")), {}),
    ("uk.ct-associates-many", (about(associates="21"),), (about(associates="20"),), {}),
    ("uk.ct-instalments", (books(1_500_001),), (books(1_500_001), about(large_before="yes")), {}),
    ("uk.ct-tax-deducted", (books(9), about(tax_deducted="10")), (books(9), about(tax_deducted="9")), {}),
    ("uk.ct-marginal", (books(50_001),), (books(50_000),), {}),
    ("uk.ct-dormant", (books(0),), (books(1),), {}),
    ("uk.ct-plant-day", (plant(bought(9, bought="2025-04-01")),), (plant(bought(9, bought="2025-03-31")),), {}),
    ("uk.ct-plant-used", (plant(bought(9, used="yes", claim="first")),), (plant(bought(9, used="yes")),), {}),
    ("uk.ct-plant-car", (plant(bought(9, "car", claim="first")),), (plant(bought(9, "car")),), {}),
    ("uk.ct-plant-early", (plant(bought(9, bought="2021-03-31", claim="first")),), (plant(bought(9, bought="2021-04-01", claim="first")),), {}),
    ("uk.ct-sold-unsaid", (plant(bought(9, sold="2024-09-01")),), (plant(bought(9, sold="2024-09-01", proceeds="0")),), {}),
    ("uk.ct-new-allowance", (plant(bought(9, bought="2026-01-01", claim="none")),), (plant(bought(9, bought="2025-12-31", claim="none")),),
     {"begins": "2025-04-01", "ends": "2026-03-31"}),
    ("uk.ct-first-could", (plant(bought(9, claim="none")),), (plant(bought(9)),), {}),
    ("uk.ct-investment-above", (plant(bought(9), investment_share="8"),), (plant(bought(9), investment_share="9"),), {}),
    ("uk.ct-share-above", (plant(investment_share="1000001"),), (plant(investment_share="1000000"),), {}),
    ("uk.ct-claim-above", (plant(main_before="10000", main_claim="1801"),), (plant(main_before="10000", main_claim="1800"),), {}),
    ("uk.ct-claimed-less", (plant(main_before="10000", main_claim="1799"),), (plant(main_before="10000", main_claim="1800"),), {}),
    ("uk.ct-building-day", (building(since="2025-04-01"),), (building(since="2025-03-31"),), {}),
    ("uk.ct-building-sold", (building(until="2024-09-01"),), (building(),), {}),
    ("uk.ct-loss-could", (books(-9),), (books(-9), losses(this_year="yes")), {}),
    ("uk.ct-loss-no-period", (books(-9), losses(**BACK)), (books(-9), losses(ROW, **BACK)), {}),
    ("uk.ct-loss-order", (books(-9), other(interest="50"), losses(ROW, **BACK)), (books(-9), other(interest="50"), losses(ROW, this_year="yes", **BACK)),
     {}),
    ("uk.ct-loss-ceased", (books(-9), about(ceased="2025-03-31")), (books(-9),), {}),
    ("uk.ct-losses-above", (books(100), losses(trade_before="100", allowance="10")), (books(100), losses(trade_before="55", allowance="10")), {}),
    ("uk.ct-allowance-above", (losses(allowance="5000001"),), (losses(allowance="5000000"),), {}),
    ("uk.ct-loss-period", (losses(("2022-04-01", "2023-03-31", 9, 0, 0)),), (losses(ROW),), {}),
    ("uk.ct-loss-tax-missing", (books(-9), losses((*BEFORE, 50), **BACK)), (books(-9), losses(ROW, **BACK)), {}),
    ("uk.ct-loss-tax", (losses((*BEFORE, 50, 5, 6)),), (losses((*BEFORE, 50, 6, 6)),), {}),
    ("uk.ct-surrender-above", (books(-9), group(given=[("trade", 10)])), (books(-9), group(given=[("trade", 9)])), {}),
    ("uk.ct-surrender-above", (books(9), other(interest_paid="5"), group(given=[("deficit", 6)])),
     (books(9), other(interest_paid="5"), group(given=[("deficit", 5)])), {}),
    ("uk.ct-surrender-above", (books(9), other(property_costs="15"), group(given=[("property", 7)])),
     (books(9), other(property_costs="15"), group(given=[("property", 6)])), {}),
    ("uk.ct-surrender-above", (books(9), reliefs(donations="15"), group(given=[("donations", 7)])),
     (books(9), reliefs(donations="15"), group(given=[("donations", 6)])), {}),
    ("uk.ct-group-both", (group([YEAR], [("deficit", 1)]),), (group([YEAR]),), {}),
    ("uk.ct-group-above", (books(9), group([(*SAME, 20, 10)])), (books(9), group([(*SAME, 20, 9)])), {}),
    ("uk.ct-group-lost", (books(99), group([(*SAME, 9, 10)])), (books(99), group([(*SAME, 10, 10)])), {}),
    ("uk.ct-group-days", (books(9), group([("2025-04-01", "2026-03-31", 9, 9)])), (books(9), group([YEAR])), {}),
    ("uk.ct-group-consent", (books(9), group([YEAR], consented="")), (books(9), group([YEAR])), {}),
    ("uk.ct-group-copy", (books(9), group([YEAR])), (books(9), group([YEAR], files=1)), {}),
    ("uk.ct-given-copy", (books(-9), group(given=[("trade", 9)], consented="")), (books(-9), group(given=[("trade", 9)])), {}),
    ("uk.ct-loan-later", (loan(9, later="5"),), (loan(9, later="5", later_on="2026-01-01"),), {}),
    ("uk.ct-loan-later", (loan(9, later="5", later_on="2025-12-31"),), (loan(9, repaid="5"),), {}),
    ("uk.ct-loan-later-due", (loan(9, later="5", later_on="2026-01-01"),), (loan(9, repaid="5"),), {}),
    ("uk.ct-deficit-could", (other(interest_paid="9"),), (other(interest_paid="9"), losses(deficit_back="yes")), {}),
    ("uk.ct-deficit-none", (other(interest_paid="9"), losses(ROW, deficit_back="yes")),
     (other(interest_paid="9"), interest_before("9", deficit_back="yes")), {}),
    ("uk.ct-deficit-interest", (interest_before("51"),), (interest_before("50"),), {}),
    ("uk.ct-short-kind", (plant(bought(9, "car", short="yes")),), (plant(bought(9, short="yes")),), {}),
    ("uk.ct-short-left", (plant(bought(9, bought="2020-06-01", short="yes", claim="none")),),
     (plant(bought(9, bought="2020-06-01", short="yes", claim="none", left="0")),), {}),
    ("uk.ct-short-over", (plant(bought(9, bought="2015-06-01", short="yes", left="5")),), (plant(bought(9, bought="2017-06-01", short="yes", left="5")),),
     {}),
    ("uk.ct-left-alone", (plant(bought(9, bought="2020-06-01", left="5")),), (plant(bought(9, bought="2020-06-01", left="5", short="yes")),), {}),
    *((f"uk.ct-{page.lower()}", (paper("supplementary", **{name: "yes"}),), (paper("supplementary", **{name: "no"}),), {}) for name, page in PAGES.items()),
    ("uk.ct-donations-above", (books(9), reliefs(donations="10")), (books(9), reliefs(donations="9")), {}),
    ("uk.ct-loan-day", (loan(9, "2025-04-01"),), (loan(9, "2025-03-31"),), {}),
    ("uk.ct-loan-repaid", (loan(9, repaid="10"),), (loan(9, repaid="9"),), {}),
    ("uk.ct-loan-again", (loan(9_000, repaid="5000"),), (loan(9_000, repaid="4999"),), {}),
    ("uk.ct-loan-benefit", (loan(10_001),), (loan(10_000),), {}),
    ("uk.ct-gain-day", (gains(sold(9, 5, sold="2025-04-01")),), (gains(sold(9, 5, sold="2025-03-31")),), {}),
    ("uk.ct-gain-factor", (gains(sold(9, 5)),), (gains(sold(9, 5, factor="0")),), {}),
    ("uk.ct-gain-factor-late", (gains(sold(9, 5, bought="2018-01-01", factor="0.1")),), (gains(sold(9, 5, bought="2017-12-31", factor="0.1")),), {}),
    ("uk.ct-dividends", (other(dividends="5"),), (other(interest="5"),), {}),
    ("uk.ct-turnover-debit", (tried("Sales returns", "turnover"),), (tried("Wages"),), {}),
    ("uk.ct-asset-credit", (tried("Van", "fixed", net=-5),), (tried("Van", "fixed"),), {}),
    ("uk.ct-overdrawn", (tried("Bank", "cash", net=-5),), (tried("Bank", "cash"),), {}),
    ("uk.ct-creditor-debit", (tried("Supplier", "creditors"),), (tried("Supplier", "creditors", net=-5),), {}),
    ("uk.ct-capital-missing", (tried("Wages"),), (tried("Shares", "capital", net=-5),), {}),
    ("uk.ct-no-depreciation", (tried("Van", "fixed"),), (balance(SALES, ("Van", "fixed", 900), ("Depreciation", "expense", 100)),), {}),
    ("uk.ct-net-liabilities", (tried("Supplier", "creditors", net=-5),), (tried("Van", "fixed"),), {}),
    ("uk.ct-not-micro", (large(632_001, 316_001),), (large(632_001, 316_000),), {}),
    ("uk.ct-not-micro", (large(1_000_001, 500_001),), (large(632_001, 316_001),), {"begins": "2025-04-06", "ends": "2026-03-31"}),
    ("uk.ct-not-micro", (sized("micro", large(632_001, 9), employees="11"),), (sized("micro", large(632_001, 9), employees="10"),), {}),
    ("uk.ct-not-micro", (large(632_001, 316_001),), (sized("small", large(632_001, 316_001)),), {}),
    ("uk.ct-not-small", (sized("small", large(10_200_001, 5_100_001)),), (sized("small", large(10_200_001, 5_100_000)),), {}),
    ("uk.ct-employees", (tried("Wages"),), (sized("micro", tried("Wages"), employees="0"),), {}),
    ("uk.ct-policies", (sized("small", tried("Wages")),), (sized("small", tried("Wages"), policies="Cost."),), {}),
    ("uk.ct-fixed-missing", (sized("small", tried("Van", "fixed")),), (sized("small", tried("Van", "fixed"), fixed=NOTE),), {}),
    ("uk.ct-fixed-differs", (sized("small", tried("Van", "fixed", net=999), fixed=NOTE),), (sized("small", tried("Van", "fixed"), fixed=NOTE),), {}),
    ("uk.ct-fixed-bought", (sized("small", tried("Van", "fixed"), fixed=NOTE),), (sized("small", tried("Van", "fixed"), fixed=NOTE), plant(bought(300))),
     {}),
    ("uk.ct-note-idle", (noted("uk.plant:main_written"),), (noted("uk.plant:main_written"), plant(main_before="9")), {}),
    ("uk.ct-gifts", (tried("Gifts"),), (tried("Gifts", more={"treatment": "disallowed"}),), {}),
    ("uk.ct-goodwill", (tried("Goodwill written off"),), (tried("Wages"),), {}),
    ("uk.ct-pension-paid", (tried("Pension contributions"),), (tried("Wages"),), {}),
    ("uk.ct-bonus", (tried("Bonus of director"),), (tried("Wages"),), {}),
    ("uk.ct-late-payment", (tried("Late payment of tax"),), (tried("Wages"),), {}),
    ("uk.ct-subscription", (tried("Subscriptions"),), (tried("Wages"),), {}),
    ("uk.ct-vat", (books(90_001),), (books(90_000),), {}),
    ("uk.ct-plant-twice", (plant(bought(9), bought(9)),), (plant(bought(9), bought(8)),), {}),
    ("uk.ct-plant-cost", (plant(bought(0)),), (plant(bought(1)),), {}),
    ("uk.ct-plant-car-kind", (plant(bought(9, what="Estate car")),), (plant(bought(9, what="Carpet")),), {}),
    ("uk.ct-charged", (plant(bought(9, bought="2020-01-01", sold="2024-09-01", proceeds="9"), main_before="8"),),
     (plant(bought(9, bought="2020-01-01", sold="2024-09-01", proceeds="9"), main_before="9"),), {}),
    ("uk.ct-building-cost", (building(cost=""),), (building(),), {}),
    ("uk.ct-ceased-plant", (plant(bought(9)), about(ceased="2025-03-31")), (plant(bought(9, sold="2025-03-31")), about(ceased="2025-03-31")), {}),
    ("uk.ct-loan-before", (loan(9, "2024-03-31"),), (loan(9, "2024-04-01"),), {}),
    ("uk.ct-gain-twice", (gains(sold(9, 5), sold(9, 5) | {"id": "2"}),), (gains(sold(9, 5), sold(8, 5) | {"id": "2"}),), {}),
    ("uk.ct-gain-given", (gains(sold(0, 5)),), (gains(sold(1, 5)),), {}),
    ("uk.ct-rolled-over", (gains(sold(9, 5)), plant(bought(9))), (gains(sold(9, 5)), plant(bought(9, bought="2020-01-01"))), {}),
    ("uk.ct-costs-above", (other(rents="5", property_costs="6"),), (other(rents="6", property_costs="6"),), {}),
    ("uk.ct-paid-above", (books(100), about(paid="20")), (books(100), about(paid="19")), {}),
    ("uk.ct-period-short", (books(9),), (books(9), about(ceased="2024-09-30")), {"ends": "2024-09-30"}),
    ("uk.ct-loss-kept", (gains(sold(5, 9)),), (gains(sold(9, 5)),), {}),
)  # fmt: skip


def codes(*papers, **options):
    return {one.code for one in result(*papers, **options).findings}


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for code, failing, mended, options in CASES:
            with self.subTest(code):
                self.assertIn(code, codes(*failing, **options))
                self.assertNotIn(code, codes(*mended, **options))

    def test_every_one_has_a_case(self):
        own = {code for code in PACK.diagnostics if code.startswith("uk.ct-")}
        self.assertEqual(sorted(own - {case[0] for case in CASES}), [])
        self.assertGreater(len(own), 95)
