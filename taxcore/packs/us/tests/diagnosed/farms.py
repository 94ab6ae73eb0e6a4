"""Farms: books, statements, animals, optional methods."""

from taxcore.packs.us.tests.diagnosed.making import books, one, paper, single, wage


def farm(key="f1", **values):
    asked = {"product": "Barley", "code": "111100", "method": "cash", "participates": "yes", "raised": "9000", "seeds": "100"}
    return paper("farm", key, **asked | values)


def animals(**values):
    given = {
        "description": "Ewes",
        "used_in": "f1",
        "sort": "sheep",
        "in_service": "2023-05-05",
        "cost": "900",
        "no_special": "yes",
    }
    return paper("asset", "a1", **given | values)


def payments(**values):
    return paper("1099-g", "g1", **{"payer": "Agency", "agriculture": "700"} | values)


CASES = [
    ("us.farm.accrual", one(farm(method="accrual")), one(farm())),
    ("us.farm.averaging", one(farm(averaging="yes")), one(farm(averaging="no"))),
    ("us.farm.patron", one(farm(patron="yes")), one(farm(patron="no"))),
    ("us.farm.statement", one(payments()), one(farm(), payments())),
    ("us.farm.statement", one(paper("1099-misc", "m1", payer="Mutual", crop_insurance="700")),
     one(farm(), paper("1099-misc", "m1", payer="Mutual", crop_insurance="700"))),
    ("us.farm.code-sector", one(farm(code="811490")), one(farm())),
    ("us.farm.number-missing", one(farm(wages="5000")), one(farm(wages="5000", number="00-1234567"))),
    ("us.farm.contractors-unanswered", one(farm(custom_hire="600")), one(farm(custom_hire="599"))),
    ("us.farm.statements-due", one(farm(must_report="yes")), one(farm(must_report="yes", did_report="yes"))),
    ("us.farm.patron-open", one(farm(cooperatives="5")), one(farm(cooperatives="5", patron="no"))),
    ("us.farm.resale-cost", one(farm(resale="5")), one(farm(resale="5", resale_cost="4"))),
    ("us.farm.income", one(farm(raised="")), one(farm(raised="0"))),
    ("us.farm.crop-election", one(farm(crop_insurance="9", crop_deferred="yes")), one(farm(crop_insurance="9"))),
    ("us.farm.crop-nothing", one(farm(crop_deferred="yes")), one(farm(crop_insurance="9", crop_deferred="yes"))),
    ("us.farm.conservation-plan", one(farm(conservation="9")), one(farm())),
    ("us.farm.conservation-limited", one(farm(conservation="2251")), one(farm(conservation="2250"))),
    ("us.farm.optional-profit", one(farm(raised="30000", optional_method="yes")), one(farm(raised="10000", optional_method="yes"))),
    ("us.farm.optional-nonfarm", one(books(optional_method="yes")), one(books())),
    ("us.farm.optional-could", one(farm(feed="8700")), one(farm(feed="8000"))),
    ("us.farm.loss-again", one(wage("90000"), farm(raised="2000", feed="9000")), one(wage("90000"), farm(raised="4000", feed="9000"))),
    ("us.farm.two-thirds", one(wage("90000"), farm(), single("penalty", farmer="yes")), one(farm(), single("penalty", farmer="yes"))),
    ("us.farm.installments", one(farm()), one(farm(), single("penalty", farmer="no"))),
    ("us.farm.averaging-could", one(farm(raised="100200")), one(farm(raised="100100"))),
    ("us.farm.fuel", one(farm(fuel="5")), one(farm())),
    ("us.farm.animal-days", one(farm(), animals(sort="cattle", in_service="2024-05-05", sold="2025-06-05", sold_for="5")),
     one(farm(), animals(in_service="2024-05-05", sold="2025-06-05", sold_for="5"))),
    ("us.farm.animal-cost", one(farm(), animals(cost="")), one(farm(), animals(cost="0"))),
    ("us.farm.not-used", one(books(), farm(), animals(used_in="b1")), one(books(), farm(), animals())),
    ("us.farm.cooperatives-taxable-above", one(farm(cooperatives="5", cooperatives_taxable="6")), one(farm(cooperatives="6", cooperatives_taxable="6"))),
    ("us.farm.loans-taxable-above", one(farm(loans_forfeited="5", loans_taxable="6")), one(farm(loans_forfeited="6", loans_taxable="6"))),
    ("us.farm.reserve-above", one(farm(programs="5", reserve="6")), one(farm(programs="6", reserve="6"))),
    ("us.risk.amount", one(farm(not_at_risk="yes", feed="90000")), one(farm(not_at_risk="yes", feed="90000", at_risk="9"))),
    ("us.trade.waits", one(farm(participates="no", feed="90000")), one(farm(feed="90000"))),
    ("us.461.excess", one(farm(feed="700000")), one(farm(feed="70000"))),
]  # fmt: skip
