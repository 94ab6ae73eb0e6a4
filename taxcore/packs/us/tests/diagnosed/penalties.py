"""The underpayment penalty by income as it came, and what is asked to be waived."""

from taxcore.packs.us.tests.diagnosed.making import dividends, one, sale, single
from taxcore.packs.us.tests.returns import interest

_BEFORE = single("prior-year", tax="60000", adjusted_gross_income="100000", whole_year="yes")
_COINS = dividends(9_000, collectibles="50", capital_gain="50")
_EVEN = {"income_a": "20000", "income_b": "40000", "income_c": "60000"}


def asked(*papers, **values):
    """90,000 of interest with nothing paid, by the annualized method."""
    return one(
        interest("90000"), _BEFORE, single("penalty", annualise="yes"), single("annualized", **{**_EVEN, **values}), *papers
    )


def waived(**values):
    return one(interest("90000"), _BEFORE, single("penalty", waiver="yes", **values))


def sold(day):
    return one(interest("30000"), _BEFORE, sale(proceeds="60000", basis="5", sold=day))


CASES = [
    ("us.annualized.income-missing", asked(income_b=""), asked()),
    ("us.annualized.falls", asked(itemized_a="5"), asked(itemized_a="5", itemized_b="5", itemized_c="5")),
    ("us.annualized.falls", asked(profit_b="5"), asked(profit_b="5", profit_c="6")),
    ("us.annualized.above-year", asked(income_c="90001"), asked(income_c="90000")),
    ("us.annualized.other-taxes", asked(interest("200000", "i2")), asked(interest("200000", "i2"), other_taxes_a="0")),
    ("us.annualized.special-gain", asked(_COINS, preferred_a="5", preferred_b="5", preferred_c="5"), asked(_COINS)),
    ("us.annualized.unused", one(interest("90000"), _BEFORE, single("annualized", **_EVEN)), asked()),
    ("us.annualized.no-help", asked(income_a="90000", income_b="90000", income_c="90000"), asked()),
    ("us.annualized.could-help", sold("2025-09-01"), sold("2025-08-31")),
    ("us.penalty.waiver-incomplete", waived(waived="5"), waived(waived="5", waiver_reason="Hail")),
    ("us.penalty.waived-above", waived(waived="90000", waiver_reason="Hail"), waived(waived="5", waiver_reason="Hail")),
]  # fmt: skip
