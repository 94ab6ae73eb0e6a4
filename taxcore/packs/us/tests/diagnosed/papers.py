"""Boxes against each other, sales, dividends, foreign tax."""

from taxcore.packs.us.checks.boxes import _PARTS
from taxcore.packs.us.tests.diagnosed.making import dividends, one, paper, rows, single, sold, two_sales, wage
from taxcore.packs.us.tests.returns import filing, interest


def part(kind, name, wholes, amount):
    """A paper whose box `name` is `amount` where its wholes make 5."""
    return one(paper(kind, "x1", **{name: amount, wholes[0]: "5"}))


def dividend(**values):
    return dividends(100, **values)


def losses(*given):
    return two_sales(*given)


CASES = [
    *((f"us.{kind}.{name.replace('_', '-')}-above", part(kind, name, wholes, "6"), part(kind, name, wholes, "5"))
      for kind, name, wholes, _ in _PARTS),
    ("us.withheld-above-income", one(interest("100", withheld="101")), one(interest("100", withheld="100"))),
    ("us.payer-number-missing", one(interest("100", withheld="10")), one(interest("100", withheld="10", payer_number="00-1234567"))),
    ("us.statement-twice", one(interest("100"), interest("100", "i2", payer="Bank i1")), one(interest("100"), interest("101", "i2", payer="Bank i1"))),
    ("us.paper-blank", one(interest("0")), one(interest("1"))),
    ("us.payer-two-names", one(interest("9", payer_number="00-1234567"), interest("8", "i2", payer="Heron", payer_number="00-1234567")),
     one(interest("9", payer_number="00-1234567"), interest("8", "i2", payer="Heron", payer_number="00-1234568"))),
    ("us.ssa-1099.net-differs", one(paper("ssa-1099", paid="900", repaid="50", net="900")), one(paper("ssa-1099", paid="900", repaid="50", net="850"))),
    ("us.1099-q.parts-differ", one(paper("1099-q", gross="90", earnings="30", basis="50")), one(paper("1099-q", gross="90", earnings="30", basis="60"))),
    # sales
    ("us.sale.acquired-after-sold", one(sold(acquired="06/02/2025", sold="2025-06-01")), one(sold(acquired="06/01/2025", sold="2025-06-01"))),
    ("us.sale.term-differs", one(sold(acquired="05/04/2024")), one(sold(acquired="05/05/2024"))),
    ("us.sale.term-differs", one(sold(box="D", acquired="05/05/2024")), one(sold(box="D", acquired="05/04/2024"))),
    ("us.sale.no-basis", one(sold(basis="")), one(sold(basis="0"))),
    ("us.sale.gain-unlikely", one(sold(proceeds="20001", basis="1000")), one(sold(proceeds="20000", basis="1000"))),
    ("us.sale.wash-sale-gain", one(sold(code="W", adjustment="5")), one(sold(basis="105", code="W", adjustment="5"))),
    ("us.sale.home-above-limit", one(sold(proceeds="900000", code="H", adjustment="-250001")), one(sold(proceeds="900000", code="H", adjustment="-250000"))),
    ("us.sale.maybe-wash-sale", one(losses({"acquired": "01/10/2025"}, {"acquired": "06/30/2025", "sold": "2025-09-09", "proceeds": "95"})),
     one(losses({"acquired": "01/10/2025"}, {"acquired": "07/03/2025", "sold": "2025-09-09", "proceeds": "95"}))),
    ("us.sale.totals-and-rows", one(paper("1099-b", payer="S", summaries=rows({"box": "A", "proceeds": "9"}), sales=rows({"box": "A", "proceeds": "5"}))),
     one(paper("1099-b", payer="S", summaries=rows({"box": "A", "proceeds": "9"}), sales=rows({"box": "D", "proceeds": "5"})))),
    ("us.sale.collectibles-above", one(paper("1099-b", payer="S", summaries=rows({"box": "D", "proceeds": "9", "basis": "5", "collectible": "5"}))),
     one(paper("1099-b", payer="S", summaries=rows({"box": "D", "proceeds": "9", "basis": "5", "collectible": "4"})))),
    ("us.capital-loss.carried-on", one(wage(), sold(basis="3200")), one(wage(), sold(basis="3100"))),
    # foreign tax, dividends, interest
    ("us.foreign-tax.income-missing", one(wage(), dividend(foreign_tax="90"), single("foreign-tax", other_tax="300")),
     one(wage(), dividend(foreign_tax="90"), single("foreign-tax", other_tax="300", gross_income="5000"))),
    ("us.foreign-tax.limited", one(wage(), single("foreign-tax", other_tax="900", gross_income="1000")),
     one(wage(), single("foreign-tax", other_tax="400", gross_income="40000"))),
    ("us.foreign-tax.carry-expired", one(single("foreign-tax", carried=rows({"from_year": "2014", "amount": "5"}))),
     one(single("foreign-tax", carried=rows({"from_year": "2015", "amount": "5"})))),
    ("us.foreign-tax.carry-expires", one(single("foreign-tax", carried=rows({"from_year": "2015", "amount": "5"}))),
     one(single("foreign-tax", carried=rows({"from_year": "2016", "amount": "5"})))),
    ("us.foreign-account.likely", one(filing(foreign_account="no"), interest("100", foreign_tax="5")), one(filing(foreign_account="no"), interest("100"))),
    ("us.dividend.all-qualified-reit", one(dividend(qualified="60", trust_dividends="41")), one(dividend(qualified="60", trust_dividends="40"))),
    ("us.interest.taxed-and-exempt", one(interest("100", exempt_interest="100")), one(interest("100", exempt_interest="90"))),
]  # fmt: skip
