"""Businesses and shares, pensions, payments and balances."""

from taxcore.packs.us.tests.diagnosed.making import (
    books,
    car,
    coded,
    cover,
    older,
    one,
    paper,
    pension,
    rows,
    share,
    single,
    wage,
)
from taxcore.packs.us.tests.returns import interest


def shop(**values):
    return books(**{"receipts": "40000", "method": "cash", "supplies": "3001"} | values)


def nec(pay="900"):
    return paper("1099-nec", "n1", payer="Pier", pay=pay, business="b1")


def card(gross="900", **values):
    return paper("1099-k", "k1", payer="Till", gross=gross, business="b1", **values)


def corporation(**values):
    return paper(
        "k1-1120s", "s1", entity="Weir", entity_number="00-4455669", **{"participates": "yes", "all_at_risk": "yes"} | values
    )


def aged(born, *papers):
    return one(older(born), *papers)


def estimated(*given, **more):
    return single("estimates", rows=rows(*given), **more)


def mortgage(key="m1", **values):
    return paper("1098", key, **{"lender": f"Lock {key}", "interest": "9000", "principal": "200000"} | values)


_DAY = {"paid": "2025-04-15", "amount": "500"}
_ITEMISE = single("itemized", choice="itemise")
_ROUND = {"advertising": "500", "office": "300", "repairs": "700"}

