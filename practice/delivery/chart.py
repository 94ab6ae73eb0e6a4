"""The one-page summary's picture: where the income went, as an SVG bar."""

from dataclasses import dataclass
from decimal import Decimal

_WIDTH = 620


@dataclass
class Part:
    name: str
    amount: Decimal
    x: int
    width: int
    css: str

    @property
    def colour(self):
        """For PDFs, whose pictures know no style sheet."""
        return {"tax": "#a83e17", "state": "#235a72"}.get(self.css, "#8fa68d")


def summary_chart(result):
    """Parts of total income: each authority's tax and what is left. Empty when there is no income."""
    income = result.run.form("us.1040").total_income
    if income <= 0:
        return []
    amounts = [("Federal tax", result.run.form("us.1040").total_tax, "tax")]
    if result.run.pack.authority("us-il").applies(result.run):
        amounts.append(("Illinois tax", result.run.form("us-il.il-1040").total_tax, "state"))
    left = income - sum((amount for _, amount, _ in amounts), Decimal(0))
    parts, x = [], 0
    for name, amount, css in [*amounts, ("Left of income", max(left, Decimal(0)), "left")]:
        width = min(int(_WIDTH * amount / income), _WIDTH - x)
        parts.append(Part(name, amount, x, width, css))
        x += width
    return parts
