"""Every diagnostic of the British return speaks when it should, and is silent once that is mended."""

from dataclasses import replace
from unittest import TestCase

from taxcore.engine import LastYear, PaperValues, compute
from taxcore.packs.uk.individual import PACK
from taxcore.packs.uk.individual.tests.test_allowance import saved
from taxcore.packs.uk.individual.tests.test_foreign import abroad
from taxcore.packs.uk.individual.tests.test_gains import LIVED, SHARES, home
from taxcore.packs.uk.individual.tests.test_losses import BAD_SHARES, ROOM, lost
from taxcore.packs.uk.individual.tests.test_trades import CAR, owning, partner
from taxcore.packs.uk.individual.tests.test_worked import about, dividends, paper, pay, person, result, savings, sold, trade

LOST = {"goods": "3000", "loss_use": "forward"}
YEAR = (2024, 90, 0, 9, 7)
DEAL = {"id": "1", "day": "2025-06-01", "number": "10", "amount": "5"}


def said(**values):
    return about(**values)


def let(**values):
    return paper("property", **({"rents": "9000", "lettings": "1", "repairs": "2000"} | values))


def summed(**values):
    return paper("gains", summaries=[{"id": "1", "kind": "listed", "number": "2", "proceeds": "9", "costs": "5"} | values])


def rates(*given, **values):
    rows = [
        {"id": str(n), "currency": "USD", "what": "average", "rate": rate, "source": "HMRC"} | values
        for n, rate in enumerate(given, 1)
    ]
    return paper("rates", rates=rows)


def relieved(**values):
    return paper("reliefs", **values)


