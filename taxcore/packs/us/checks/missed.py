"""Benefits that this return does not claim and might, and choices that were made though the other way is better."""

from decimal import Decimal

from taxcore.engine import ZERO, Mend, check, found, idea
from taxcore.engine.characters import within
from taxcore.packs.us.base import UNTAXED
from taxcore.packs.us.checks.carrying import by_year
from taxcore.packs.us.federal import earned_income as earned_income_credit
from taxcore.packs.us.papers.people import CHILD_KINDS
from taxcore.packs.us.places import home_at_end

_TEACHING = ("teach", "instructor", "professor", "principal", "counsel", "aide", "educat")
_NEAR = Decimal("0.9")
_NOTABLE = Decimal(1_000)


def _children(run):
    return [one for one in run.every("us.dependent") if not one.not_a_child]


@idea("us.care.not-asked", "Child under 13, both parents work, no dependent care expenses", "missed", "IRC 21")
@idea("us.education.dependent-not-asked", "Student dependent without Form 1098-T", "missed", "IRC 25A")
@idea("us.education.filer-not-asked", "Student taxpayer without Form 1098-T", "missed", "IRC 25A")
@idea("us.dependent.months-short", "Child lived with taxpayer just under half the year", "lost", "IRC 152(c)(1)(B)")
@check("us.dependent.student-open", "Child of 19 to 23: student question not answered", "missing", "IRC 152(c)(3)(A)(ii)")
@idea("us.dependent.disabled-not-asked", "Adult dependent: disability question not answered", "missed", "IRC 21(b)(1)(B)")
def dependants(run):
    form = run.form("us.1040")
    young = [one for one in _children(run) if (one.who.years_old() or 99) <= 13]
    earning = [person for person in form.filers if run.form("us.earned-income", person.role).earned > 0] if young else []
    if young and len(earning) == len(form.filers) and form.status != "separate" and not run.papers("care"):
        yield found(
            (young[0].who.address("birth_date"), "us.care"),
            f"{young[0].who.title} is under 13 and everyone filing has earned income. Ask about day care, day camp and "
            "after-school care.",
            code="us.care.not-asked",
        )
    taught = {paper.student for paper in run.papers("1098-t")}
    for person in run.people():
        years = person.years_old() or 0
        if person.student and person.key not in taught and years >= 17:
            code = "dependent" if person.role == "dependant" else "filer"
            yield found(
                (person.address("student"), "us.1098-t"),
                f"{person.title} is a full-time student and there is no Form 1098-T. Ask for it and for receipts.",
                code=f"us.education.{code}-not-asked",
            )
    for one in run.every("us.dependent"):
        who, years = one.who, one.who.years_old() or 0
        if who.relationship in CHILD_KINDS and who.months_at_home in (5, 6):
            yield found(
                who.address("months_at_home"),
                f"{who.title} lived here {who.months_at_home} months, and more than half the year is required. "
                "Temporary absences for school, illness or vacation count as months at home.",
                code="us.dependent.months-short",
            )
        if who.relationship in CHILD_KINDS and 19 <= years < 24 and who.student is None and not who.disabled:
            yield found(
                who.address("student"),
                f"{who.title} is {years}. A full-time student during 5 months can still be a qualifying child: answer "
                "the question.",
                code="us.dependent.student-open",
            )
        if years >= 24 and who.disabled is None and one.is_dependant and who.relationship == "child":
            yield found(
                who.address("disabled"),
                f"{who.title} is {years} and supported. If permanently and totally disabled, more credits are possible: "
                "answer the question.",
                code="us.dependent.disabled-not-asked",
            )


