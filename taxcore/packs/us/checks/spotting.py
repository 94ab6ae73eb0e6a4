"""How typing slips look: swapped digits, a decimal place too many or too few. For diagnostics that compare two amounts."""

from decimal import Decimal

_TEN, _HUNDRED = Decimal(10), Decimal(100)
_LEAST = Decimal(100)  # below it nearly any two numbers look alike


def slip(one, other):
    """ "swapped" or "decimal" where one amount looks like the other mistyped; empty where it does not."""
    if one == other or min(one, other) < _LEAST:
        return ""
    if max(one, other) in (min(one, other) * _TEN, min(one, other) * _HUNDRED):
        return "decimal"
    return "swapped" if _swapped(_digits(one), _digits(other)) else ""


def _digits(amount):
    return f"{amount.normalize():f}".replace(".", "") if amount != amount.to_integral_value() else f"{amount:.0f}"


def _swapped(one, other):
    """The same digits with exactly two neighbors exchanged."""
    if len(one) != len(other):
        return False
    at = [place for place, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
    return len(at) == 2 and at[1] == at[0] + 1 and (one[at[0]], one[at[1]]) == (other[at[1]], other[at[0]])