# Code; papers that make it speak; papers that do not; options of both
CASES = (
    ("uk.number-prefix", (person(number="GB123456C"),), (person(),), {}),
    ("uk.born-later", (person("2026-06-01"),), (person(),), {}),
    ("uk.couples-allowance", (person("1934-01-01"),), (person("1935-04-06"),), {}),
    ("uk.tax-above-pay", (pay(900, 1_000, scheme="1/A"),), (pay(900, 100, scheme="1/A"),), {}),
    ("uk.scheme-missing", (pay(60_000, 900),), (pay(60_000, 900, scheme="120/AB1"),), {}),
    ("uk.pay-no-tax", (pay(12_571),), (pay(12_570),), {}),
    ("uk.fuel-no-car", (pay(9_000, fuel="500"),), (pay(9_000, fuel="500", car="2000"),), {}),
    ("uk.car-no-fuel", (pay(9_000, car="2000"),), (pay(9_000, fuel="500", car="2000"),), {}),
    ("uk.expenses-high", (pay(9_000, travel="4501"),), (pay(9_000, travel="4500"),), {}),
    ("uk.loan-left-open", (pay(9_000, director="yes", loan_ended="10001"),), (pay(9_000, director="yes", loan_ended="10000"),), {}),
    ("uk.close-company-dividends", (pay(9_000, director="yes", close_company="yes"),),
     (pay(9_000, director="yes", close_company="yes"), dividends(1)), {}),
    ("uk.code-no-pay", (said(code_earlier="5"),), (said(code_earlier="5"), pay(9_000)), {}),
    ("uk.code-later-above", (said(code_later="3000"),), (said(code_later="2999"),), {}),
    ("uk.earlier-both", (said(earlier_more="1", earlier_less="1"),), (said(earlier_more="1"),), {}),
    ("uk.reduced-why", (said(reduced_to="5"),), (said(reduced_to="5", reduced_why="Less work"),), {}),
    ("uk.reduced-above", (said(reduced_to="9000"), let()), (said(reduced_to="0"), let()), {}),
    ("uk.state-pension-early", (paper("pension", payer="DWP", state="yes", amount="9"),),
     (paper("pension", payer="DWP", state="yes", amount="9"), person("1950-01-01")), {}),
    ("uk.state-pension-taxed", (paper("pension", payer="DWP", state="yes", amount="9", tax="1"),),
     (paper("pension", payer="Fund", amount="9", tax="1"),), {}),
    ("uk.taxed-interest", (paper("interest", payer="Bank", taxed_net="9"),), (savings(9),), {}),
    ("uk.entered-twice", (savings(9), savings(9, "i2")), (savings(9), savings(8, "i2")), {}),
    ("uk.lettings-missing", (let(lettings=""),), (let(),), {}),
    ("uk.private-above", (let(private="2001"),), (let(private="2000"),), {}),
    ("uk.property-allowance-better", (let(repairs="999"),), (let(repairs="1000"),), {}),
    ("uk.property-expenses-better", (let(use_allowance="yes"),), (let(use_allowance="yes", repairs="900"),), {}),
    ("uk.foreign-here", (abroad(9, 0, country="GBR"),), (abroad(9, 0),), {}),
    ("uk.foreign-tax-above", (abroad(9, 10),), (abroad(9, 1),), {}),
    ("uk.released-above", (abroad(0, 0, kept_before="5", released="6"),), (abroad(0, 0, kept_before="5", released="5"),), {}),
    ("uk.foreign-rate", (abroad(9, 0, in_currency="12"),), (abroad(9, 0, in_currency="12", rate_source="1.3, HMRC"),), {}),
    ("uk.foreign-unclaimed", (abroad(9, 1, claims=""),), (abroad(9, 1),), {}),
    ("uk.foreign-no-agreement", (abroad(100, 10, country="BRA"),), (abroad(100, 10),), {}),
    ("uk.foreign-limit-unexplained", (abroad(100, 10, limit_percent="5"),), (abroad(100, 10, limit_percent="5", limit_reason="Art. 10"),), {}),
    ("uk.foreign-above-limit", (abroad(100, 30),), (abroad(100, 15),), {}),
    ("uk.child-benefit-whose", (said(child_benefit="9"), pay(61_000)), (said(child_benefit="9", partner_earns_more="no"), pay(61_000)), {}),
    ("uk.marriage-could", (pay(11_310),), (pay(11_311),), {}),
    ("uk.marriage-giver-rate", (said(gives_allowance="yes"), pay(60_000)), (said(gives_allowance="yes"), pay(30_000)), {}),
    ("uk.marriage-allowance-rate", (said(receives_allowance="yes"), pay(60_000)), (said(receives_allowance="yes"), pay(30_000)), {}),
    ("uk.allowance-transferred", (said(gives_allowance="yes", receives_allowance="yes"),), (said(gives_allowance="yes"),), {}),
    ("uk.loan-deducted-none", (pay(30_000, loan_deducted="5"),), (pay(30_000, loan_deducted="5"), said(loan="plan_1")), {}),
    ("uk.trading-allowance-twice", (trade(900, use_allowance="yes"), trade(500, "t2")), (trade(900, use_allowance="yes"),), {}),
    ("uk.loss-unsaid", (trade(900, goods="3000"),), (trade(900, **LOST),), {}),
    ("uk.loss-no-year", (trade(900, **LOST | {"loss_use": "back"}),), (trade(900, **LOST),), {}),
    ("uk.loss-opening-late", (lost(9, "t1", YEAR, loss_use="opening", begun="2022-04-05"),), (lost(9, "t1", YEAR, loss_use="opening", begun="2022-04-06"),),
     {}),
    ("uk.loss-end-going", (lost(9, "t1", YEAR, loss_use="end"),), (lost(9, "t1", YEAR, loss_use="end", ended="2025-12-31"),), {}),
    ("uk.loss-active", (pay(900), lost(9, loss_use="income")), (pay(900), lost(9, loss_use="forward")), {}),
    ("uk.loss-capped", (pay(8), lost(9, loss_use="income")), (pay(9), lost(9, loss_use="income")), {}),
    ("uk.loss-lost", (lost(9, loss_use="forward", ended="2025-12-31"),), (lost(9, loss_use="forward"),), {}),
    ("uk.loss-year", (lost(9, "t1", YEAR, loss_use="forward"),), (lost(9, "t1", YEAR, loss_use="back"),), {}),
    ("uk.loss-tax-missing", (trade(0, goods="9", loss_use="back", earlier=[{"id": "1", "of_year": "2024", "income": "90"}]),), (lost(9, "t1", YEAR, loss_use="back"),),
     {}),
    ("uk.loss-tax", (lost(9, "t1", (2024, 90, 0, 5, 6), loss_use="back"),), (lost(9, "t1", (2024, 90, 0, 6, 6), loss_use="back"),), {}),
    ("uk.loss-profit", (lost(9, "t1", (2024, 90, 91, 5, 5), loss_use="back"),), (lost(9, "t1", YEAR, loss_use="back"),), {}),
    ("uk.begun-later", (trade(900, begun="2026-04-06"),), (trade(900, begun="2026-04-05"),), {}),
    ("uk.partner-ended", (partner(9, ended="2025-04-05"),), (partner(9, ended="2025-04-06"),), {}),
    ("uk.share-loss-kind", (sold(BAD_SHARES | {"kind": "listed"}),), (sold(BAD_SHARES),), {}),
    ("uk.share-loss-conditions", (sold(BAD_SHARES | {"subscribed": ""}),), (sold(BAD_SHARES),), {}),
    ("uk.share-loss-none", (sold(BAD_SHARES | {"costs": "1000"}),), (sold(BAD_SHARES),), {}),
    ("uk.share-loss-could", (sold(BAD_SHARES | {"to_income": ""}),), (sold(BAD_SHARES | {"to_income": "no"}),), {}),
    ("uk.summary-number", (summed(number=""),), (summed(),), {}),
    ("uk.summary-lost", (summed(proceeds="2", costs="5", lost="2"),), (summed(proceeds="2", costs="5", lost="3"),), {}),
    ("uk.summary-late", (summed(late="yes"),), (summed(),), {}),
    ("uk.summary-attached", (summed(),), (sold(SHARES),), {}),
    ("uk.eis-knowledge-above", (relieved(eis="5", eis_knowledge="6"),), (relieved(eis="6", eis_knowledge="6"),), {}),
    ("uk.investment-limit", (relieved(seis="200001"),), (relieved(seis="200000"),), {}),
    ("uk.investment-certificate", (relieved(eis="5"),), (relieved(vct="5"),), {}),
    ("uk.investment-unused", (pay(12_580), relieved(vct="10")), (pay(12_590), relieved(vct="10")), {}),
    ("uk.lump-kind", (paper("pension", payer="Fund", lump_sum="5"),), (paper("pension", payer="Fund", lump_sum="5", lump_kind="whole"),), {}),
    ("uk.lump-tax-above", (paper("pension", payer="Fund", lump_sum="5", lump_tax="6"),), (paper("pension", payer="Fund", lump_sum="6", lump_tax="6"),), {}),
    ("uk.rate-missing", (abroad("", 0, in_currency="12", currency="USD"),), (abroad("", 0, in_currency="12", currency="USD"), rates("1.2")), {}),
    ("uk.rate-day", (rates("1.2", what="day"),), (rates("1.2", what="day", day="2025-06-01"),), {}),
    ("uk.rate-nothing", (rates("0.0"),), (rates("0.1"),), {}),
    ("uk.rate-twice", (rates("1.2", "1.3"),), (rates("1.2"),), {}),
    ("uk.home-let-days", (home(*LIVED, **ROOM | {"let_ended": "2015-12-31"}),), (home(*LIVED, **ROOM),), {}),
    ("uk.class-4-trades", (trade(9_000, small_pool="1001"),), (trade(9_000, small_pool="1000"),), {}),
    ("uk.mileage-and-allowances", (owning(CAR, miles="9"),), (trade(9_000, miles="9"),), {}),
    ("uk.home-months", (trade(9_000, home_25="7", home_51="6"),), (trade(9_000, home_25="7", home_51="5"),), {}),
    ("uk.disallowed-above", (trade(9_000, travel="5", disallowed=[{"id": "1", "of": "travel", "amount": "6"}]),),
     (trade(9_000, travel="5", disallowed=[{"id": "1", "of": "travel", "amount": "5"}]),), {}),
    ("uk.depreciation", (trade(9_000, depreciation="5"),), (owning(CAR, depreciation="5"),), {}),
    ("uk.deductions-above", (trade(9_000, deducted="2701"),), (trade(9_000, deducted="2700"),), {}),
    ("uk.no-expenses", (trade(1_001),), (trade(1_000),), {}),
    ("uk.asset-private", (owning(CAR | {"private": "100"}),), (owning(CAR),), {}),
    ("uk.asset-day", (owning(CAR | {"sold": "2025-05-01"}),), (owning(CAR | {"sold": "2025-07-01"}),), {}),
    ("uk.asset-before", (owning(CAR | {"bought": "2024-06-01"}),), (owning(CAR | {"bought": "2024-06-01", "before": "900"}),), {}),
    ("uk.ended-unsold", (owning(CAR, ended="2025-12-31"),), (owning(CAR | {"sold": "2025-12-31"}, ended="2025-12-31"),), {}),
    ("uk.investors-lifetime", (sold(SHARES | {"relief": "investors"}),), (sold(SHARES),), {}),
    ("uk.transition-year", (trade(9_000, transition_part="9"),), (trade(9_000, transition_before="9"),), {}),
    ("uk.transition-loss", (trade(0, goods="9", transition_part="2", loss_use="forward"),), (trade(9, transition_part="2"),), {"year": 2023}),
    ("uk.transition-more", (trade(9_000, transition_part="9", transition_more="10"),), (trade(9_000, transition_part="9", transition_more="9"),),
     {"year": 2023}),
    ("uk.transition-class-4", (trade(9_000, transition_before="90"),), (trade(9_000, transition_before="90", transition_more="60"),), {}),
    ("uk.trade-ended", (trade(9_000, ended="2025-04-05"),), (trade(9_000, ended="2025-04-06"),), {}),
    ("uk.short-not-enough", (trade(90_000, pages="short"),), (trade(89_999, pages="short"),), {}),
    ("uk.trading-allowance-better", (trade(9_000, goods="999"),), (trade(9_000, goods="1000"),), {}),
    ("uk.trading-expenses-better", (trade(9_000, goods="1001", use_allowance="yes"),), (trade(9_000, goods="1000", use_allowance="yes"),), {}),
    ("uk.class-2-could", (trade(6_844),), (trade(6_845),), {}),
    ("uk.partner-limited", (partner(-9, limited="yes", loss_use="income"),), (partner(-9, limited="yes", loss_use="forward"),), {}),
    ("uk.partner-tax", (partner(9, deducted="10"),), (partner(9, deducted="9"),), {}),
    ("uk.own-above-input", (saved(9, own="10"),), (saved(9, own="9"),), {}),
    ("uk.net-pay-above-own", (saved(9, own="5", net_pay="6"),), (saved(9, own="6", net_pay="6"),), {}),
    ("uk.scheme-pays-above", (saved(9, scheme_pays="1"),), (saved(9),), {}),
    ("uk.money-purchase-above", (saved(9, money_purchase="10"),), (saved(9, money_purchase="9"),), {}),
    ("uk.unused-year", (saved(9, (2021, 5)),), (saved(9, (2022, 5)),), {}),
    ("uk.allowance-charge", (pay(50_000), saved(61_000)), (pay(50_000), saved(60_000)), {}),
    ("uk.contributions-above-earnings", (relieved(relief_at_source="2881"),), (relieved(relief_at_source="2880"),), {}),
    ("uk.savings-unsaid", (pay(50_000), relieved(relief_at_source="9000")), (pay(50_000), relieved(relief_at_source="8000")), {}),
    ("uk.gifts-back-above", (pay(50_000), relieved(gifts="5", gifts_to_year_before="6")), (pay(50_000), relieved(gifts="6", gifts_to_year_before="6")),
     {}),
    ("uk.gifts-above-tax", (pay(12_570), relieved(gifts="80")), (pay(12_700), relieved(gifts="80")), {}),
    ("uk.relief-amount", (sold(SHARES | {"relief": "held_over"}),), (sold(SHARES | {"relief": "held_over", "relieved": "9"}),), {}),
    ("uk.relief-above-gain", (sold(SHARES | {"relief": "deferred", "relieved": "10001"}),),
     (sold(SHARES | {"relief": "deferred", "relieved": "10000"}),), {}),
    ("uk.relief-claim", (sold(SHARES | {"relief": "rolled_over", "relieved": "9"}),), (sold(SHARES),), {}),
    ("uk.relief-two", (sold(SHARES | {"relief": "investors", "business": "yes"}),), (sold(SHARES | {"relief": "investors"}),), {}),
    ("uk.home-business", (sold(SHARES | {"kind": "residential", "business": "yes"}),), (sold(SHARES | {"business": "yes"}),), {}),
    ("uk.carried-interest", (sold(SHARES | {"kind": "carried"}),), (sold(SHARES),), {}),
    ("uk.disposal-day", (sold(SHARES | {"day": "2026-04-06"}),), (sold(SHARES | {"day": "2026-04-05"}),), {}),
    ("uk.business-relief-lifetime", (sold(SHARES | {"business": "yes"}),), (sold(SHARES),), {}),
    ("uk.lived-in", (sold(SHARES | {"kind": "residential"}),), (sold(SHARES),), {}),
    ("uk.home-day", (home(*LIVED, sold="2025-04-05"),), (home(*LIVED, sold="2025-04-06"),), {}),
    ("uk.home-periods", (home(("lived", "2015-01-01", "2014-01-01")),), (home(("lived", "2014-01-01", "2015-01-01")),), {}),
    ("uk.home-let", (home(*LIVED, let_beside="yes"),), (home(*LIVED, **ROOM),), {}),
    ("uk.home-part", (home(*LIVED, percent="0"),), (home(*LIVED, percent="1"),), {}),
    ("uk.home-absence", (home(*LIVED[:2]),), (home(*LIVED),), {}),
    ("uk.home-never", (home(),), (home(*LIVED),), {}),
    ("uk.sixty-days-unsaid", (home(*LIVED, tax_paid="9"),), (home(*LIVED, tax_paid="9", reported="2026-02-01"),), {}),
    ("uk.sixty-days", (home(*LIVED),), (home(*LIVED, reported="2026-02-01"),), {}),
    ("uk.sixty-days-late", (home(*LIVED, reported="2026-03-03"),), (home(*LIVED, reported="2026-03-02"),), {}),
    ("uk.gains-not-filed", (sold(SHARES | {"costs": "10000"}),), (sold(SHARES | {"costs": "9999"}),), {}),
    ("uk.gains-exempt-unused", (sold(SHARES | {"costs": "12000"}),), (sold(SHARES | {"costs": "10000"}),), {}),
    ("uk.losses-kept", (sold(SHARES | {"costs": "14000"}),), (sold(SHARES),), {}),
    ("uk.shares-unmatched", (paper("shares", "s1", company="Loch plc", deals=[DEAL | {"what": "sold"}]),),
     (paper("shares", "s1", company="Loch plc", deals=[DEAL | {"what": "bought"}]),), {}),
    ("uk.foreign-order", (pay(14_000), abroad(30_000, 3_000, "a", kind="royalties", limit_percent="10", limit_reason="x"),
                          abroad(30_000, 9_000, "b", kind="rents", limit_percent="30", limit_reason="x")), (pay(14_000), abroad(900, 90)), {}),
)  # fmt: skip


