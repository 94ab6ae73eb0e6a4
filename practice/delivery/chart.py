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
    authorities = [line.authority for line in result.bottom_lines]
    forms = [result.run.form(authority.form.code()) for authority in authorities]
    income = forms[0].cell(authorities[0].income).value
    if income <= 0:
        return []
    taxes = [form.cell(authority.tax).value for authority, form in zip(authorities, forms, strict=True)]
    amounts = [(f"{one.name}, tax", tax, "state" if one.after else "tax") for one, tax in zip(authorities, taxes, strict=True)]
    left = income - sum(taxes, Decimal(0))
    parts, x = [], 0
    for name, amount, css in [*amounts, ("Left of income", max(left, Decimal(0)), "left")]:
        width = min(int(_WIDTH * amount / income), _WIDTH - x)
        parts.append(Part(name, amount, x, width, css))
        x += width
    return parts
