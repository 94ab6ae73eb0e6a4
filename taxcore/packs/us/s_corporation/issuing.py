"""What each shareholder's own return gets: the Schedule K-1 and what it does to their basis. IRC 6037(b)."""

from taxcore.packs.us.entity.issuing import Told, to_owners
from taxcore.packs.us.states.il.entities.issuing import in_states

_FIELDS = {
    "ordinary": "ordinary", "rental": "rental", "interest": "interest", "dividends": "dividends",
    "qualified_dividends": "qualified_dividends", "royalties": "royalties", "short_gain": "short_gain", "long_gain": "long_gain",
    "collectibles": "collectibles", "unrecaptured": "unrecaptured", "section_1231": "section_1231", "section_179": "section_179",
    "cash_gifts": "contributions", "investment_interest": "investment_interest", "portfolio_deductions": "portfolio_costs",
    "minimum_tax": "minimum_tax", "exempt_interest": "exempt_interest", "foreign_tax": "foreign_tax",
    "qualified_income": "qualified_income", "qualified_wages": "wages_paid", "property_basis": "property_basis",
}  # fmt: skip
_BASIS = {"distributed": "distributed", "nondeductible": "nondeductible"}


def issues(run):
    """To each shareholder who is an individual."""
    return to_owners(run, Told("k1-1120s", _FIELDS, "basis-s", _BASIS, lambda form: form.holder, _own, in_states))


def _own(holder):
    """What the paper of the owner has and no line: insurance in wages, capital put in."""
    share = {"health_insurance": f"{holder.health_insurance:f}"} if holder.health_insurance else {}
    return share, {"contributed": f"{holder.contributed:f}"} if holder.contributed else {}