GENERAL = {"uk.bad-value", "uk.unconfirmed", "uk.unconfirmed-tax", "uk.unknown-paper", "uk.unsettled"}  # the engine's own


def codes(*papers, **options):
    return {one.code for one in result(*papers, **options).findings}


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for code, failing, mended, options in CASES:
            with self.subTest(code):
                self.assertIn(code, codes(*failing, **options))
                self.assertNotIn(code, codes(*mended, **options))

    def test_every_one_has_a_case(self):
        """Those of fields (missing, not fitting) follow from their declarations; last year's have a test of their own."""
        tried = {case[0] for case in CASES} | {"uk.paid-on-account", "uk.amendment-nothing"}
        left = {code for code in PACK.diagnostics if code.count(".") == 1} - tried - GENERAL
        self.assertEqual(sorted(left), [])

    def test_payments_on_account_are_those_of_last_year(self):
        here = result(trade(40_000, goods="1000")).run.everything
        before = LastYear(2024, (), {"uk.sa110:on_account": 900})
        for paid, speaks in (("900", True), ("1800", False)):
            papers = tuple(
                PaperValues("about", "about", {"region": "england", "paid_on_account": paid}) if one.kind == "about" else one
                for one in here.papers
            )
            found = compute(PACK, replace(here, papers=papers, last_year=before)).findings
            with self.subTest(paid):
                self.assertEqual("uk.paid-on-account" in {one.code for one in found}, speaks)
