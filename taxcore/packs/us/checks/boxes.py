"""Boxes of one statement against each other: parts above the whole, more withheld than paid; papers twice or blank."""

from taxcore.engine import CHECK, ZERO, Amount, Diagnostic, Mend, Rows, check, declares, found, stops
from taxcore.engine.characters import within
from taxcore.packs.us.base import digits
from taxcore.packs.us.checks.spotting import slip

# (paper, box that is part, the whole it is part of, what to call it). The code is us.KIND.FIELD-above
_PARTS = (
    ("1099-div", "qualified", ("dividends",), "Qualified dividends exceed ordinary dividends"),
    ("1099-div", "trust_dividends", ("dividends",), "Section 199A dividends exceed ordinary dividends"),
    ("1099-div", "unrecaptured", ("capital_gain",), "Section 1250 gain exceeds capital gain distributions"),
    ("1099-div", "collectibles", ("capital_gain",), "Collectibles gain exceeds capital gain distributions"),
    ("1099-div", "property_dividends", ("dividends",), "Section 897 dividends exceed ordinary dividends"),
    ("1099-div", "property_gain", ("capital_gain",), "Section 897 gain exceeds capital gain distributions"),
    ("1099-div", "private_activity", ("exempt_interest",), "Private activity dividends exceed exempt-interest dividends"),
    ("1099-div", "foreign_income", ("dividends",), "Foreign source dividends exceed dividends"),
    ("1099-div", "government_interest", ("dividends",), "U.S. obligations exceed dividends"),
    ("1099-div", "foreign_tax", ("dividends",), "Foreign tax exceeds dividends"),
    ("1099-int", "private_activity", ("exempt_interest",), "Private activity interest exceeds tax-exempt interest"),
    ("1099-int", "treasury_premium", ("government_interest",), "Treasury premium exceeds interest"),
    ("1099-int", "exempt_premium", ("exempt_interest",), "Premium on tax-exempt bonds exceeds interest"),
    ("1099-int", "accrued", ("interest", "government_interest"), "Accrued interest exceeds interest"),
    ("1099-int", "education_bonds", ("government_interest",), "Form 8815 exclusion exceeds box 3"),
    ("1099-int", "early_withdrawal", ("interest",), "Early withdrawal penalty exceeds interest"),
    ("1099-oid", "acquisition_premium", ("discount", "treasury_discount"), "Acquisition premium exceeds OID"),
    ("1099-r", "taxable", ("gross",), "Taxable amount exceeds the gross distribution"),
    ("1099-r", "own_contributions", ("gross",), "Employee contributions exceed the gross distribution"),
    ("1099-r", "excepted", ("gross",), "Exception exceeds the gross distribution"),
    ("ssa-1099", "medicare_premiums", ("net",), "Medicare premiums exceed benefits"),
    ("ssa-1099", "earlier_years", ("paid",), "Benefits for earlier years exceed benefits"),
    ("1099-g", "repaid", ("unemployment",), "Unemployment repaid exceeds received"),
    ("1099-sa", "medical", ("gross",), "Medical expenses exceed the HSA distribution"),
    ("1099-k", "without_card", ("gross",), "Card not present exceeds the gross amount"),
    ("1098-t", "taxed_scholarship", ("scholarships", "scholarship_adjustment"), "Taxable scholarship exceeds the scholarship"),
    ("1098-t", "books_from_school", ("books",), "Books from the school exceed all books"),
    ("1098", "not_for_home", ("interest",), "Nonqualified interest exceeds interest"),
    ("1098", "refund", ("interest",), "Interest refund exceeds interest"),
    ("k1-1065", "qualified_dividends", ("dividends",), "Partnership K-1: qualified exceed ordinary dividends"),
    ("k1-1065", "government_interest", ("interest",), "Partnership K-1: U.S. interest exceeds interest"),
    ("k1-1120s", "qualified_dividends", ("dividends",), "S corporation K-1: qualified exceed ordinary dividends"),
    ("k1-1120s", "government_interest", ("interest",), "S corporation K-1: U.S. interest exceeds interest"),
    ("k1-1041", "qualified_dividends", ("dividends",), "Trust K-1: qualified exceed ordinary dividends"),
    ("k1-1041", "government_interest", ("interest",), "Trust K-1: U.S. interest exceeds interest"),
    ("business", "home_area", ("home_total",), "Home office larger than the home"),
    ("business", "restaurant_meals", ("meals",), "Restaurant meals exceed all meals"),
    ("business", "miles_from_july", ("miles",), "Miles from July exceed business miles"),
    ("farm", "cooperatives_taxable", ("cooperatives",), "Taxable cooperative distributions exceed all"),
    ("farm", "loans_taxable", ("loans_forfeited",), "Taxable forfeited loans exceed all"),
    ("farm", "reserve", ("programs",), "Reserve payments exceed program payments"),
    ("car-loan", "on_business", ("interest",), "Business part exceeds vehicle loan interest"),
)  # fmt: skip


