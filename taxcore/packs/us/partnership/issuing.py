"""What each partner's own return gets: the Schedule K-1 and what it does to their basis. IRC 6031(b)."""

from taxcore.packs.us.entity.issuing import Told, to_owners
from taxcore.packs.us.states.il.entities.issuing import in_states

# Field of the owner's Schedule K-1, and the line of ours
_FIELDS = {
    "ordinary": "ordinary", "rental": "rental", "guaranteed": "guaranteed", "interest": "interest", "dividends": "dividends",
    "qualified_dividends": "qualified_dividends", "royalties": "royalties", "short_gain": "short_gain", "long_gain": "long_gain",
    "collectibles": "collectibles", "unrecaptured": "unrecaptured", "section_1231": "section_1231", "section_179": "section_179",
    "cash_gifts": "contributions", "investment_interest": "investment_interest", "portfolio_deductions": "portfolio_costs",
    "self_employment": "self_employment", "minimum_tax": "minimum_tax", "exempt_interest": "exempt_interest",
    "foreign_tax": "foreign_tax", "qualified_income": "qualified_income", "qualified_wages": "wages_paid",
    "property_basis": "property_basis", "adjusted_business": "adjusted_business", "adjusted_rental": "adjusted_rental",
    "adjusted_long_gain": "adjusted_long_gain", "adjusted_1231": "adjusted_1231",
}  # fmt: skip
# What an owner that is an entity is: the return that takes its share up
_RETURNS = {"corporation": "us-1120", "s-corporation": "us-1120s", "partnership": "us-1065"}
_OF_ENTITIES = {"nondeductible": "nondeductible", "distributed": "distributed"}
_BASIS = {
    "contributed": "contributed",
    "liabilities": "owed_more",
    "distributed": "distributed",
    "property_distributed": "distributed_property",
    "nondeductible": "nondeductible",
}


def issues(run):
    """To each partner who has a return here."""
    told = Told(
        "k1-1065", _FIELDS, "basis-p", _BASIS, lambda form: form.partner, in_states=in_states, of_entities=_OF_ENTITIES,
        returns=_RETURNS,
    )  # fmt: skip
    return to_owners(run, told)
