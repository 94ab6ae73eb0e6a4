"""The American return as a picture: what came in, what is taken off, the tax, what was paid, the bottom lines."""

from taxcore.engine import ZERO, Picture, Stream

# Income lines by attribute, and what a reader calls them: Form 1040, then Schedule 1
_INCOME = {
    "wages": "Wages", "taxable_interest": "Interest", "dividends": "Dividends", "ira_taxable": "IRA distributions",
    "pension_taxable": "Pensions", "taxable_benefits": "Social Security", "capital_gain": "Capital gains",
}  # fmt: skip
_FURTHER = {"business": "Business", "farms": "Farms", "entities": "Partnerships, trusts", "state_refunds": "State refunds",
            "unemployment": "Unemployment"}  # fmt: skip


def flow(result):
    """Wells and streams of a computed return. What is lost or taken off leaves the stream where the form takes it off."""
    form, further = result.run.form("us.1040"), result.run.form("us.sch-1")
    picture = _Picture()
    told = sum((picture.income(further, name, label) for name, label in _FURTHER.items()), ZERO)
    rest = form.additional_income - told
    picture.income_of("other", "Other income", rest, form.address("additional_income"))
    for name, label in _INCOME.items():
        picture.income(form, name, label)
    picture.well("income", 1, "Total income", form.total_income, form.address("total_income"))
    gross = max(form.adjusted_gross_income, ZERO)
    picture.off("income", "adjustments", 2, "Adjustments", form.adjustments, form.address("adjustments"))
    picture.on("income", "agi", 2, "Adjusted gross income", gross, form.address("adjusted_gross_income"))
    picture.off("agi", "deductions", 3, "Deductions", gross - form.taxable_income, form.address("deductions"))
    picture.on("agi", "taxable", 3, "Taxable income", form.taxable_income, form.address("taxable_income"))
    for line in result.bottom_lines:
        picture.settle(result, line)
    return picture.made()


class _Picture(Picture):
    def income(self, form, name, label):
        amount = getattr(form, name)
        self.income_of(name, label, amount, form.address(name))
        return amount

    def settle(self, result, line):
        """An authority's tax, as far as it was paid, and what is left: its bottom line."""
        code, name = line.authority.code, line.authority.name
        form = result.run.form(line.authority.form.code())
        tax = max(getattr(form, line.authority.tax), ZERO)
        address = form.address(line.authority.tax)
        if tax:
            self.well(f"{code}-tax", 4, f"{name}, tax", tax, address)
            self.streams.append(Stream("taxable" if code == "us" else "agi", f"{code}-tax", tax, again=code != "us"))
        paid = min(tax, tax + line.amount)
        if paid > 0:
            self.well(f"{code}-paid", 5, f"{name}, payments and credits", paid, address, "away")
            self.streams.append(Stream(f"{code}-tax", f"{code}-paid", paid))
        word = "refund" if line.amount > 0 else "to pay" if line.amount < 0 else "even"
        self.well(f"{code}-end", 5, f"{name}, {word}", abs(line.amount), line.address, "end")
        if line.amount > 0:
            self.well(f"{code}-beyond", 4, f"{name}, overpayment", line.amount, line.address, "source")
            self.streams.append(Stream(f"{code}-beyond", f"{code}-end", line.amount))
        elif line.amount < 0 and tax:
            self.streams.append(Stream(f"{code}-tax", f"{code}-end", min(-line.amount, tax)))
