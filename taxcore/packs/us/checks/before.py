"""Last year beside this year: what is carried over, which statements are missing, what changed in a way that slips do.

Silent on a return whose last year is not known. Amounts carried are compared in whole dollars, as last year's forms hold them.
"""

from decimal import Decimal

from taxcore.engine import CHECK, IDEA, ZERO, Diagnostic, Mend, check, declares, found, idea, whole
from taxcore.packs.us.base import STATUSES, digits

_NOTABLE = Decimal(5000)
_EACH = ("taxpayer", "spouse")

# (short, paper, field, last year's line, what it is). {} in the line is the person's role or last year's business
_CARRIED = (
    ("short-loss", "capital-carryover", "short_term", "us.capital-loss-carryover:short_carried",
     "Short-term loss carried in", "IRC 1212(b)"),
    ("long-loss", "capital-carryover", "long_term", "us.capital-loss-carryover:long_carried",
     "Long-term loss carried in", "IRC 1212(b)"),
    ("applied", "estimates", "applied", "us.1040:applied", "Overpayment applied to this year", "IRC 6402(b)"),
    ("prior-agi", "prior-year", "adjusted_gross_income", "us.1040:adjusted_gross_income",
     "Last year's adjusted gross income", "IRC 6654(d)(1)(C)"),
    ("clean-energy", "energy", "carried_in", "us.5695:carried_on", "Clean energy credit carried in", "IRC 25D(c)"),
    ("investment-interest", "itemized", "investment_interest_before", "us.4952:carried_on",
     "Investment interest carried in", "IRC 163(d)(2)"),
    ("ira-basis", "ira", "basis_before", "us.8606[{}]:left", "Basis of IRAs carried in", "IRC 408(o)"),
    ("ira-excess", "ira", "excess_before", "us.5329[{}]:ira_excess_all", "Excess IRA contributions carried in", "IRC 4973"),
    ("roth-excess", "ira", "roth_excess_before", "us.5329[{}]:roth_excess_all", "Excess Roth contributions carried in",
     "IRC 4973(f)"),
    ("hsa-excess", "hsa", "excess_before", "us.5329[{}]:savings_excess", "Excess health savings carried in", "IRC 4973(g)"),
    ("home-office", "business", "home_carried", "us.8829[{}]:carried_on", "Home office costs carried in", "IRC 280A(c)(5)"),
    ("inventory", "business", "inventory_start", "us.sch-c[{}]:inventory_end", "Inventory at the start", "IRC 471"),
)  # fmt: skip


def _line(run, name):
    return run.data.last_year.lines.get(name, ZERO)


@declares(*(Diagnostic(f"us.carried.{short}", CHECK, title, "carried", cites) for short, *_, title, cites in _CARRIED))
def carried_over(run):
    """What last year's return carried on against what this one carries in."""
    if run.data.last_year is None:
        return
    for short, kind, name, line, title, _ in _CARRIED:
        for paper, key in _carriers(run, kind):
            left = _left(run, short, line.format(key), name, key)
            keyed = getattr(paper, name) if paper is not None else ZERO
            if whole(keyed) == left:
                continue
            mend = Mend(f"Take over {left:,}", paper.address(name), str(left)) if paper is not None else None
            at = paper.address(name) if paper is not None else f"us.{kind}"
            yield found(
                at,
                f"{title}: {keyed:,} here, {left:,} at the end of last year's return. Take it over, or find out why they differ.",
                code=f"us.carried.{short}",
                mend=mend,
            )


def _left(run, short, line, name, key):
    """The line; where its form was not needed, basis of an IRA is what it was before."""
    if short == "ira-basis" and line not in run.data.last_year.lines:
        papers = [one for one in run.papers_before("ira") if (one.values.get("owner") or "taxpayer") == key]
        return whole(sum((_amount(one.values, name) for one in papers), ZERO))
    return _line(run, line)


def _carriers(run, kind):
    """(paper or None, what stands for {} in the line): each person's, each business's, or the one of the return."""
    declared = run.pack.paper(kind)
    if declared.single:
        yield run.single(kind), ""
    elif kind == "business":
        for paper in run.papers(kind):
            earlier = _earlier(run, paper)
            if earlier is not None:
                yield paper, earlier.id
    else:
        for role in _EACH:
            if run.person(role) is not None:
                yield next(iter(run.papers(kind, role)), None), role


