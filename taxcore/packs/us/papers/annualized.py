"""Income as it came during the year, for the annualized income installment method. IRC 6654(d)(2)."""

from taxcore.engine import Amount, Grid
from taxcore.packs.us.base import FederalPaper

PERIODS = {"a": "January to March", "b": "January to May", "c": "January to August"}


def _of_periods(name, label, **options):
    """A field for each of the three periods that end before the year does."""
    return {f"{name}_{letter}": Amount(None, f"{label}, {period}", **options) for letter, period in PERIODS.items()}


class Annualized(FederalPaper):
    """What had come by the end of March, May and August: each column from January 1 on. IRC 6654(d)(2)(B)."""

    kind, name, official, group = "annualized", "Annualized income", "Form 2210, Schedule AI", "payments"
    single, owned = True, False
    grid = Grid("us.2210-ai", "From January 1 to the end of", ("March", "May", "August", "December"), (
        ("Income, before half of self-employment tax", ("income_a", "income_b", "income_c", "")),
        ("Itemized deductions", ("itemized_a", "itemized_b", "itemized_c", "")),
        ("QBI and Schedule 1-A deductions, annualized", ("deductions_a", "deductions_b", "deductions_c", "")),
        ("Qualified dividends and net long-term gain", ("preferred_a", "preferred_b", "preferred_c", "")),
        ("Taxpayer's net profit", ("profit_a", "profit_b", "profit_c", "")),
        ("Taxpayer's Social Security wages", ("wages_a", "wages_b", "wages_c", "")),
        ("Spouse's net profit", ("spouse_profit_a", "spouse_profit_b", "spouse_profit_c", "")),
        ("Spouse's Social Security wages", ("spouse_wages_a", "spouse_wages_b", "spouse_wages_c", "")),
        ("Other taxes, annualized", ("other_taxes_a", "other_taxes_b", "other_taxes_c", "other_taxes_d")),
        ("Credits, annualized", ("credits_a", "credits_b", "credits_c", "credits_d")),
        ("Tax after credits, annualized", ("after_credits_a", "after_credits_b", "after_credits_c", "after_credits_d")),
        ("Required installment", ("installment_a", "installment_b", "installment_c", "installment_d")),
    ))  # fmt: skip

    vars().update(
        _of_periods("income", "Income before half of self-employment tax", negative=True)
        | _of_periods("itemized", "Itemized deductions")
        | _of_periods("deductions", "QBI and Schedule 1-A deductions, annualized")
        | _of_periods("preferred", "Qualified dividends and net long-term gain")
        | _of_periods("profit", "Taxpayer's net profit")
        | _of_periods("wages", "Taxpayer's Social Security wages")
        | _of_periods("spouse_profit", "Spouse's net profit")
        | _of_periods("spouse_wages", "Spouse's Social Security wages")
        | _of_periods("other_taxes", "Other taxes, annualized")
        | _of_periods("credits", "Credits, annualized", help="If empty, this year's.")
    )