def _code(kind, name):
    return f"us.{kind}.{name.replace('_', '-')}-above"


@declares(*(Diagnostic(_code(kind, part), CHECK, title, "conflict") for kind, part, _, title in _PARTS))
def part_above_whole(run):
    """A box that is said to be part of another cannot be more than it."""
    for kind, part, wholes, _ in _PARTS:
        for paper in run.papers(kind):
            if not paper.is_keyed(part):
                continue
            amount, whole = getattr(paper, part) or ZERO, sum((getattr(paper, name) or ZERO for name in wholes), ZERO)
            if amount > whole and (whole or part != "home_area"):
                fields = paper.fields()
                names = " and ".join(f"“{fields[name].label}”" for name in wholes)
                yield found(
                    (paper.address(part), *map(paper.address, wholes)),
                    f"{paper.title}: “{fields[part].label}” is {amount:,} and cannot be more than {names}, "
                    f"{whole:,}. Compare both with the paper.",
                    code=_code(kind, part),
                )


# What a payer's tax is withheld from
_INCOME = {
    "1099-int": ("interest", "government_interest", "market_discount", "exempt_interest"),
    "1099-oid": ("discount", "other_interest", "treasury_discount", "market_discount", "exempt_discount"),
    "1099-div": ("dividends", "capital_gain", "return_of_capital", "cash_liquidation", "other_liquidation", "exempt_interest"),
    "1099-r": ("gross",), "ssa-1099": ("paid", "net"), "1099-g": ("unemployment", "grants", "agriculture", "state_refund"),
    "1099-nec": ("pay",), "1099-k": ("gross",), "w2g": ("winnings",),
    "1099-misc": ("rents", "royalties", "other_income", "fishing", "medical", "substitute", "crop_insurance", "attorney",
                  "deferred"),
}  # fmt: skip


@stops("us.withheld-above-income", "Withholding exceeds the payment", "unlikely", "IRC 3405, 3406")
def withheld_above_income(run):
    for kind, names in _INCOME.items():
        for paper in run.papers(kind):
            if paper.is_keyed("withheld") and paper.withheld > sum((getattr(paper, name) for name in names), ZERO):
                yield found(
                    (paper.address("withheld"), paper.address(names[0])),
                    f"{paper.title}: withholding exceeds the payment. Compare the withholding and the income with the paper.",
                )


@check("us.payer-number-missing", "Withholding without payer's TIN", "missing", "IRC 6109; 26 CFR 301.6109-1")
def payer_without_number(run):
    """The authority gives credit for withholding by the payer's number."""
    for kind in _INCOME:
        for paper in run.papers(kind):
            if "payer_number" in paper.fields() and paper.is_keyed("withheld") and paper.withheld and not paper.payer_number:
                yield found(
                    paper.address("payer_number"),
                    f"{paper.title} withheld tax and has no TIN. Enter it: the IRS matches the credit by it.",
                )


@check("us.statement-twice", "Form entered twice", "conflict")
def statement_twice(run):
    seen = {}
    for paper in run.all_papers():
        if paper.kind == "w2" or not paper.party or not paper.main:
            continue
        if not paper.is_keyed(paper.main):
            continue
        values = paper.values
        amount, name = str(values[paper.main]), str(values.get(paper.party["name"], "")).strip().lower()
        mark = (paper.kind, name, str(values.get("owner")), str(values.get("account")), amount)
        if mark in seen and name and getattr(paper, paper.main):
            amount = getattr(paper, paper.main)
            yield found(
                (paper.address(paper.main), seen[mark].address(paper.main)),
                f"{paper.title} is entered twice with {amount:,}. Remove one unless there are two forms.",
            )
        seen.setdefault(mark, paper)