@check("us.carried.gifts", "Gifts carried in against last year's return", "carried", "IRC 170(d)(1)")
@check("us.carried.qualified-loss", "Qualified business loss carried in against last year's return", "carried", "IRC 199A(c)(2)")
def carried_together(run):
    """Carried amounts that several rows or papers share."""
    if run.data.last_year is None:
        return
    rows = run.single("gift-carryover")
    gifts = sum((row.amount for row in rows.rows), ZERO)
    left = _line(run, "us.gifts:left")
    if whole(gifts) != left:
        yield found(
            rows.address("rows"),
            f"Gifts carried in are {gifts:,}; last year's return left {left:,}. Take them over year by year, or "
            "find out why they differ.",
            code="us.carried.gifts",
        )
    papers = [paper for kind in ("business", "k1-1065", "k1-1120s") for paper in run.papers(kind)]
    losses, lost = sum((paper.loss_before for paper in papers), ZERO), abs(_line(run, "us.8995:loss_after"))
    if papers and whole(losses) != lost:
        yield found(
            papers[0].address("loss_before"),
            f"Qualified losses carried in are {losses:,}; last year's return left {lost:,}. Key each where it belongs.",
            code="us.carried.qualified-loss",
        )


# Statements that come every year: the code says which
_EVERY_YEAR = {
    "w2": "wage statement", "1099-int": "interest statement", "1099-div": "dividend statement", "1099-b": "broker's statement",
    "1099-da": "digital asset statement", "1099-r": "retirement distribution", "ssa-1099": "benefit statement",
    "1099-nec": "pay without employment", "1098": "mortgage statement", "k1-1065": "share of a partnership",
    "k1-1120s": "share of an S corporation", "k1-1041": "share of an estate or trust", "business": "business",
    "1095-a": "marketplace cover", "1098-e": "student loan", "care": "care provider", "hsa": "health savings account",
    "ira": "IRA paper",
}  # fmt: skip


@declares(*(Diagnostic(f"us.last-year.no-{kind}", CHECK, f"Last year's {name} has no successor", "unlikely")
            for kind, name in _EVERY_YEAR.items()))  # fmt: skip
def statement_missing(run):
    """What last year had from a payer, and this year has not: the commonest thing that is left out."""
    if run.data.last_year is None:
        return
    for kind, name in _EVERY_YEAR.items():
        matched = {earlier.id for paper in run.papers(kind) if (earlier := _earlier(run, paper)) is not None}
        for earlier in run.papers_before(kind):
            if earlier.id not in matched and not earlier.values.get("final"):
                whose = _title(run, kind, earlier)
                yield found(
                    (f"us.{kind}", run.single("filing").address("status")),
                    f"Last year there was a {name} of {whose}; this year there is none. Ask the client, or mark this as seen.",
                    code=f"us.last-year.no-{kind}",
                )


def _title(run, kind, values):
    declared = run.pack.paper(kind)
    person = run.person(str(values.values.get("owner", "")))
    return str(values.values.get(declared.heading) or "") or (person.title if person is not None else declared.name.lower())


def _earlier(run, paper):
    """Last year's paper of the same payer, of the same owner if there are several; None where there was none."""
    return run.once(_matches).get((paper.kind, paper.key))


def _matches(run):
    """{(kind, id): last year's paper of the same payer}."""
    found_ = {}
    for kind in {one.kind for one in run.data.last_year.papers} if run.data.last_year is not None else ():
        earlier = [(one, *_marks(run, kind, one.values)) for one in run.papers_before(kind)]
        for paper in run.papers(kind):
            match = _match(paper, earlier, *_marks(run, kind, paper.values))
            if match is not None:
                found_[kind, paper.key] = match
    return found_


def _marks(run, kind, values):
    """Number and beginning of the name of who sent a paper, written alike."""
    declared = run.pack.paper(kind)
    party = declared.party or {"number": "number", "name": declared.heading}
    name = str(values.get(party["name"]) or values.get("activity") or "")
    return digits(str(values.get(party["number"]) or "")), name.lower().replace(" ", "")[:8]


def _match(paper, earlier, number, name):
    owner = paper.values.get("owner")
    if not number and not name:  # a paper of a person, with no payer
        alike = [one for one, *_ in earlier if (one.values.get("owner") or "taxpayer") == (owner or "taxpayer")]
    else:
        alike = [one for one, its, called in earlier if (number and number == its) or (name and name == called)]
    if len(alike) > 1:
        account = paper.values.get("account")
        alike = [one for one in alike if one.values.get("account") == account] or alike
    return next((one for one in alike if one.values.get("owner") == owner), alike[0] if alike else None)


