"""Foreign earned income: tests not met, contradictions, what stops beside it."""

from taxcore.packs.us.tests.diagnosed.making import books, dividends, one, paper, person
from taxcore.packs.us.tests.returns import filing, w2

TEXAS = filing(residence="TX", state="TX")


def abroad(**values):
    given = {
        "country": "Portugal",
        "employer_kind": "foreign",
        "test": "residence",
        "residence_from": "2023-01-01",
        "pay": "90000",
    }
    return paper("foreign-earned", "f1", owner="taxpayer", **given | values)


def visiting(**values):
    given = {
        "test": "presence",
        "residence_from": "",
        "presence_from": "2025-01-01",
        "presence_to": "2025-12-31",
        "days_abroad": "330",
    }
    return abroad(**given | values)


def own(**values):
    return abroad(**{"employer_kind": "self", "pay": "", "business_income": "9000", "deductions": "0"} | values)


def taxed(**values):
    return paper("foreign-tax", "foreign-tax", category="general", gross_income="90000", other_tax="500", **values)


def gold():
    return dividends(9_000, collectibles="500", capital_gain="500")


def other(**values):
    return paper("foreign-category", "g1", **{"category": "passive", "gross_income": "900", "other_tax": "50"} | values)


CASES = [
    ("us.1116.category-twice", one(taxed(), other(category="general")), one(taxed(), other())),
    ("us.1116.category-income", one(taxed(), other(gross_income="")), one(taxed(), other())),
    ("us.2555.days", one(visiting(days_abroad="329")), one(visiting())),
    ("us.2555.twelve-months", one(visiting(presence_to="2025-12-30")), one(visiting())),
    ("us.2555.residence", one(abroad(residence_from="2025-01-02")), one(abroad())),
    ("us.2555.outside", one(abroad(residence_from="2022-01-01", residence_to="2023-12-31")), one(abroad())),
    ("us.2555.government", one(abroad(employer_kind="government")), one(abroad())),
    ("us.2555.above-wages", one(w2(9_000), abroad(on_w2="9001")), one(w2(9_000), abroad(on_w2="9000"))),
    ("us.2555.deductions", one(books(), own(deductions="")), one(books(), own())),
    ("us.2555.no-business", one(own()), one(books(), own())),
    ("us.2555.camp", one(abroad(camp="5")), one(abroad(camp="5", in_kind="5"))),
    ("us.2555.housing", one(abroad(pay="190000")), one(abroad(pay="190000", housing="0"))),
    ("us.2555.tax-reduction", one(abroad(), taxed()), one(abroad(), taxed(reduction="0"))),
    ("us.2555.state", one(abroad()), one(TEXAS, abroad())),
    ("us.2555.special-gain", one(abroad(), gold()), one(abroad())),
    ("us.2555.annualized", one(abroad(), paper("annualized", income_march="1")), one(abroad())),
    ("us.2555.child", one(person(born="2012-01-05"), dividends(9_000), abroad()), one(dividends(9_000), abroad())),
]