_NOTHING: tuple[object, ...] = ("", "0", "0.00", None, [])


@check("us.paper-blank", "Form without amounts", "missing")
def blank(run):
    """Added and forgotten: what is on the paper would be missing from the return."""
    for paper in run.all_papers():
        if paper.single or not paper.main or paper.kind in ("gift", "business"):
            continue
        if paper.values.get(paper.main) not in _NOTHING:
            continue
        fields = paper.fields()
        counted = (name for name in paper.values if isinstance(fields.get(name), Amount | Rows))
        if all(paper.values[name] in _NOTHING for name in counted) and not paper.attached:
            yield found(
                paper.address(paper.main), f"{paper.title} ({within(paper.name)}) has no amount. Enter it, or remove the paper."
            )


@check("us.payer-two-names", "One EIN with two names", "format")
def number_with_two_names(run):
    names = {}
    for paper in run.all_papers():
        if not paper.party:
            continue
        number = digits(str(paper.values.get(paper.party["number"], "")))
        name = " ".join(str(paper.values.get(paper.party["name"], "")).lower().split())
        first = names.setdefault(number, (name, paper)) if number and name else None
        if first is not None and first[0] != name and first[0][:4] != name[:4]:
            yield found(
                (paper.address(paper.party["number"]), first[1].address(first[1].party["number"])),
                f"{paper.title} and {first[1].title} have the same number. Compare both with their papers.",
            )


@check("us.ssa-1099.net-differs", "SSA-1099: box 5 is not box 3 less box 4", "conflict", "IRC 86(d)(2)")
def net_benefits(run):
    for paper in run.papers("ssa-1099"):
        keyed = all(paper.is_keyed(name) for name in ("paid", "net"))
        if keyed and paper.net != paper.paid - paper.repaid:
            right = paper.paid - paper.repaid
            yield found(
                (paper.address("net"), paper.address("paid")),
                f"{paper.title}: box 5 is {paper.net:,}, boxes 3 less 4 make {right:,}. Compare with the paper.",
                mend=Mend(f"Box 5 is {right:,}", paper.address("net"), str(right)),
            )


@check("us.1099-q.parts-differ", "1099-Q earnings and basis do not add up", "conflict", "IRC 529(c)(3)")
def education_account_parts(run):
    for paper in run.papers("1099-q"):
        if paper.is_keyed("earnings") and paper.is_keyed("basis") and paper.earnings + paper.basis != paper.gross:
            yield found(
                (paper.address("gross"), paper.address("earnings"), paper.address("basis")),
                f"{paper.title}: boxes 2 and 3 make {paper.earnings + paper.basis:,}, box 1 is {paper.gross:,}. "
                "Compare with the paper.",
            )


@check("us.w2.swapped", "W-2 digits look transposed", "unlikely")
@check("us.w2.decimal", "W-2 box 10 or 100 times another", "unlikely")
def slips_between_boxes(run):
    """Boxes that are usually alike, and differ as typing slips do."""
    for wage in run.papers("w2"):
        pairs = [(wage, name) for name in ("social_security_wages", "medicare_wages") if wage.is_keyed(name)]
        if len(wage.states) == 1:
            pairs.append((wage.states[0], "wages"))
        for node, name in pairs:
            other = getattr(node, name)
            how = slip(wage.wages, other)
            if how:
                says = "digits look swapped" if how == "swapped" else "one looks moved by a decimal place"
                yield found(
                    (wage.address("wages"), node.address(name)),
                    f"{wage.title}: box 1 is {wage.wages:,}, “{node.fields()[name].label}” is {other:,}; {says}. "
                    "Compare both with the paper.",
                    code=f"us.w2.{how}",
                )


CHECKS = (
    part_above_whole, withheld_above_income, payer_without_number, statement_twice, blank, number_with_two_names, net_benefits,
    education_account_parts, slips_between_boxes,
)  # fmt: skip