def _pairs(run, *kinds):
    """(paper, last year's values) of the same payer."""
    for kind in kinds:
        for paper in run.papers(kind) if run.papers_before(kind) else ():
            earlier = _earlier(run, paper)
            if earlier is not None:
                yield paper, earlier.values


def _amount(values, name):
    try:
        amount = Decimal(str(values.get(name) or 0))
        return amount if amount.is_finite() else ZERO
    except ArithmeticError:
        return ZERO


_VARY = ("w2", "1099-int", "1099-div", "ssa-1099", "1098", "1099-nec", "k1-1065", "k1-1120s", "k1-1041", "1099-k")
_STEADY = (*_VARY, "1099-r", "1098-e")


@check("us.last-year.owner-differs", "A statement that was the other spouse's last year", "unlikely")
def owner_differs(run):
    if run.data.last_year is None or run.person("spouse") is None:
        return
    for paper, earlier in _pairs(run, *_STEADY, "business"):
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
    return _marks(run, one.kind, one.values) == _marks(run, other.kind, other.values)


@check("us.last-year.same-amount", "Exactly last year's amount", "unlikely")
@check("us.last-year.decimal", "Ten or a hundred times last year's amount", "unlikely")
@check("us.last-year.jumped", "An amount far from last year's", "unlikely")
def amount_against_last_year(run):
    if run.data.last_year is None:
        return
    for paper, earlier in _pairs(run, *_STEADY):
        was, now = _amount(earlier, paper.main), getattr(paper, paper.main)
        at = paper.address(paper.main)
        if not now or not was:
            continue
        if now == was and paper.kind in _VARY and now > 100:
            yield found(
                at,
                f"{paper.title} has exactly last year's amount, {now:,}. Was it keyed from last year's paper?",
                code="us.last-year.same-amount",
            )
        elif max(abs(now), abs(was)) > 10 * min(abs(now), abs(was)) * Decimal("0.8") and _decimal(was, now):
            yield found(
                at,
                f"{paper.title}: {now:,} against {was:,} last year, about ten or a hundred times. Look for the decimal point.",
                code="us.last-year.decimal",
            )
        elif abs(now - was) > max(abs(was) / 2, _NOTABLE):
            yield found(
                at, f"{paper.title}: {now:,} against {was:,} last year. Compare it with the paper.", code="us.last-year.jumped"
            )


def _decimal(was, now):
    """About ten or a hundred times, as a raise of pay between the years would leave it."""
    many = max(abs(now), abs(was)) / min(abs(now), abs(was))
    return 8 <= many <= 12 or 80 <= many <= 120


@check("us.last-year.payer-number", "Another number of the same payer than last year", "format", "IRC 6109")
@check("us.last-year.ira-mark", "An IRA of last year that is none this year, or the other way round", "unlikely", "IRC 408(d)")
def payers_against_last_year(run):
    if run.data.last_year is None:
        return
    for paper, earlier in _pairs(run, *_STEADY):
        if not paper.party:
            continue
        field = paper.party["number"]
        was, now = digits(str(earlier.get(field) or "")), digits(str(paper.values.get(field) or ""))
        if was and now and was != now:
            yield found(
                paper.address(field),
                f"{paper.title} had the number {earlier[field]} last year. Right after a merger; otherwise copy it again.",
                code="us.last-year.payer-number",
                mend=Mend(f"Take last year's, {earlier[field]}", paper.address(field), str(earlier[field])),
            )
        if paper.kind == "1099-r" and {earlier.get("ira"), str(paper.values.get("ira"))} == {"yes", "no"}:
            yield found(
                paper.address("ira"),
                f"{paper.title}: the mark for IRA, SEP or SIMPLE differs from last year's. Compare box 7.",
                code="us.last-year.ira-mark",
            )