@idea("us.eitc.denied", "EIC denied by one condition", "lost", "IRC 32")
@check("us.person.claimed-open", "Young taxpayer: dependent question not answered", "missing", "IRC 63(c)(5)")
def earned_income(run):
    form, worksheet = run.form("us.1040"), run.form("us.earned-income-credit")
    reason = worksheet.denied
    rows = worksheet.by_children()
    below = rows.below_joint if form.status == "joint" else rows.below
    if reason and worksheet.earned > _NOTABLE and form.adjusted_gross_income < below and reason != earned_income_credit.AGE:
        yield found(
            (form.address("earned_income_credit"), run.single("filing").address("status")),
            f"Income is low enough for the earned income credit, and it is denied because {worksheet.not_allowed}. Is "
            "that correct?",
            code="us.eitc.denied",
        )
    for person in form.filers if form.status != "joint" else ():
        years = person.years_old() or 99
        if years < 24 and person.claimed_by_other is None:
            yield found(
                person.address("claimed_by_other"),
                f"{person.title} is {years}. Can the parents or someone else claim {person.title}? Answer the "
                "question: the standard deduction and credits depend on it.",
                code="us.person.claimed-open",
            )


@idea("us.filing.head-possible", "Single with a child at home", "missed", "IRC 2(b)")
@check("us.filing.joint-possible", "Spouse died this year, return not joint", "missed", "IRC 6013(a)(3)")
@idea("us.filing.apart-costs", "Married filing separately: credits lost", "election", "IRC 1(d), 32(d), 25A(g)(6), 221(e)(2)")
@check("us.filing.spouse-itemizes-open", "Married filing separately: spouse itemizes not answered", "missing", "IRC 63(c)(6)(A)")
def status(run):
    form, filing = run.form("us.1040"), run.single("filing")
    at = filing.address("status")
    at_home = [one for one in _children(run) if (one.who.months_at_home or 0) >= 7] if form.status == "single" else []
    if at_home:
        yield found(
            at,
            f"{at_home[0].who.title} lives with a single taxpayer. Who paid over half the cost of keeping up the home? "
            "Head of household has a lower tax.",
            code="us.filing.head-possible",
            mend=Mend("Head of household", at, "head_of_household"),
        )
    spouse = run.person("spouse")
    if form.status == "single" and spouse is not None and spouse.death_date is not None and spouse.death_date.year == run.year:
        yield found(
            at,
            f"{spouse.title} died in {run.year}: the survivor may file jointly for this year.",
            code="us.filing.joint-possible",
            mend=Mend("File jointly", at, "joint"),
        )
    if form.status == "separate":
        lost = [name for name, kinds in _NOT_APART.items() if any(run.papers(kind) for kind in kinds)]
        if lost:
            yield found(
                at,
                f"Filed separately there is no {', no '.join(lost)}. Compare with a joint return.",
                code="us.filing.apart-costs",
            )
        if filing.spouse_itemises is None:
            yield found(
                filing.address("spouse_itemises"),
                "If the spouse itemizes, the standard deduction is zero. Answer the question.",
                code="us.filing.spouse-itemizes-open",
            )


_NOT_APART = {"education credit": ("1098-t",), "student loan interest": ("1098-e",), "care credit": ("care",)}


