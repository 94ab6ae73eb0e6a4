"""Law that is not computed yet stops filing with its name; it is never a silent zero. docs/law-coverage.md lists it all."""

from taxcore.engine import STOPS, ZERO, Diagnostic, check, declares, found, stops
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.federal.underpayment import PRIOR_TAX_UNKNOWN, RATES_UNKNOWN
from taxcore.packs.us.papers.shares import KINDS as SHARES

_CODES = {
    "R": "Form 8853",
    "FF": "Form 8962 with a small employer's health arrangement",
}

# (paper, field, code, what): an amount or a yes there calls for law that is not computed
_FIELDS = (
    ("1099-r", "capital_gain", "4972", "Form 4972, lump-sum distributions,"),
    ("1099-g", "trade_income", "refund-of-business", "Tax refund of a business"),
    ("business", "depreciation", "4562", "Form 4562, depreciation,"),
    ("business", "home_depreciation", "4562", "Form 8829, depreciation of the home,"),
    ("adjustments", "reservist", "2106", "Form 2106"),
    ("adjustments", "archer", "8853", "Form 8853, Archer MSA,"),
    ("hsa", "archer", "8853", "Form 8853, Archer MSA,"),
    ("gift", "vehicle", "8283-b", "Form 8283, a car, boat or plane,"),
    ("gift", "one_thing_above_5000", "8283-b", "Form 8283, section B,"),
    ("1098-t", "earlier_adjustment", "8863-recapture", "Recapture of an earlier year's education credit"),
    ("1098-t", "scholarship_adjustment", "8863-recapture", "Recapture of an earlier year's education credit"),
    ("energy", "older_improvements", "5695-2022", "Form 5695, part II of 2022,"),
    ("1095-a", "shared", "8962-shared", "Form 8962, part IV, shared policies,"),
    ("foreign-tax", "short_holding", "1116-short", "Form 1116, tax on shares held too short,"),
    ("clean-vehicle", "business", "3800", "Form 3800, a vehicle of a business,"),
)

_OF_SHARES = (
    ("other_deductions", "share-deductions", "Other K-1 deductions"),
    ("final_year", "share-deductions", "Net operating loss and other final year items of a trust"),
)


def _code(short):
    return f"us.unsupported.{short}"


def _stop(short, at, form):
    says = f"{form} is not supported yet. This return cannot be e-filed from here."
    return found(at, says, code=_code(short))


def _not_computed(**titles):
    """Decorator: law that stops filing by its name; an underscore in the short name stands for a hyphen."""
    return declares(*(_diagnostic(short.strip("_").replace("_", "-"), title) for short, title in titles.items()))


def _diagnostic(short, title):
    return Diagnostic(_code(short), STOPS, title.rstrip(","), "unsupported")


def _each_once(rows):
    """One diagnostic for a law that several fields call for, named as the first of them."""
    titles = {}
    for *_, short, title in rows:
        titles.setdefault(short, title)
    return declares(*(_diagnostic(short, title) for short, title in titles.items()))


@stops("us.planning-year", "Forms for this year are not final", "unsupported")
def planning_year(run):
    """Forms of the newest year are not final: the figures serve planning."""
    if run.laws["us"].year.planning:
        yield found(
            run.single("filing").address("status"),
            f"The forms of {run.year} are not final. The figures are for planning and cannot be filed.",
        )


@_not_computed(w2_code="Box 12 code not supported", railroad="Railroad retirement tax")
def wage_boxes(run):
    for wage in run.papers("w2"):
        for row in wage.codes:
            if row.code in _CODES and row.amount:
                yield _stop("w2-code", row.address("amount"), f"Code {row.code}: {_CODES[row.code]}")
        for row in wage.others:
            if row.kind == "railroad" and row.amount:
                yield _stop("railroad", row.address("amount"), "Railroad retirement tax")


@_each_once(_FIELDS)
def fields(run):
    for kind, name, code, form in _FIELDS:
        for paper in run.papers(kind):
            if paper.is_keyed(name) and getattr(paper, name):
                yield _stop(code, paper.address(name), form)


_MORE_OF_SHARES = (
    ("4562", "Section 179 of a trade that its owner does not conduct"),
    ("8582", "Passive loss, Form 8582"),
)


@_each_once((*_OF_SHARES, *_MORE_OF_SHARES))
def shares(run):
    for kind in SHARES:
        for paper in run.papers(kind):
            for name, code, form in _OF_SHARES:
                covered = name == "other_deductions" and kind == "k1-1041"
                if name in paper.fields() and getattr(paper, name) and not covered:
                    yield _stop(code, paper.address(name), form)
            if getattr(paper, "section_179", ZERO) and not paper.participates:
                yield _stop("4562", paper.address("section_179"), "Section 179 of a trade that its owner does not conduct,")
            sold = getattr(paper, "section_1231", ZERO)
            if sold < 0 and not paper.participates:
                yield _stop("8582", paper.address("ordinary"), "Form 8582, a passive loss,")


