"""Casualties of things for personal use."""

from taxcore.packs.us.tests.diagnosed.making import one, paper, single, wage
from taxcore.packs.us.tests.returns import filing


def hit(**values):
    given = {"description": "Shed, Galena 61036", "disaster": "DR-4999-IL", "happened": "2025-05-05", "acquired": "2015-04-01",
             "basis": "9000", "before": "8000", "after": "1000", "reimbursed": "0"}  # fmt: skip
    return paper("casualty", "c1", **given | values)


def home(state):
    return filing(residence=state, state=state)


CASES = [
    ("us.casualty.no-disaster", one(hit(disaster="")), one(hit())),
    ("us.casualty.qualified-undeclared", one(hit(disaster="", qualified="yes")), one(hit(qualified="yes"))),
    ("us.casualty.other-year", one(hit(happened="2024-12-31")), one(hit())),
    ("us.casualty.after-above", one(hit(after="8001")), one(hit(after="8000"))),
    ("us.casualty.reimbursed", one(hit(reimbursed="")), one(hit())),
    ("us.casualty.basis-missing", one(hit(basis="")), one(hit())),
    ("us.casualty.replaced", one(hit(reimbursed="9001")), one(hit(reimbursed="9000"))),
    ("us.casualty.entered-there", one(single("itemized", casualty="5")), one(hit())),
    ("us.casualty.state", one(wage(), home("WI"), hit(qualified="yes")), one(wage(), home("IL"), hit(qualified="yes"))),
]