@check("us.last-year.no-withholding", "A payer that withheld last year and not this year", "unlikely")
@check("us.last-year.code-gone", "A code of box 12 that last year had", "unlikely", "IRC 6051(a)")
@check("us.last-year.plan-mark", "The retirement plan mark of box 13 changed", "unlikely", "IRC 219(g)(5)")
@check("us.last-year.state-differs", "An employer that reported to another state last year", "unlikely")
def boxes_against_last_year(run):
    if run.data.last_year is None:
        return
    for paper, earlier in _pairs(run, "w2", "1099-r", "ssa-1099"):
        name = "federal_withheld" if paper.kind == "w2" else "withheld"
        was, now = _amount(earlier, name), getattr(paper, name)
        if was > 0 and now == 0 and getattr(paper, paper.main) > 0:
            yield found(
                paper.address(name),
                f"{paper.title} withheld {was:,} last year and nothing now. Compare the box with the paper.",
                code="us.last-year.no-withholding",
            )
    for paper, earlier in _pairs(run, "w2"):
        gone = sorted(_codes(earlier) - {row.code for row in paper.codes} - {""})
        if gone:
            yield found(
                paper.address("codes"),
                f"{paper.title}: box 12 had code {', '.join(gone)} last year and has not now. Compare it with the paper.",
                code="us.last-year.code-gone",
            )
        if earlier.get("retirement_plan") == "yes" and not paper.retirement_plan:
            yield found(
                paper.address("retirement_plan"),
                f"{paper.title}: box 13 was marked for a retirement plan last year and is not now. It decides what "
                "an IRA may deduct.",
                code="us.last-year.plan-mark",
                mend=Mend("Mark it", paper.address("retirement_plan"), "yes"),
            )
        was = {row.get("state") for row in earlier.get("states", ())} - {None, ""}
        now = {row.state for row in paper.states} - {""}
        if was and now and not was & now:
            yield found(
                paper.address("states"),
                f"{paper.title} reported to {', '.join(sorted(was))} last year, to {', '.join(sorted(now))} now. "
                "Right after a move; otherwise compare box 15.",
                code="us.last-year.state-differs",
            )


def _codes(earlier):
    return {row.get("code") for row in earlier.get("codes", ()) if row.get("code") in _LASTING}


_LASTING = frozenset({"D", "E", "G", "S", "AA", "BB", "W"})


@check("us.last-year.number-differs", "Another social security number than last year", "format", "IRC 6109")
@check("us.last-year.birth-date-differs", "Another date of birth than last year", "format")
@check("us.last-year.name-differs", "Another last name than last year", "format")
@check("us.last-year.dependant-gone", "A dependant of last year who is not here", "unlikely", "IRC 152")
def people_against_last_year(run):
    if run.data.last_year is None:
        return
    now = {_who(person.values): person for person in run.people()}
    for earlier in run.papers_before("person"):
        person = now.get(_who(earlier.values))
        if person is None:
            if earlier.values.get("role") == "dependant":
                yield found(
                    run.single("filing").address("status"),
                    f"{earlier.values.get('first_name')} was a dependant last year and is not on this return. Add "
                    "the person, or mark this as seen.",
                    code="us.last-year.dependant-gone",
                )
            continue
        for name, code, word in _IDENTITY:
            was, is_now = str(earlier.values.get(name) or ""), str(person.values.get(name) or "")
            alike = digits(was) == digits(is_now) if name == "number" else was == is_now
            if was and is_now and not alike:
                shown = "" if name == "number" else f": {was} then, {is_now} now"
                yield found(
                    person.address(name),
                    f"{person.title} has another {word} than last year{shown}. Compare it with the card or certificate.",
                    code=f"us.last-year.{code}",
                )


_IDENTITY = (
    ("number", "number-differs", "social security number"), ("birth_date", "birth-date-differs", "date of birth"),
    ("last_name", "name-differs", "last name"),
)  # fmt: skip


def _who(values):
    """The taxpayer and the spouse by their part, dependants by their first name."""
    role = values.get("role")
    return role if role in _EACH else str(values.get("first_name", "")).strip().lower()


@check("us.last-year.status-differs", "Another filing status than last year", "unlikely", "IRC 7703")
@check("us.last-year.account-differs", "The refund goes to another account than last year", "unlikely")
def answers_against_last_year(run):
    filing, deposit = run.single("filing"), run.single("deposit")
    for earlier in run.papers_before("filing"):
        was = earlier.values.get("status")
        if was in STATUSES and filing.status and was != filing.status:
            yield found(
                filing.address("status"),
                f"Last year's status was {STATUSES[was].lower()}. Right after a marriage, divorce, death or birth; "
                "otherwise correct it.",
                code="us.last-year.status-differs",
            )
    for earlier in run.papers_before("deposit"):
        was = earlier.values.get("account")
        if was and deposit.account and was != deposit.account:
            yield found(
                deposit.address("account"),
                "The account differs from last year's. Confirm it with the client by telephone, not by mail.",
                code="us.last-year.account-differs",
            )