@check("us.property-tax.missing", "Mortgage interest without real estate taxes", "missed", "IRC 164(a)(1)")
@idea("us.itemized.near", "Itemized deductions near the standard deduction", "election", "IRC 63")
@idea("us.sales-tax.not-asked", "No state income tax, sales tax not entered", "missed", "IRC 164(b)(5)")
@idea("us.salt.capped", "State and local taxes limited", "lost", "IRC 164(b)(6)")
@idea("us.medical.below-floor", "Medical expenses below the floor", "lost", "IRC 213(a)")
@check("us.itemized.choice-costs", "The smaller deduction was chosen", "election", "IRC 63(e)")
def itemising(run):
    form, costs = run.form("us.1040"), run.single("itemized")
    mortgages = [paper for paper in run.papers("1098") if paper.interest]
    if not costs.values and not mortgages and not run.papers("gift"):
        return
    schedule, standard = run.form("us.sch-a"), run.form("us.standard-deduction").deduction
    if mortgages and schedule.property_tax == 0 and form.is_itemised:
        yield found(
            (costs.address("property_tax"), mortgages[0].address("property_tax")),
            "There is mortgage interest and no real estate tax. Check the escrow section of Form 1098 or ask for the tax bill.",
            code="us.property-tax.missing",
        )
    if not form.is_itemised and standard > schedule.deduction > standard * _NEAR:
        yield found(
            (form.address("standard_deduction"), schedule.address("deduction")),
            f"Itemized deductions are {schedule.deduction:,}, the standard deduction {standard:,}. Ask for missing "
            "deductions, or consider bunching contributions.",
            code="us.itemized.near",
        )
    if form.is_itemised and home_at_end(run) in UNTAXED and not costs.sales_tax:
        yield found(
            costs.address("sales_tax"),
            "The state has no income tax, so sales tax is deductible. Enter it from the IRS table or receipts.",
            code="us.sales-tax.not-asked",
        )
    if form.is_itemised and schedule.taxes_together > schedule.taxes_capped:
        yield found(
            (schedule.address("cap"), schedule.address("taxes_together")),
            f"{schedule.taxes_together - schedule.taxes_capped:,} of state and local taxes exceeds the limit. A "
            "pass-through entity tax election may help.",
            code="us.salt.capped",
        )
    if form.is_itemised and 0 < schedule.medical <= schedule.medical_floor:
        yield found(
            (costs.address("medical"), schedule.address("medical_floor")),
            f"Medical costs of {schedule.medical:,} are below the floor of {schedule.medical_floor:,}, and nothing is deducted.",
            code="us.medical.below-floor",
        )
    if costs.choice in ("itemise", "standard"):
        other = standard - schedule.deduction if costs.choice == "itemise" else schedule.deduction - standard
        if other > 0:
            yield found(
                costs.address("choice"),
                f"This election deducts {other:,} less. Correct only where a state return or AMT benefits.",
                code="us.itemized.choice-costs",
                mend=Mend("Whichever is larger", costs.address("choice"), "better"),
            )


@idea("us.gift.from-ira", "Qualified charitable distribution possible", "missed", "IRC 408(d)(8)")
@check(
    "us.gift.description-missing",
    "Noncash contributions over $500: Form 8283 information missing",
    "missing",
    "IRC 170(f)(11)(B)",
)
@check("us.gift.cost-above-value", "Capital gain property with basis above FMV", "conflict", "IRC 170(e)")
@check("us.gift.things-large", "Large value of clothing and household items", "unlikely", "IRC 170(f)(16)")
@idea("us.gift-carryover.left", "Contribution carryover to next year", "carried", "IRC 170(d)(1)")
@idea("us.gift-carryover.expires", "Contribution carryover expires this year", "carried", "IRC 170(d)(1)")
@check("us.gift-carryover.too-old", "Contribution carried over more than 5 years", "carried", "IRC 170(d)(1)")
def gifts(run):
    papers = run.papers("gift")
    taken = [paper for paper in run.papers("1099-r") if paper.ira and not paper.charity and paper.gross and not paper.moved_all()]
    for paper in taken if any(one.gift_kind == "cash" for one in papers) else ():
        person = run.person(paper.owner or "taxpayer")
        if person is not None and (person.years_old() or 0) >= 71:
            yield found(
                (paper.address("charity"), papers[0].address("amount")),
                f"{person.title} makes contributions and takes IRA distributions. A qualified charitable distribution "
                "lowers income even without itemizing.",
                code="us.gift.from-ira",
            )
    property_ = ("property", "gain", "gain-private")
    things = sum((paper.amount for paper in papers if paper.gift_kind in property_), ZERO)
    for paper in papers:
        if paper.gift_kind in property_ and things > run.laws["us"].itemized.things_form_above:
            asked = [name for name in ("description", "given", "acquired", "how_acquired", "method") if not paper.is_keyed(name)]
            if asked:
                fields = paper.fields()
                names = ", ".join(within(fields[name].label) for name in asked)
                yield found(
                    tuple(paper.address(name) for name in asked),
                    f"{paper.title}: noncash contributions over $500 require Form 8283: enter {names}.",
                    code="us.gift.description-missing",
                )
        if paper.gift_kind in ("gain", "gain-private") and paper.cost > paper.amount > 0:
            yield found(
                (paper.address("cost"), paper.address("amount")),
                f"{paper.title}: basis exceeds fair market value, so the property has not appreciated. Choose another "
                "kind; selling first would allow the loss.",
                code="us.gift.cost-above-value",
            )
        if paper.gift_kind == "property" and paper.amount >= 5_000 and not paper.one_thing_above_5000:
            yield found(
                paper.address("amount"),
                f"{paper.title}: property of {paper.amount:,}. Are they in good used condition, and is no group over $5,000?",
                code="us.gift.things-large",
            )
    carried, most = run.single("gift-carryover").rows, int(run.laws["us"].carried_years.gifts.most)
    yield from by_year(run, carried, most, "A gift", "us.gift-carryover.too-old", "us.gift-carryover.expires")
    if (papers or run.single("gift-carryover").rows) and run.form("us.1040").is_itemised and run.form("us.gifts").left > 0:
        yield found(
            run.form("us.gifts").address("left"),
            f"{run.form('us.gifts').left:,} of contributions exceeds this year's limits and carries over for up to 5 years.",
            code="us.gift-carryover.left",
        )


