"""A repair shop of two shareholders, and what may be otherwise about it."""

from taxcore.engine import PaperValues, ReturnData, compute
from taxcore.packs.us.partnership.tests.making import SHOP as MEMBERS_SHOP
from taxcore.packs.us.partnership.tests.making import asset, books, entry, paper, rows
from taxcore.packs.us.s_corporation import PACK

ABOUT = {
    "street": "12 Weir Lane", "city": "Miami", "state": "FL", "zip": "33101", "activity": "Repair", "product": "Boat engines",
    "code": "811490", "incorporated": "2019-03-01", "elected": "2019-03-01", "method": "accrual", "initial": "no", "final": "no",
    "payments_1099": "no", "foreign_items": "no", "filed_in_time": "yes", "adjustments_before": "27000", "earnings_before": "0",
}  # fmt: skip
_OTHERWISE = {
    "Guaranteed payments": ("Officer's pay", "officers", 10_000, 0),
    "Members' capital": ("Retained earnings", "retained", -27_000, -27_000),
}
SHOP = (
    *(_OTHERWISE.get(one[0], one) for one in MEMBERS_SHOP),
    ("Common stock", "stock", -1_000, -1_000),
    ("Paid-in capital", "paid_in", -9_000, -9_000),
)


def filer(**values):
    return PaperValues("taxpayer", "person", {"role": "taxpayer", "company": "Heron Repair Inc", "number": "00-4455669"} | values)


def about(**values):
    return PaperValues("about", "about", ABOUT | {name: str(value) for name, value in values.items()})


def shop(*instead):
    """The shop's books; what is added or taken off an account is taken out of cash, so that they still balance."""
    known = {one[0]: one[2] for one in SHOP}
    cash = known["Checking"] - sum(one[2] - known.get(one[0], 0) for one in instead)
    return books(*SHOP, instead=(*instead, ("Checking", "cash", cash, 25_000)))


def holder(key, called, shares, **values):
    given = {
        "called": called, "number": f"900-00-010{len(called)}", "street": "1 Quay", "city": "Miami", "state": "FL",
        "zip": "33101",
        "sort": "individual", "stakes": rows({"shares": str(shares)}),
    }  # fmt: skip
    return paper("shareholder", key, **given | values)


def ada(shares=60, **values):
    return holder("ada", "Ada Heron", shares, **{"distributed": 18_000} | values)


def ben(shares=40, **values):
    return holder("ben", "Ben Teal", shares, **{"distributed": 12_000} | values)


def result(*papers, year=2025):
    """With the shop's books, shareholders and answers where none are given."""
    kinds = {one.kind for one in papers}
    given = [filer()] if "person" not in kinds else []
    given += [about()] if "about" not in kinds else []
    given += [paper("business")] if "business" not in kinds else []
    given += [books(*SHOP)] if "books" not in kinds else []
    given += [ada(), ben()] if "shareholder" not in kinds else []
    return compute(PACK, ReturnData("us-1120s", year, (*given, *papers)))


__all__ = ["about", "ada", "asset", "ben", "books", "entry", "holder", "paper", "result", "rows", "shop"]
