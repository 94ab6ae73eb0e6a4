"""What each partner's own return gets: the Schedule K-1 and what it does to their basis. IRC 6031(b)."""

from taxcore.engine import Issued
from taxcore.packs.us.base import digits

# Field of the owner's Schedule K-1, and the line of ours
_FIELDS = {
    "ordinary": "ordinary", "rental": "rental", "guaranteed": "guaranteed", "interest": "interest", "dividends": "dividends",
    "qualified_dividends": "qualified_dividends", "royalties": "royalties", "short_gain": "short_gain", "long_gain": "long_gain",
    "collectibles": "collectibles", "unrecaptured": "unrecaptured", "section_1231": "section_1231", "section_179": "section_179",
    "cash_gifts": "contributions", "investment_interest": "investment_interest", "portfolio_deductions": "portfolio_costs",
    "self_employment": "self_employment", "minimum_tax": "minimum_tax", "exempt_interest": "exempt_interest",
    "foreign_tax": "foreign_tax", "qualified_income": "qualified_income", "qualified_wages": "wages_paid",
    "property_basis": "property_basis",
}  # fmt: skip
_BASIS = {
    "contributed": "contributed",
    "liabilities": "owed_more",
    "distributed": "distributed",
    "nondeductible": "nondeductible",
}


def _values(form, fields):
    """(values, lines they come from) of what is there."""
    amounts = {field: (name, getattr(form, name)) for field, name in fields.items()}
    kept = {field: one for field, one in amounts.items() if one[1]}
    return {field: f"{amount:f}" for field, (_, amount) in kept.items()}, {
        field: form.address(name) for field, (name, _) in kept.items()
    }


def issues(run):
    """To each partner who is an individual; what others have to do with theirs is told by the PDF and the open format."""
    filer = next(iter(run.people()), None)
    if filer is None or not filer.number:
        return
    number = digits(filer.number)
    called = {"entity": str(filer.company), "entity_number": f"{number[:2]}-{number[2:]}"}
    for form in run.every("us.sch-k-1"):
        partner = form.partner
        if partner.sort != "individual":
            continue
        values, lines = _values(form, _FIELDS)
        service = {"service_trade": "yes"} if run.single("business").service_trade else {}
        key = f"k1-{number}"
        yield Issued(partner.address("called"), str(partner.called), str(partner.number), "us", "k1-1065", key,
                     called | values | service, lines, known_by="entity_number")  # fmt: skip
        basis, of = _values(form, _BASIS)
        if basis:
            yield Issued(partner.address("called"), str(partner.called), str(partner.number), "us", "basis-p", f"basis-{number}",
                         {"share": key} | basis, of, known_by="share")  # fmt: skip
