"""A repair shop that is a corporation, and what may be otherwise about it."""

from taxcore.engine import PaperValues, ReturnData, compute
from taxcore.packs.us.corporation import PACK
from taxcore.packs.us.partnership.tests.making import asset, books, entry, paper, rows
from taxcore.packs.us.s_corporation.tests.making import SHOP as S_SHOP

ABOUT = {
    "street": "12 Weir Lane", "city": "Miami", "state": "FL", "zip": "33101", "activity": "Repair", "product": "Boat engines",
    "code": "811490", "incorporated": "2019-03-01", "method": "accrual", "initial": "no", "final": "no", "payments_1099": "no",
    "personal_service": "no", "closely_held": "no", "holding": "no", "consolidated": "no",
}  # fmt: skip
SHOP = S_SHOP


def filer(**values):
    return PaperValues(
        "taxpayer", "person", {"role": "taxpayer", "company": "Heron Repair Corp", "number": "00-4455670"} | values
    )


def about(**values):
    return PaperValues("about", "about", ABOUT | {name: str(value) for name, value in values.items()})


def shop(*instead):
    """The shop's books; what is added or taken off an account is taken out of cash, so that they still balance."""
    known = {one[0]: one[2] for one in SHOP}
    cash = known["Checking"] - sum(one[2] - known.get(one[0], 0) for one in instead)
    return books(*SHOP, instead=(*instead, ("Checking", "cash", cash, 25_000)))


def dividends(*given):
    """(payer, percent owned, amount)."""
    made = [{"payer": payer, "owned": owned, "amount": str(amount)} for payer, owned, amount in given]
    return paper("dividends", rows=rows(*made))


def carried(**kinds):
    """Rows of (year, amount) by table: losses, gifts, capital."""
    made = {
        name: rows(*({"from_year": str(year), "amount": str(amount)} for year, amount in given)) for name, given in kinds.items()
    }
    return paper("carryovers", **made)


def result(*papers, year=2025):
    kinds = {one.kind for one in papers}
    given = [filer()] if "person" not in kinds else []
    given += [about()] if "about" not in kinds else []
    given += [paper("business")] if "business" not in kinds else []
    given += [books(*SHOP)] if "books" not in kinds else []
    return compute(PACK, ReturnData("us-1120", year, (*given, *papers)))


__all__ = ["about", "asset", "books", "carried", "dividends", "entry", "paper", "result", "rows", "shop"]
