"""Shares: basis, amounts at risk, what waits."""

from taxcore.packs.us.tests.diagnosed.making import one, paper, rows, share, two


def books(**values):
    return paper(
        "business",
        "b1",
        **{"activity": "Repair", "code": "811490", "participates": "yes", "receipts": "5", "supplies": "9"} | values,
    )


def stake(**values):
    return share(**{"all_at_risk": "no", "ordinary": "-9"} | values)


def owned(**values):
    return paper(
        "k1-1120s", "s1", **{"entity": "Slip", "entity_number": "00-4455669", "participates": "yes", "all_at_risk": "no"} | values
    )


def basis(key="p1", **values):
    return paper("basis-p", key, **{"share": "x1", "basis": "20"} | values)


def stock(**values):
    return paper("basis-s", "p1", **{"share": "s1", "stock": "20"} | values)


def in_state(state):
    return share(ordinary="9", states=rows({"state": state, "income": "9", "entity_tax": "1"}))


CASES = [
    ("us.share.basis-missing", one(stake()), one(stake(), basis())),
    ("us.share.basis-missing", one(stake()), one(stake(all_at_risk="yes"))),
    ("us.share.7203", one(owned(ordinary="-5", all_at_risk="yes")), one(owned(ordinary="-5"), stock())),
    ("us.share.basis-kept", one(owned(ordinary="5")), one(owned(ordinary="5"), stock())),
    ("us.basis.twice", one(stake(), basis(), basis("p2")), one(stake(), basis())),
    ("us.basis.owner", two(stake(), basis(owner="spouse")), two(stake(), basis())),
    ("us.basis.debt-above-loan", one(owned(), stock(debt="5", loan="4")), one(owned(), stock(debt="4", loan="4"))),
    ("us.basis.repaid-above", one(owned(), stock(loan="4", debt="4", repaid="5")), one(owned(), stock(loan="4", debt="4", repaid="4"))),
    ("us.basis.open-account", one(owned(), stock(loan="4", debt="2", repaid="4", open_account="yes")),
     one(owned(), stock(loan="4", debt="2", repaid="4"))),
    ("us.basis.repayment-gain", one(owned(), stock(loan="4", debt="2", repaid="4")), one(owned(), stock(loan="4", debt="4", repaid="4"))),
    ("us.basis.not-at-risk-above", one(stake(), basis(not_at_risk="21")), one(stake(), basis(not_at_risk="20"))),
    ("us.basis.empty", one(stake(), basis(basis="")), one(stake(), basis(basis="0"))),
    ("us.basis.waits", one(stake(), basis(basis="8")), one(stake(), basis(basis="9"))),
    ("us.basis.distribution-gain", one(stake(ordinary="0"), basis(distributed="21")), one(stake(ordinary="0"), basis(distributed="20"))),
    ("us.basis.self-employment", one(stake(self_employment="-9"), basis(basis="5")), one(stake(self_employment="-9"), basis())),
    ("us.basis.qbi", one(stake(qualified_income="-9"), basis(basis="5")), one(stake(qualified_income="-9"), basis())),
    ("us.basis.disposed", one(stake(disposed="yes"), basis(basis="5")), one(stake(disposed="yes"), basis())),
    ("us.risk.amount", one(books(not_at_risk="yes")), one(books(not_at_risk="yes", at_risk="0"))),
    ("us.risk.waits", one(books(not_at_risk="yes", at_risk="1")), one(books(not_at_risk="yes", at_risk="4"))),
    ("us.risk.waits", one(stake(), basis(not_at_risk="15")), one(stake(), basis(not_at_risk="11"))),
    ("us.risk.unasked", one(books(at_risk="1")), one(books(at_risk="1", not_at_risk="yes"))),
    ("us.unsupported.share-state", one(in_state("WI")), one(in_state("IL"))),
    ("us.risk.recapture", one(stake(ordinary="0"), basis(distributed="15", not_at_risk="6")), one(stake(ordinary="0"), basis(not_at_risk="6"))),
]  # fmt: skip
