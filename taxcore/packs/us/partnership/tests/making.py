"""A repair shop of two members, and what may be otherwise about it."""

from taxcore.engine import PaperValues, ReturnData, compute
from taxcore.packs.us.partnership import PACK

ABOUT = {
    "street": "12 Weir Lane", "city": "Austin", "state": "FL", "zip": "33101", "activity": "Repair", "product": "Boat engines",
    "code": "811490", "started": "2019-03-01", "method": "accrual", "entity_kind": "llc", "owned_half": "yes", "elects_out": "yes",
    "payments_1099": "no", "foreign_items": "no", "filed_in_time": "yes", "final": "no", "initial": "no",
}  # fmt: skip
# Account, tax line, debit less credit at the end, at the beginning
SHOP = (
    ("Checking", "cash", 55_000, 25_000), ("Customers", "receivables", 10_000, 8_000), ("Parts on hand", "inventory", 6_000, 5_000),
    ("Equipment", "buildings", 50_000, 50_000), ("Accumulated depreciation", "accumulated", -20_000, -15_000),
    ("Suppliers", "payables", -7_000, -6_000), ("Bank loan", "long_notes", -24_000, -30_000), ("Members' capital", "capital", -37_000, -37_000),
    ("Draws", "draws", 30_000, 0), ("Sales", "sales", -200_000, 0), ("Cost of parts sold", "cogs", 60_000, 0), ("Wages", "salaries", 40_000, 0),
    ("Payroll taxes", "taxes", 3_000, 0), ("Shop rent", "rent", 12_000, 0), ("Guaranteed payments", "guaranteed", 10_000, 0),
    ("Meals", "meals", 2_000, 0), ("Depreciation", "depreciation", 5_000, 0), ("Loan interest", "interest", 1_500, 0),
    ("Advertising", "advertising", 2_500, 0), ("Penalties", "nondeductible", 300, 0), ("Bank interest", "interest_income", -200, 0),
    ("Donations", "contributions", 900, 0),
)  # fmt: skip


def filer(**values):
    return PaperValues(
        "taxpayer", "person", {"role": "taxpayer", "company": "Heron & Teal Repair LLC", "number": "00-4455668"} | values
    )


def about(**values):
    return PaperValues("about", "about", ABOUT | values)


def paper(kind, key="", **values):
    made = {name: value if isinstance(value, list) else str(value) for name, value in values.items()}
    return PaperValues(key or kind, kind, made)


def rows(*made):
    return [{"id": str(number), **row} for number, row in enumerate(made, 1)]


def books(*accounts, instead=()):
    """A trial balance of (account, tax line, debit less credit at the end, at the beginning); `instead` of accounts of one name."""
    named = {one[0]: one for one in accounts} | {one[0]: one for one in instead}
    made = []
    for account, tax_line, net, before in named.values():
        side = {"debit": str(net)} if net > 0 else {"credit": str(-net)} if net < 0 else {}
        made.append({"account": account, "tax_line": tax_line} | side | ({"before": str(before)} if before else {}))
    return paper("books", rows=rows(*made))


def shop(*instead):
    """The shop's books; what is added or taken off an account is taken out of cash, so that they still balance."""
    known = {one[0]: one[2] for one in SHOP}
    cash = known["Checking"] - sum(one[2] - known.get(one[0], 0) for one in instead)
    return books(*SHOP, instead=(*instead, ("Checking", "cash", cash, 25_000)))


def partner(key, called, percent, **values):
    given = {
        "called": called, "number": f"900-00-010{len(called)}", "street": "1 Quay", "city": "Miami", "state": "FL", "zip": "33101",
        "sort": "individual", "general": "yes", "stakes": rows({"profit": str(percent)}),
    }  # fmt: skip
    return paper("partner", key, **given | values)


def ada(percent=60, **values):
    return partner("ada", "Ada Heron", percent, **{"services": 10_000, "distributed": 20_000, "capital_before": 22_000} | values)


def ben(percent=40, **values):
    return partner("ben", "Ben Teal", percent, **{"distributed": 10_000, "capital_before": 15_000} | values)


def result(*papers, year=2025):
    """With the shop's books, members and answers where none are given."""
    kinds = {one.kind for one in papers}
    given = [filer()] if "person" not in kinds else []
    given += [about()] if "about" not in kinds else []
    given += [paper("business")] if "business" not in kinds else []
    given += [books(*SHOP)] if "books" not in kinds else []
    given += [ada(), ben()] if "partner" not in kinds else []
    return compute(PACK, ReturnData("us-1065", year, (*given, *papers)))


def asset(cost, sort="machinery", key="a1", **values):
    given = {
        "description": "Lift",
        "used_in": "business",
        "sort": sort,
        "cost": cost,
        "in_service": "2025-05-10",
        "no_special": "yes",
    }
    return paper("asset", key, **given | values)


def entry(kind, *lines, key="e1"):
    """Lines of (account, debit less credit)."""
    made = [{"account": account} | ({"debit": str(net)} if net > 0 else {"credit": str(-net)}) for account, net in lines]
    return paper("entry", key, entry_kind=kind, explanation="Corrected", made_on="2025-12-31", rows=rows(*made))
