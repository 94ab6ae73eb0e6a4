"""Small returns that correct one which was filed."""

from datetime import date

from taxcore.engine import Amends, AsFiled, PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data

FILED = date(2025, 3, 14)


def as_filed(result, number=1, day=FILED, superseding=False, receipts=None):
    """What the authorities have once they accepted a result."""
    filed = {
        line.authority.code: AsFiled(
            day,
            (receipts or {}).get(line.authority.code, f"R-{number}"),
            {cell.address: cell.value for cell in result.lines()
             if cell.is_amount and cell.node.jurisdiction == line.authority.form.jurisdiction},
        )
        for line in result.bottom_lines
    }  # fmt: skip
    return Amends(number, superseding, filed, result.run.everything.papers)


def amendment(*settled, explanation="A statement came late.", **values):
    rows = [{"id": str(place), **row} for place, row in enumerate(settled, start=1)]
    return PaperValues("amendment", "amendment", {"explanation": explanation, "settled": rows} | values)


def corrected(amends, *papers, year=2024):
    return compute(PACK, data(*papers, year=year).but(amends=amends))


def filed(*papers, year=2024):
    return compute(PACK, data(*papers, year=year))


LOAN = PaperValues("loan", "1098-e", {"owner": "taxpayer", "lender": "Bank", "interest": "1000"})
