"""Tips, people employed in the home, statutory employees, moves, contracts."""

from taxcore.packs.us.tests.diagnosed.making import books, one, paper, rows, single, wage
from taxcore.packs.us.tests.returns import w2


def home(wages="9000", **values):
    given = {"number": "00-1234567", "thousand": "yes", "one_state": "yes"}
    return single("household", employees=rows({"name": "A. Teal", "wages": wages}), **given | values)


def care(**values):
    return paper("care", "n1", provider="A. Teal", number="914-33-0001", **values)


def broker(contracts):
    return paper("1099-b", "b1", payer="Heron", contracts=contracts)


def clerk(**values):
    return w2(9_000, statutory_employee="yes", **values)


def moved(**values):
    return paper("adjustments", "a1", moving="900", **values)


def soldier():
    return w2(9_000, codes=rows({"code": "P", "amount": "900"}))


CASES = [
    ("us.moving.not-ordered", one(moved()), one(moved(moving_ordered="yes"))),
    ("us.moving.no-expenses", one(soldier()), one(soldier(), moved(moving_ordered="yes"))),
    ("us.household.section-b", one(home(one_state="no")), one(home())),
    ("us.household.nothing", one(home("90", thousand="no")), one(home())),
    ("us.household.missing", one(care(household_employee="yes")), one(care(household_employee="yes"), home())),
    ("us.household.withheld-above", one(home(withheld="4501")), one(home(withheld="4500"))),
    ("us.household.contractor", one(care(household_employee="no"), home()), one(care(household_employee="yes"), home())),
    ("us.statutory.business", one(clerk()), one(clerk(business="b1"), books())),
    ("us.statutory.both", one(clerk(business="b1"), books(receipts="5")), one(clerk(business="b1"), books())),
    ("us.statutory.withheld", one(clerk(federal_withheld="5", business="b1"), books()), one(clerk(business="b1"), books())),
    ("us.tips.allocated", one(w2(9_000, allocated_tips="5")), one(w2(9_000))),
    ("us.tips.no-wages", one(paper("other-income", tips="5")), one(paper("other-income", tips="5"), wage())),
    ("us.contracts.back", one(broker("-5")), one(broker("5"))),
    ("us.contracts.large", one(broker("100001")), one(broker("100000"))),
]
