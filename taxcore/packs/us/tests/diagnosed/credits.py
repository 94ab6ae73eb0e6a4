"""General business credits."""

from taxcore.packs.us.tests.diagnosed.making import books, one, rows, share, single, wage


def credit(*papers, **values):
    return one(wage(), books(receipts="900"), single("business-credits", **values), *papers)


def row(**values):
    return rows({"form": "5884", "kind": "specified", "amount": "5"} | values)


_PLAN = {"plan_costs": "900", "plan_members": "2", "employees": "9"}
CASES = [
    ("us.3800.passive", credit(rows=row(passive="yes")), credit(rows=row())),
    ("us.3800.share", credit(share(credits="5")), credit(share(credits="5"), rows=row(share="x1"))),
    ("us.3800.entered-there", one(single("credits-carried", general_business="5")), credit(rows=row())),
    ("us.3800.old-row", credit(carried=rows({"from_year": "2004", "kind": "other", "amount": "5"})),
     credit(carried=rows({"from_year": "2005", "kind": "other", "amount": "5"}))),
    ("us.3800.waits", credit(rows=row(amount="90000")), credit(rows=row())),
    ("us.3800.no-business", one(wage(), single("business-credits", tips="9")), credit(tips="9")),
    ("us.3800.deduction", credit(wages_long="90"), credit(rows=row())),
    ("us.5884.certified", credit(wages_long="90"), credit(tips="90")),
    ("us.8846.tips", credit(tips="9", tips_to_minimum="10"), credit(tips="9", tips_to_minimum="9")),
    ("us.8826.size", one(wage(), books(receipts="1000001"), single("business-credits", access_costs="900", employees="31")),
     one(wage(), books(receipts="1000001"), single("business-credits", access_costs="900", employees="30"))),
    ("us.8881.employees", credit(**_PLAN | {"employees": ""}), credit(**_PLAN)),
    ("us.8881.too-many", credit(**_PLAN | {"employees": "101"}), credit(**_PLAN | {"employees": "100"})),
]  # fmt: skip
