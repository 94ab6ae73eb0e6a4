"""Papers of last year beside this year's: which are missing, and what changed in a way that slips do.

Silent on a return whose last year is not known.
"""

from decimal import Decimal

from taxcore.engine import CHECK, Amount, Diagnostic, Mend, Rows, check, declares, found
from taxcore.packs.us.base import digits
from taxcore.packs.us.checks.matching import amount_of, earlier_of, marks, pairs, title_before

_NOTABLE = Decimal(5000)

# Statements that come every year: the code says which
_EVERY_YEAR = {
    "w2": "W-2", "1099-int": "1099-INT", "1099-div": "1099-DIV", "1099-b": "1099-B",
    "1099-da": "1099-DA", "1099-r": "1099-R", "ssa-1099": "SSA-1099",
    "1099-nec": "1099-NEC", "1098": "1098", "k1-1065": "partnership K-1",
    "k1-1120s": "S corporation K-1", "k1-1041": "estate or trust K-1", "business": "Schedule C business",
    "1095-a": "1095-A", "1098-e": "1098-E", "care": "care provider", "hsa": "HSA",
    "ira": "IRA contribution",
}  # fmt: skip


@declares(*(Diagnostic(f"us.last-year.no-{kind}", CHECK, f"Last year's {name} is missing", "unlikely")
            for kind, name in _EVERY_YEAR.items()))  # fmt: skip
def statement_missing(run):
    """What last year had from a payer, and this year has not: the commonest thing that is left out."""
    if run.last_year is None:
        return
    for kind, name in _EVERY_YEAR.items():
        matched = {earlier.id for paper in run.papers(kind) if (earlier := earlier_of(run, paper)) is not None}
        for earlier in run.papers_before(kind):
            if earlier.id not in matched and not earlier.values.get("final"):
                whose = title_before(run, kind, earlier)
                yield found(
                    (f"us.{kind}", run.single("filing").address("status")),
                    f"Last year there was a {name} from {whose}; this year there is none. Ask the client, or suppress this "
                    "with a reason.",
                    code=f"us.last-year.no-{kind}",
                )


@check("us.last-year.not-entered", "A paper expected again has no amount", "unlikely")
def expected_and_not_entered(run):
    """What was rolled forward stands here by its sender alone until the paper comes."""
    if run.last_year is None:
        return
    for kind in _EVERY_YEAR:
        for paper, earlier in pairs(run, kind):
            if _amounts(type(paper), earlier) and not _amounts(type(paper), paper.values):
                yield found(
                    paper.address_prefix,
                    f"{paper.title}: expected again this year, and no amount is entered. Enter it when it comes, or remove "
                    "it with the client's answer.",
                )


def _amounts(declared, values):
    """Whether any amount was entered, in a table too; what only opens a balance or is kept from year to year is none."""
    for name, field in declared.fields().items():
        value = values.get(name)
        if isinstance(field, Rows):
            rows = value if isinstance(value, list) else ()  # what is no table is said at its field
            if any(_amounts(field.row, row) for row in rows if isinstance(row, dict)):
                return True
        elif isinstance(field, Amount) and not field.kept and field.opens is None and value not in (None, ""):
            return True
    return False


_VARY = ("w2", "1099-int", "1099-div", "ssa-1099", "1098", "1099-nec", "k1-1065", "k1-1120s", "k1-1041", "1099-k")
_STEADY = (*_VARY, "1099-r", "1098-e")


@check("us.last-year.owner-differs", "Form belonged to the other spouse last year", "unlikely")
def owner_differs(run):
    if run.last_year is None or run.person("spouse") is None:
        return
    for paper, earlier in pairs(run, *_STEADY, "business"):
        was, now = str(earlier.get("owner") or ""), str(paper.values.get("owner") or "")
        if was and now and was != now and was not in _owners_of_others(run, paper):
            whose = {"taxpayer": "the taxpayer's", "spouse": "the spouse's", "joint": "both spouses'"}
            yield found(
                paper.address("owner"),
                f"{paper.title} was {whose.get(was, was)} last year and is {whose.get(now, now)} now. Compare the "
                "number and the name on the paper.",
                mend=Mend(f"Make it {whose.get(was, was)}", paper.address("owner"), str(was)),
            )


def _owners_of_others(run, paper):
    """Whose the other papers of the same payer are: two spouses may have one employer."""
    return {str(one.values.get("owner")) for one in run.papers(paper.kind) if one is not paper and _same_payer(run, one, paper)}


def _same_payer(run, one, other):
    return marks(run, one.kind, one.values) == marks(run, other.kind, other.values)