@idea("us.educator.not-asked", "Teacher without educator expenses", "missed", "IRC 62(a)(2)(D)")
@idea("us.student-loan.above-most", "Student loan interest limited", "lost", "IRC 221(b)")
@idea("us.educator.above-limit", "Educator expenses exceed the limit", "lost", "IRC 62(a)(2)(D)")
@check("us.alimony.agreement-open", "Alimony received without the date of the agreement", "missing", "P.L. 115-97, sec. 11051")
@check("us.early-withdrawal.kept", "Early withdrawal penalty exceeds the interest", "unlikely", "IRC 62(a)(9)")
def adjustments(run):
    law = run.laws["us"]
    for person in run.form("us.1040").filers:
        papers = run.papers("adjustments", person.role)
        works = any(word in person.occupation.lower() for word in _TEACHING)
        if works and run.papers("w2", person.role) and not any(paper.educator for paper in papers):
            at = papers[0].address("educator") if papers else person.address("occupation")
            yield found(
                (at, "us.adjustments"),
                f"{person.title} teaches. Were there unreimbursed educator expenses? Up to {law.educator.each:,} is deductible.",
                code="us.educator.not-asked",
            )
        for paper in papers:
            if paper.educator > law.educator.each:
                yield found(
                    paper.address("educator"),
                    f"{paper.educator:,} of educator expenses; {law.educator.each:,} is allowed for each educator.",
                    code="us.educator.above-limit",
                )
    interest = sum((paper.interest for paper in run.papers("1098-e")), ZERO)
    if interest > law.student_loan.most:
        yield found(
            run.papers("1098-e")[0].address("interest"),
            f"{interest:,} of student loan interest was paid; {law.student_loan.most:,} a year is deductible.",
            code="us.student-loan.above-most",
        )
    for paper in run.papers("other-income"):
        if paper.alimony and paper.alimony_since is None:
            yield found(
                paper.address("alimony_since"),
                "Alimony is income only under an agreement before 2019. Enter its date, line 2b.",
                code="us.alimony.agreement-open",
            )
    for paper in run.papers("1099-int"):
        if paper.early_withdrawal > 100 and paper.interest >= paper.early_withdrawal > paper.interest * _NEAR:
            yield found(
                (paper.address("early_withdrawal"), paper.address("interest")),
                f"{paper.title}: the penalty is nearly all of the interest. Compare boxes 1 and 2.",
                code="us.early-withdrawal.kept",
            )


CHECKS = (dependants, earned_income, status, itemising, gifts, adjustments)