# (short, last year's line, where it would be keyed, what it is, weight)
_GONE = (
    ("estimates", "us.1040:estimates", ("estimates", "rows"), "Estimated payments", CHECK),
    ("itemised", "us.sch-a:deduction", ("itemized", "medical"), "Itemised deductions", IDEA),
    ("gifts", "us.sch-a:all_gifts", ("itemized", "other"), "Gifts to charity", IDEA),
    ("property-tax", "us.sch-a:property_tax", ("itemized", "property_tax"), "Real estate tax", IDEA),
    ("care", "us.2441:credit", ("care-questions", "student_months"), "The care credit", IDEA),
    ("education", "us.8863:credit", ("filing", "status"), "An education credit", IDEA),
    ("earned", "us.1040:earned_income_credit", ("filing", "status"), "The earned income credit", IDEA),
    ("child", "us.1040:child_credit", ("filing", "status"), "The child credit", IDEA),
    ("foreign", "us.1040:foreign_credit", ("foreign-tax", "other_tax"), "The foreign tax credit", IDEA),
    ("educator", "us.sch-1:educators", ("filing", "status"), "Classroom costs", IDEA),
    ("alimony", "us.sch-1:alimony_paid", ("filing", "status"), "Alimony paid", IDEA),
    ("health", "us.sch-1:health_insurance", ("filing", "status"), "Self-employed health insurance", IDEA),
    ("plans", "us.sch-1:plans", ("filing", "status"), "Payments into own pension plans", IDEA),
    ("ira", "us.sch-1:ira", ("filing", "status"), "An IRA deduction", IDEA),
)  # fmt: skip


@declares(*(Diagnostic(f"us.last-year.{short}-gone", weight, f"{title}: in last year's return and not in this", "missed")
            for short, _, _, title, weight in _GONE))  # fmt: skip
def lines_gone(run):
    if run.data.last_year is None:
        return
    for short, line, (kind, field), title, _ in _GONE:
        was = _line(run, line)
        form, _, name = line.partition(":")
        unused = run.is_idle(form) or (form == "us.sch-a" and not run.form("us.1040").is_itemised)
        now = ZERO if unused else getattr(run.form(form), name)
        if was > 0 and not now:
            yield found(
                (run.single(kind).address(field), run.form(form).address(name)),
                f"{title}: {was:,} last year, nothing now. Ask whether there is really nothing, or which condition fails.",
                code=f"us.last-year.{short}-gone",
            )


@idea("us.last-year.business-cost-gone", "A business cost that last year had", "missed", "IRC 162")
@check("us.last-year.business-started", "A business said to be new that last year had", "conflict")
@check("us.last-year.miles-jumped", "Many more business miles than last year", "unlikely", "IRC 274(d)")
@check("us.last-year.loss-again", "A business with a loss in both years", "unlikely", "IRC 183")
def business_against_last_year(run):
    for books, earlier in _pairs(run, "business"):
        fields = books.fields()
        costs = [name for name in _COSTS if _amount(earlier, name) >= 500 and not books.is_keyed(name)]
        if costs:
            names = ", ".join(fields[name].label.lower() for name in costs)
            yield found(
                tuple(books.address(name) for name in costs),
                f"{books.title}: last year had {names}, this year has none. Ask the client.",
                code="us.last-year.business-cost-gone",
            )
        if books.started:
            yield found(
                books.address("started"),
                f"{books.title} is marked as started this year, and last year's return has it. Correct line H.",
                code="us.last-year.business-started",
                mend=Mend("It was there before", books.address("started"), "no"),
            )
        driven = _amount(earlier, "miles")
        if driven >= 500 and (books.miles or 0) > 3 * driven:
            yield found(
                books.address("miles"),
                f"{books.title}: {books.miles:,} miles, {driven:,} last year. Compare the record; look for a digit too many.",
                code="us.last-year.miles-jumped",
            )
        before = _earlier(run, books)
        if run.form("us.sch-c", books.key).profit < 0 and _line(run, f"us.sch-c[{before.id}]:profit") < 0:
            yield found(
                books.address("participates"),
                f"{books.title} made a loss last year too. Is it run for profit? Keep what shows it: books, plans, time spent.",
                code="us.last-year.loss-again",
            )


_COSTS = (
    "advertising",
    "commissions",
    "contract_labour",
    "employee_benefits",
    "insurance",
    "mortgage_interest",
    "other_interest",
    "professional",
    "office",
    "rent_equipment",
    "rent_property",
    "repairs",
    "supplies",
    "taxes",
    "travel",
    "utilities",
    "wages",
    "health_insurance",
)

CHECKS = (
    carried_over, carried_together, statement_missing, owner_differs, amount_against_last_year, payers_against_last_year,
    boxes_against_last_year, people_against_last_year, answers_against_last_year, lines_gone, business_against_last_year,
)  # fmt: skip