@_not_computed(share_state="Entity tax and modifications of another state on a K-1")
def shares_elsewhere(run):
    """What an entity paid to a state for its owners, and what the state counts otherwise: read by Illinois' return alone."""
    for kind in SHARES:
        for paper in run.papers(kind):
            for row in paper.states:
                if row.state != "IL" and (row.entity_tax or row.modified):
                    at = row.address("entity_tax" if row.entity_tax else "modified")
                    yield _stop(
                        "share-state", at, f"What {STATES.get(row.state, 'the state')} credits or counts otherwise of a share"
                    )


@_not_computed(_1202="Section 1202, small business stock of a fund", _1202_state="Section 1202 on a state return")
def small_business_stock(run):
    """Of older stock less is left out, and the rest taxed at 28%. California and Pennsylvania leave out nothing."""
    for paper in run.papers("1099-div"):
        if not paper.small_business:
            continue
        if paper.small_business_part in ("75", "60", "50"):
            yield _stop("1202", paper.address("small_business_part"), "Section 1202, less than all of the gain,")
        for home in places.made(run):
            if home.state in ("CA", "PA"):
                yield _stop("1202-state", paper.address("small_business"), f"The gain that {home.name} taxes")


@_not_computed(
    _4972="Form 4972, lump-sum distributions",
    prohibited="Prohibited IRA transaction",
    _5329_conversions="Roth conversions distributed within 5 years",
)
def retirement_codes(run):
    for paper in run.papers("1099-r"):
        if "A" in paper.codes():
            yield _stop("4972", paper.address("code"), "Form 4972, ten-year averaging,")
        if "5" in paper.codes():
            yield _stop("prohibited", paper.address("code"), "Prohibited IRA transaction")
    for form in run.every("us.8606"):
        if form.above_contributions > 0 and form.conversion_basis > 0:
            yield _stop("5329-conversions", form.address("conversion_basis"), "Roth conversions distributed within 5 years")


@_not_computed(_8962_split="Form 8962, business coverage beside other coverage")
def split_marketplace(run):
    """One business's policies beside others: which part of the credit is whose is a computation of its own. Pub. 974."""
    businesses = {paper.business for paper in run.papers("1095-a")}
    if len(businesses) > 1:
        paper = next(paper for paper in run.papers("1095-a") if paper.business)
        yield _stop("8962-split", paper.address("business"), "Form 8962, cover of a business beside other cover,")


@_not_computed(_8853="Form 8853, Archer MSA")
def savings_accounts(run):
    for paper in run.papers("1099-sa"):
        if paper.account_kind in ("archer", "medicare"):
            yield _stop("8853", paper.address("account_kind"), "Form 8853")


@_not_computed(_8615_gains="Form 8615 with gain of the 25% or 28% kind")
def childs_gain(run):
    form = run.form("us.8615")
    if form.applies and (form.gains.collectibles_gain > 0 or form.gains.property_gain > 0):
        yield _stop("8615-gains", form.address("tax_on_together"), "Form 8615 with gain of the 25% or 28% kind")


@_not_computed(
    _1116_gains="Form 1116 with gain of the 25% or 28% kind that is adjusted",
    _1116_minimum="Form 1116 for the minimum tax, without the simplified limitation",
)
def foreign_tax_limits(run):
    """Gains at lower rates make the fraction of Form 1116 a calculation of its own. IRC 904(b)(2)."""
    form = run.form("us.1116")
    if not form.required() and not run.papers("foreign-category"):
        return
    if not form.is_excepted and run.form("us.1040").tax_method == "schedule D":
        yield _stop("1116-gains", form.address("limit"), "Form 1116 with gain of the 25% or 28% kind that is adjusted")
    if run.form("us.6251").tax > 0 and not run.form("us.1116-amt").limits:
        yield _stop("1116-minimum", form.address("limit"), "Form 1116 for the minimum tax without the simplified limitation")


@_not_computed(state="State return not supported")
def other_states(run):
    """Returns that the facts call for and that are not made here: by state and kind of residence."""
    for one in places.wanted(run):
        if not one.made and not one.left_out:
            kind = {places.WHOLE: "", places.PART: "part-year ", places.NONE: "nonresident "}[one.kind]
            yield _stop("state", one.address, f"The {kind}return of {one.name} ({'; '.join(one.reasons)})")
    for wage in run.papers("w2"):
        for row in wage.states if wage.values.get("states") else ():
            if row.state in UNTAXED and row.withheld:
                yield _stop("state", row.address("withheld"), f"Tax withheld for {STATES[row.state]}, which taxes no wages,")


@check("us.2210", "Balance due, and prior year tax not entered", "missing", "IRC 6654")
def underpayment(run):
    """Where last year's tax is not known nobody can say whether there is a penalty."""
    form, penalty = run.form("us.1040"), run.form("us.2210")
    unknown = penalty.excused in (PRIOR_TAX_UNKNOWN, RATES_UNKNOWN)
    if unknown and form.owed > 0 and penalty.withheld + form.estimates < penalty.share_of_year:
        yield found(
            form.address("owed"),
            f"{form.owed:,} is due and less than 90% was paid during the year. Enter the prior year tax to figure the "
            "penalty (Form 2210), or let the IRS figure it.",
        )


CHECKS = (
    planning_year,
    wage_boxes,
    fields,
    shares,
    shares_elsewhere,
    retirement_codes,
    split_marketplace,
    savings_accounts,
    childs_gain,
    foreign_tax_limits,
    small_business_stock,
    other_states,
    underpayment,
)
