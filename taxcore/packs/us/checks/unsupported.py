"""Law that is not computed yet stops filing with its name; it is never a silent zero. docs/law-coverage.md lists it all."""

from taxcore.engine import check, stops_filing
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.papers.wages import ELECTIVE_DEFERRALS

_CODES = {
    "A": "Schedule 2, line 13 (tax on tips not collected)",
    "B": "Schedule 2, line 13 (tax on tips not collected)",
    "H": "Schedule 1, line 24f (501(c)(18)(D) contributions)",
    "K": "Schedule 2, line 17k (excise on parachute payments)",
    "M": "Schedule 2, line 13 (tax on life insurance)",
    "N": "Schedule 2, line 13 (tax on life insurance)",
    "Q": "the combat pay election",
    "R": "Form 8853",
    "T": "Form 8839",
    "W": "Form 8889",
    "Z": "Schedule 2, line 17h (409A plans)",
    "FF": "Form 8962 with a small employer's health arrangement",
    "HH": "the section 83(i) election",
}


def _stop(code, at, form):
    return stops_filing(f"us.unsupported.{code}", at=at,
                        says=f"{form} is not computed yet. This return cannot be filed with it from here.")  # fmt: skip


def wage_boxes(run):
    for wage in run.papers("w2"):
        for row in wage.codes:
            if row.code in _CODES and row.amount:
                yield _stop("w2-code", row.address("amount"), f"Code {row.code}: {_CODES[row.code]}")
        if wage.allocated_tips:
            yield _stop("4137", wage.address("allocated_tips"), "Form 4137, allocated tips,")
        if wage.care_benefits:
            yield _stop("2441", wage.address("care_benefits"), "Form 2441, employer's care benefits,")
        if wage.statutory_employee:
            yield _stop("statutory-employee", wage.address("statutory_employee"), "Schedule C of a statutory employee")
        yield from _special_pay(run, wage)


def _special_pay(run, wage):
    if run.year >= 2025 and wage.social_security_tips:
        yield _stop("tips", wage.address("social_security_tips"), "Schedule 1-A, part II, the deduction for tips,")
    for row in wage.others:
        if run.year >= 2025 and row.kind == "overtime" and row.amount:
            yield _stop("overtime", row.address("amount"), "Schedule 1-A, part III, the deduction for overtime,")
        if row.kind == "railroad" and row.amount:
            yield _stop("railroad", row.address("amount"), "Railroad retirement tax")


def interest_boxes(run):
    forms = {
        "foreign_tax": "Form 1116 or the election without it",
        "private_activity": "Form 6251, private activity bonds,",
        "market_discount": "Market discount",
        "premium": "Bond premium",
        "treasury_premium": "Bond premium on Treasury obligations",
        "exempt_premium": "Bond premium on tax-exempt bonds",
    }
    for paper in run.papers("1099-int"):
        for name, form in forms.items():
            if getattr(paper, name):
                yield _stop(f"interest-{name.replace('_', '-')}", paper.address(name), form)


def people(run):
    for person in run.people():
        if person.death_date is not None:
            yield _stop("deceased", person.address("death_date"), "The return of somebody who died")
    if run.form("us.1040").status == "surviving_spouse":
        yield _stop("status-person", run.single("filing").address("status"),
                    "The test of who makes a surviving spouse eligible")  # fmt: skip


def due_diligence(run):
    """Benefits for which a paid preparer must file a checklist. IRC 6695(g)."""
    form = run.form("us.1040")
    claimed = {
        "child_credit": form.child_credit + form.additional_child_credit > 0,
        "earned_income_credit": form.earned_income_credit > 0,
        "standard_deduction": form.status == "head_of_household",
    }
    for name, is_claimed in claimed.items():
        if is_claimed:
            yield _stop("8867", form.address(name), "Form 8867, the preparer's checklist for this benefit,")


def savers_credit(run):
    form = run.form("us.1040")
    deferring = [wage for wage in run.papers("w2") if sum(wage.coded(ELECTIVE_DEFERRALS | {"G", "EE"})) > 0]
    if deferring and form.adjusted_gross_income <= run.laws["us"].limits.savers_credit[form.status]:
        yield _stop("8880", deferring[0].address("codes"), "Form 8880, the saver's credit,")


def childs_tax(run):
    form, limit = run.form("us.1040"), run.laws["us"].limits.child_unearned
    taxpayer = run.person("taxpayer")
    young = taxpayer is not None and (taxpayer.age_at_end() or 99) < limit.age_below
    if young and form.standard.is_dependant and form.taxable_interest > limit.income_above:
        yield _stop("8615", form.address("taxable_interest"), "Form 8615, tax on a child's unearned income,")


def foreign_accounts(run):
    if run.form("us.sch-b").required():
        yield check("us.schedule-b-part-iii", at=run.form("us.sch-b").address("taxable"),
                    says="Schedule B part III asks about foreign accounts and trusts. Ask the client; a yes cannot be "
                         "filed from here yet.")  # fmt: skip


def digital_assets(run):
    filing = run.single("filing")
    if filing.digital_assets:
        yield _stop("digital-assets", filing.address("digital_assets"), "Form 8949, digital assets,")


def itemising_spouse(run):
    filing = run.single("filing")
    if run.form("us.1040").status == "separate" and filing.spouse_itemises:
        yield _stop("schedule-a", filing.address("spouse_itemises"), "Schedule A, needed because the spouse itemises,")


def other_states(run):
    """Wages or withholding of a state whose return is not made here."""
    home = run.single("filing").residence
    made = {authority.code for authority in run.pack.authorities}
    if home and home not in UNTAXED and f"us-{home.lower()}" not in made:
        yield _stop("state", run.single("filing").address("residence"), f"The return of {STATES[home]}")
    for paper in (*run.papers("w2"), *run.papers("1099-int")):
        for row in paper.states:
            if row.state and row.state != home and row.state not in UNTAXED:
                yield _stop("state", row.address("state"), f"The non-resident return of {STATES[row.state]}")
            if row.state == home and home in UNTAXED and row.withheld:
                yield _stop("state", row.address("withheld"), f"Tax withheld for {STATES[home]}, which taxes no wages,")


def underpayment(run):
    form, limits = run.form("us.1040"), run.laws["us"].limits.underpayment
    if form.owed >= limits.owed_below and form.payments < limits.share_of_year * form.total_tax:
        yield check("us.2210", at=form.address("owed"), cites="IRC 6654",
                    says=f"{form.owed:,} is owed and less than 90% was paid during the year. A penalty (Form 2210) may "
                         "apply; it is left to the authority to work out.")  # fmt: skip


CHECKS = (
    wage_boxes, interest_boxes, people, due_diligence, savers_credit, childs_tax, foreign_accounts, digital_assets,
    itemising_spouse, other_states, underpayment,
)  # fmt: skip