CASES = [
    ("us.business.code-sector", one(shop(code="121490")), one(shop(code="811490"))),
    ("us.business.method-missing", one(shop(method="")), one(shop())),
    ("us.business.number-missing", one(shop(wages="900")), one(shop(wages="900", number="00-1234567"))),
    ("us.business.contractors-unanswered", one(shop(contract_labour="600")), one(shop(contract_labour="599.99"))),
    ("us.business.sale-without-goods", one(shop(purchases="40001")), one(shop(purchases="40001", inventory_end="2"))),
    ("us.business.no-costs", one(shop(supplies="")), one(shop())),
    ("us.business.round-costs", one(shop(supplies="400", **_ROUND)), one(shop(supplies="401", **_ROUND))),
    ("us.business.meals-high", one(shop(meals="4001")), one(shop(meals="4000"))),
    ("us.business.costs-twice", one(shop(repairs="3001")), one(shop(repairs="3002"))),
    ("us.business.car-both-ways", one(shop(miles="500", car_actual="900")), one(shop(miles="500", car_actual="900", car_method="miles"))),
    ("us.business.miles-high", one(shop(miles="60001")), one(shop(miles="60000"))),
    ("us.business.no-other-miles", one(shop(miles="1000")), one(shop(miles="1000", other_miles="5"))),
    ("us.business.car-date-missing", one(shop(miles="5")), one(shop(miles="5", car_placed="2020-01-01"))),
    ("us.business.home-large", one(shop(home_area="501", home_total="1000")), one(shop(home_area="500", home_total="1000"))),
    ("us.business.home-over-simplified", one(shop(home_area="301", home_method="simplified")), one(shop(home_area="300", home_method="simplified"))),
    ("us.business.home-method-missing", one(shop(home_area="200")), one(shop(home_area="200", home_method="simplified"))),
    ("us.business.home-total-missing", one(shop(home_area="200", home_method="regular")), one(shop(home_area="200", home_method="regular", home_total="900"))),
    ("us.business.home-carried-on", one(shop(receipts="3001", home_area="200", home_total="900", home_method="regular", home_rent="9000")),
     one(shop(home_area="200", home_total="900", home_method="regular", home_rent="9000"))),
    ("us.business.home-two-full", one(shop(home_area="200", home_method="simplified"), paper("business", "b2", home_area="101", home_method="simplified")),
     one(shop(home_area="200", home_method="simplified"), paper("business", "b2", home_area="100", home_method="simplified"))),
    ("us.plans.above-limit", one(shop(sep="9000")), one(shop(sep="6000"))),
    ("us.plans.room", one(shop()), one(shop(sep="100"))),
    ("us.business.health-not-asked", one(shop()), one(shop(health_insurance="900"))),
    ("us.business.health-and-work", one(shop(health_insurance="900"), wage(**coded("DD"))), one(shop(health_insurance="900"), wage())),
    ("us.1099-k.maybe-counted-twice", one(shop(), nec(), card()), one(shop(), nec(), card(on_other_statement="900"))),
    ("us.business.receipts-repeat-statements", one(shop(receipts="900"), nec()), one(shop(receipts="901"), nec())),
    ("us.k1-1065.no-earnings", one(share(ordinary="900")), one(share(ordinary="900", self_employment="900"))),
    ("us.k1-1120s.no-wages", one(corporation(ordinary="20001")), one(corporation(ordinary="20001"), wage(employer_number="00-4455669"))),
    ("us.k1.qualified-missing", one(corporation(ordinary="900")), one(corporation(ordinary="900", qualified_income="900"))),
    ("us.k1.basis-open", one(corporation(ordinary="-900", all_at_risk="")), one(corporation(ordinary="-900"))),
    ("us.qbi.loss-carried-on", one(wage(), shop(receipts="100")), one(wage(), shop())),
    ("us.qbi.limited", one(wage(400_000), shop(service_trade="yes")), one(wage(100_000), shop(service_trade="yes"))),
    # pensions, benefits, savings
    ("us.1099-r.code-1-though-older", aged("1965-06-30", pension(code="1")), aged("1965-07-01", pension(code="1"))),
    ("us.1099-r.code-7-though-younger", aged("1966-07-01", pension()), aged("1966-06-30", pension())),
    ("us.1099-r.code-q-though-younger", aged("1966-07-01", pension(code="Q")), aged("1966-06-30", pension(code="Q"))),
    ("us.1099-r.rollover-taxed", one(pension(code="G", taxable="900")), one(pension(code="G", taxable="0"))),
    ("us.1099-r.rolled-over-twice", one(pension(code="G", rolled_over="900")), one(pension(code="G"))),
    ("us.1099-r.codes-alike", one(pension(second_code="7")), one(pension(second_code="A"))),
    ("us.rollover.once-a-year", one(pension(ira="yes", rolled_over="5"), paper("1099-r", "r2", ira="yes", code="1", gross="9", rolled_over="5")),
     one(pension(ira="yes", rolled_over="5"), paper("1099-r", "r2", ira="yes", code="G", gross="9", rolled_over="5"))),
    ("us.1099-r.exception-not-early", one(pension(exception="03")), one(pension(code="1", exception="03"))),
    ("us.1099-r.home-above-limit", one(pension(gross="10001", code="1", exception="09")), one(pension(gross="10001", code="1", exception="09", excepted="10000"))),
    ("us.1099-r.birth-above-limit", one(pension(gross="5001", code="1", exception="19")), one(pension(gross="5001", code="1", exception="19", excepted="5000"))),
    ("us.1099-r.charity-above-limit", aged("1950-01-05", pension(gross="120000", ira="yes", charity="108001")),
     aged("1950-01-05", pension(gross="120000", ira="yes", charity="108000"))),
    ("us.1099-r.withholding-none", aged("1950-01-05", pension(gross="60000")), aged("1950-01-05", pension(gross="60000", withheld="4000"))),
    ("us.ira.required-distribution", aged("1951-01-05", paper("ira", value_at_end="900")), aged("1952-01-05", paper("ira", value_at_end="900"))),
    ("us.ira.required-next-year", aged("1953-01-05", paper("ira", value_at_end="900")), aged("1954-01-05", paper("ira", value_at_end="900"))),
    ("us.ira.room", one(wage()), one(wage(), paper("ira", roth="6600"))),
    ("us.ira.after-year-above", one(paper("ira", traditional="5", paid_after_year="6")), one(paper("ira", traditional="6", paid_after_year="6"))),
    ("us.benefits.too-young", aged("1964-01-05", paper("ssa-1099", net="900")), aged("1963-01-05", paper("ssa-1099", net="900"))),
    ("us.benefits.withholding", aged("1950-01-05", paper("ssa-1099", net="30000"), pension(gross="60000")),
     aged("1950-01-05", paper("ssa-1099", net="30000", withheld="3000"), pension(gross="60000"))),
    ("us.benefits.premiums-missing", aged("1950-01-05", paper("ssa-1099", net="900"), _ITEMISE), aged("1950-01-05", paper("ssa-1099", net="900", medicare_premiums="90"), _ITEMISE)),
    ("us.hsa.months-wrong", one(paper("hsa", coverage=rows({"kind": "alone", "first": "5", "last": "4"}))), one(paper("hsa", coverage=rows({"kind": "alone", "first": "4", "last": "5"})))),
    ("us.hsa.months-overlap", one(paper("hsa", coverage=rows({"kind": "alone", "first": "1", "last": "6"}, {"kind": "family", "first": "6", "last": "9"}))),
     one(paper("hsa", coverage=rows({"kind": "alone", "first": "1", "last": "5"}, {"kind": "family", "first": "6", "last": "9"})))),
    ("us.hsa.room", one(cover(paid_in="4100")), one(cover(paid_in="4250"))),
    ("us.hsa.medicare-age", aged("1959-01-05", cover(paid_in="900")), aged("1960-01-05", cover(paid_in="900"))),
    ("us.hsa.more-medical-than-paid-out", one(paper("1099-sa", account_kind="hsa", medical="5")), one(paper("1099-sa", account_kind="hsa", medical="5", gross="5"))),
    ("us.hsa.catch-up-next-year", aged("1971-01-05", cover()), aged("1970-01-05", cover())),
    ("us.ira.catch-up-next-year", aged("1976-01-05", wage()), aged("1977-01-05", wage())),
    ("us.person.turns-65-next-year", aged("1961-12-31"), aged("1962-01-01")),
    # payments, balances, other income
    ("us.estimates.twice", one(estimated(_DAY, _DAY)), one(estimated(_DAY, _DAY | {"amount": "501"}))),
    ("us.estimates.no-amount", one(estimated({"paid": "2025-04-15"})), one(estimated(_DAY))),
    ("us.estimates.state-among-federal", one(estimated(_DAY, state_rows=rows(_DAY | {"state": "IL"}))),
     one(estimated(_DAY, state_rows=rows(_DAY | {"state": "IL", "amount": "90"})))),
    ("us.extension.payment-differs", one(single("extension", asked="yes", paying="500", paid="yes"), single("estimates", with_extension="400")), one(single("extension", asked="yes", paying="500", paid="yes"))),
    ("us.extension.expected-too-low", one(wage(), single("extension", asked="yes", expected_tax="1000")), one(wage(), single("extension", asked="yes", expected_tax="4500"))),
    ("us.2210.penalty", one(wage(90_000, 500), single("prior-year", tax="12000", adjusted_gross_income="80000")),
     one(wage(90_000, 12_000), single("prior-year", tax="12000", adjusted_gross_income="80000"))),
    ("us.2210.penalty", one(wage(90_000, 500), single("prior-year", tax="12000", adjusted_gross_income="80000")),
     one(wage(90_000, 500), single("prior-year", tax="12000", adjusted_gross_income="80000"), single("penalty", waiver="yes"))),
    ("us.next-year.vouchers", one(wage(90_000, 5_000)), one(wage(90_000, 5_000), single("next-year", make="no"))),
    ("us.next-year.withholding-high", one(wage(50_000, 9_000)), one(wage(50_000, 8_000))),
    ("us.deposit.none", one(wage(50_000, 9_000)), one(wage(50_000, 9_000), single("deposit", routing="138150000", account="4471", account_kind="savings"))),
    ("us.state-refund.not-taxed", one(paper("1099-g", state_refund="5"), single("prior-year", itemised="no")),
     one(paper("1099-g", state_refund="5"), single("prior-year", itemised="yes"))),
    ("us.prior-year.standard-open", one(paper("1099-g", state_refund="5"), single("prior-year", itemised="yes", itemised_total="900")),
     one(paper("1099-g", state_refund="5"), single("prior-year", itemised="yes", itemised_total="900", standard_then="800"))),
    ("us.prior-year.parts-differ", one(single("prior-year", itemised_total="900", state_tax_deducted="901")), one(single("prior-year", itemised_total="900", state_tax_deducted="900"))),
    ("us.gambling.losses-above", one(single("itemized", gambling_losses="51"), paper("w2g", winnings="50")), one(single("itemized", gambling_losses="50"), paper("w2g", winnings="50"))),
    ("us.gambling.not-itemized", one(single("itemized", gambling_losses="50"), paper("w2g", winnings="50")),
     one(single("itemized", gambling_losses="50", choice="itemise"), paper("w2g", winnings="50"))),
    ("us.w2g.other-year", one(paper("w2g", winnings="50", won="2024-12-31")), one(paper("w2g", winnings="50", won="2025-01-01"))),
    ("us.canceled-debt.exclusion", one(paper("other-income", cancelled_debt="5")), one(paper("other-income", jury="5"))),
    ("us.hobby.costs", one(paper("other-income", hobby="5")), one(paper("other-income", jury="5"))),
    ("us.unemployment.withholding", one(paper("1099-g", unemployment="1001")), one(paper("1099-g", unemployment="1001", withheld="100"))),
    ("us.unemployment.high", one(paper("1099-g", unemployment="50001")), one(paper("1099-g", unemployment="50000"))),
    ("us.mortgage.origin-missing", one(mortgage(principal="750001")), one(mortgage(principal="750001", origin="2019-01-01"))),
    ("us.mortgage.limited", one(mortgage(principal="1500000", origin="2019-01-01"), _ITEMISE), one(mortgage(principal="750000", origin="2019-01-01"), _ITEMISE)),
    ("us.mortgage.use-open", one(mortgage(), mortgage("m2", use="second")), one(mortgage(use="main"), mortgage("m2", use="second"))),
    ("us.mortgage.rate", one(mortgage(interest="30001")), one(mortgage(interest="30000"))),
    ("us.mortgage.three-homes", one(mortgage(use="second"), mortgage("m2", use="second")), one(mortgage(use="main"), mortgage("m2", use="second"))),
    ("us.car-loan.vehicle-number", one(car(vin="1HGCM82633A004353")), one(car())),
    ("us.minimum-tax.due", one(wage(), single("minimum-tax", stock_options="200000")), one(wage())),
    ("us.investment-tax.due", one(wage(200_000), interest("1000")), one(wage(199_000), interest("1000"))),
    ("us.schedule-b.nothing-kept", one(interest("100", not_the_owners="100")), one(interest("100", not_the_owners="90"))),
    ("us.1040.negative-income", one(shop(receipts="100")), one(shop())),
    ("us.1040.nothing-keyed", one(), one(wage())),
]  # fmt: skip