@check("us.last-year.same-amount", "Exactly last year's amount", "unlikely")
@check("us.last-year.decimal", "Ten or a hundred times last year's amount", "unlikely")
@check("us.last-year.jumped", "Amount far from last year's", "unlikely")
def amount_against_last_year(run):
    if run.last_year is None:
        return
    for paper, earlier in pairs(run, *_STEADY):
        was, now = amount_of(earlier, paper.main), getattr(paper, paper.main)
        at = paper.address(paper.main)
        if not now or not was:
            continue
        if now == was and paper.kind in _VARY and now > 100:
            yield found(
                at,
                f"{paper.title} has exactly last year's amount, {now:,}. Was it entered from last year's form?",
                code="us.last-year.same-amount",
            )
        elif max(abs(now), abs(was)) > 10 * min(abs(now), abs(was)) * Decimal("0.8") and _decimal(was, now):
            yield found(
                at,
                f"{paper.title}: {now:,} against {was:,} last year, about 10 or 100 times as much. Check the decimal point.",
                code="us.last-year.decimal",
            )
        elif abs(now - was) > max(abs(was) / 2, _NOTABLE):
            yield found(
                at, f"{paper.title}: {now:,} against {was:,} last year. Compare with the paper.", code="us.last-year.jumped"
            )


def _decimal(was, now):
    """About ten or a hundred times, as a raise of pay between the years would leave it."""
    many = max(abs(now), abs(was)) / min(abs(now), abs(was))
    return 8 <= many <= 12 or 80 <= many <= 120


@check("us.last-year.payer-number", "Payer's TIN differs from last year", "format", "IRC 6109")
@check("us.last-year.ira-mark", "IRA checkbox differs from last year", "unlikely", "IRC 408(d)")
def payers_against_last_year(run):
    if run.last_year is None:
        return
    for paper, earlier in pairs(run, *_STEADY):
        if not paper.party:
            continue
        field = paper.party["number"]
        was, now = digits(str(earlier.get(field) or "")), digits(str(paper.values.get(field) or ""))
        if was and now and was != now:
            yield found(
                paper.address(field),
                f"{paper.title} had the number {earlier[field]} last year. Correct after a merger; otherwise check the number.",
                code="us.last-year.payer-number",
                mend=Mend(f"Take last year's, {earlier[field]}", paper.address(field), str(earlier[field])),
            )
        if paper.kind == "1099-r" and {earlier.get("ira"), str(paper.values.get("ira"))} == {"yes", "no"}:
            yield found(
                paper.address("ira"),
                f"{paper.title}: the IRA/SEP/SIMPLE checkbox differs from last year's. Compare box 7.",
                code="us.last-year.ira-mark",
            )


@check("us.last-year.no-withholding", "Payer withheld last year but not this year", "unlikely")
@check("us.last-year.code-gone", "Box 12 code of last year is missing", "unlikely", "IRC 6051(a)")
@check("us.last-year.plan-mark", "Box 13 retirement plan differs from last year", "unlikely", "IRC 219(g)(5)")
@check("us.last-year.state-differs", "Employer reported to another state last year", "unlikely")
def boxes_against_last_year(run):
    if run.last_year is None:
        return
    for paper, earlier in pairs(run, "w2", "1099-r", "ssa-1099"):
        name = "federal_withheld" if paper.kind == "w2" else "withheld"
        was, now = amount_of(earlier, name), getattr(paper, name)
        if was > 0 and now == 0 and getattr(paper, paper.main) > 0:
            yield found(
                paper.address(name),
                f"{paper.title} withheld {was:,} last year and nothing now. Compare the box with the paper.",
                code="us.last-year.no-withholding",
            )
    for paper, earlier in pairs(run, "w2"):
        gone = sorted(_codes(earlier) - {row.code for row in paper.codes} - {""})
        if gone:
            yield found(
                paper.address("codes"),
                f"{paper.title}: box 12 had code {', '.join(gone)} last year but not now. Compare with the paper.",
                code="us.last-year.code-gone",
            )
        if earlier.get("retirement_plan") == "yes" and not paper.retirement_plan:
            yield found(
                paper.address("retirement_plan"),
                f"{paper.title}: box 13, retirement plan, was checked last year and is not now. The IRA deduction depends on it.",
                code="us.last-year.plan-mark",
                mend=Mend("Mark it", paper.address("retirement_plan"), "yes"),
            )
        was = {row.get("state") for row in earlier.get("states", ())} - {None, ""}
        now = {row.state for row in paper.states} - {""}
        if was and now and not was & now:
            yield found(
                paper.address("states"),
                f"{paper.title} reported to {', '.join(sorted(was))} last year, to {', '.join(sorted(now))} now. "
                "Correct after a move; otherwise compare box 15.",
                code="us.last-year.state-differs",
            )


def _codes(earlier):
    return {row.get("code") for row in earlier.get("codes", ()) if row.get("code") in _LASTING}


_LASTING = frozenset({"D", "E", "G", "S", "AA", "BB", "W"})


CHECKS = (
    statement_missing, expected_and_not_entered, owner_differs, amount_against_last_year, payers_against_last_year,
    boxes_against_last_year,
)  # fmt: skip
