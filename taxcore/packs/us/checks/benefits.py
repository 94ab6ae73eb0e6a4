"""A benefit that came out at zero or smaller for a reason a preparer can act on: named with the reason and the paper."""

from taxcore.engine import ZERO, check, found, idea
from taxcore.packs.us.federal.education import NOT_HALF_TIME


@check("us.care.one-earner", "No care credit: one spouse has no earned income", "lost", "IRC 21(d)")
def care_without_two_earners(run):
    """The commonest cause is a statement given to the wrong spouse."""
    form, federal = run.form("us.2441"), run.form("us.1040")
    if federal.status != "joint" or form.expenses == 0 or form.on_costs > 0 or form.not_allowed:
        return
    for role, line in (("taxpayer", form.taxpayers_earned), ("spouse", form.spouses_earned)):
        wages, other = run.papers("w2"), run.person("spouse" if role == "taxpayer" else "taxpayer")
        if line == 0 and run.person(role) is not None and other is not None and wages:
            yield found(
                wages[0].address("owner"),
                f"Every W-2 belongs to {other.title}, so {run.person(role).title} has no earned income and the care credit "
                f"is zero. Is one of them {run.person(role).title}'s? A spouse who is a student or incapable of self-care is "
                "treated as earning: enter the months.",
            )


@check("us.care.nobody-qualifies", "No care credit: no qualifying person", "lost", "IRC 21(b)(1)")
def care_nobody_qualifies(run):
    form = run.form("us.2441")
    rows = [row for paper in run.papers("care") for row in paper.costs if row.amount]
    if rows and form.persons == 0:
        yield found(
            rows[0].address("person"),
            "Nobody who was cared for is under 13 or incapable of self-care, so there is no care credit. Check the dates of "
            "birth and whom each cost is for.",
        )


@check("us.care.benefits-taxed", "Taxable dependent care benefits", "lost", "IRC 129(a)")
def care_benefits_taxed(run):
    form = run.form("us.2441")
    if form.taxable > 0:
        wage = next((wage for wage in run.papers("w2") if wage.care_benefits), None)
        place = wage.address("care_benefits") if wage else run.single("care-questions").address("carried_in")
        yield found(
            place,
            f"{form.taxable:,} of the dependent care benefits is taxable, because expenses, earned income or the limit "
            "do not cover it. Add the care providers if missing.",
        )


@idea("us.ira.limited", "IRA contribution not fully deductible", "lost", "IRC 219(g)")
def ira_not_deducted(run):
    for form in run.every("us.ira-deduction"):
        account = next(iter(run.papers("ira", form.key)), None)
        if account is not None and form.deduction < form.paid - account.not_deducted:
            yield found(
                account.address("traditional"),
                f"Only {form.deduction:,} of {form.paid:,} is deducted. The rest is nondeductible (Form 8606); a Roth "
                "IRA may be better while it can still be recharacterized.",
            )


@check("us.ira.excess", "Excess IRA contributions", "rule", "IRC 4973")
def excess_contributions(run):
    for form in run.every("us.5329"):
        for name, word in (("ira_tax", "traditional"), ("roth_tax", "Roth")):
            if getattr(form, name) > 0:
                account = run.papers("ira", form.key)
                yield found(
                    account[0].address("roth" if word == "Roth" else "traditional") if account else form.address(name),
                    f"Excess contributions to {word} IRAs: {getattr(form, name):,} of additional tax. It does not apply "
                    "if the excess is withdrawn by the due date.",
                )


@check("us.hsa.excess", "Excess HSA contributions", "rule", "IRC 4973(g), 223(f)(3)")
def savings_excess(run):
    for form in run.every("us.5329"):
        if form.savings_tax > 0:
            account = run.papers("hsa", form.key)
            at = account[0].address("excess_withdrawn") if account else run.form("us.8889", form.key).address("paid_in")
            yield found(
                at,
                f"{form.savings_excess:,} above the limit is in the health savings account: {form.savings_tax:,} of tax, each "
                "year that it stays there. Withdrawn with its earnings by the due date of the return, extensions included, it "
                "bears no such tax; enter it as withdrawn.",
            )


@idea("us.student-loan.denied", "Student loan interest not deductible", "lost", "IRC 221")
def student_loans_apart(run):
    form = run.form("us.student-loans")
    if form.interest > 0 and form.deduction == 0:
        paper = next(iter(run.papers("1098-e")), None)
        reason = "filed separately" if run.form("us.1040").status == "separate" else "income or another's claim rules it out"
        at = paper.address("interest") if paper is not None else form.address("interest")
        yield found(at, f"No student loan interest is deducted: {reason}. Compare with a joint return.")


@check("us.1098-t.half-time-open", "Half-time student question not answered", "lost", "IRC 25A(b)(3)")
def tuition_without_first_credit(run):
    for form in run.every("us.8863-student"):
        if form.chosen == "lifetime" and form.not_american == NOT_HALF_TIME:
            paper = next(paper for paper in run.papers("1098-t") if paper.student == form.key)
            if paper.half_time is None:
                yield found(
                    paper.address("half_time"),
                    f"{paper.title}: was the student enrolled at least half-time? If so, the American opportunity "
                    "credit is possible.",
                )


@idea("us.savers-credit.distributions", "Saver's credit lost to distributions", "lost", "IRC 25B(d)(2)")
def savers_credit_lost(run):
    form, federal = run.form("us.8880"), run.form("us.1040")
    for one in run.every("us.8880-person"):
        lost = one.together > 0 and one.saved == 0 and not one.not_allowed
        if lost and federal.adjusted_gross_income <= run.laws["us"].savers_credit.tenth_up_to[federal.status]:
            paper = next(iter(run.papers("1099-r", one.key)), None)
            if paper is not None and form.agi > 0:
                yield found(
                    paper.address("gross"),
                    "Distributions offset the contributions, so there is no saver's credit. Check that none of them "
                    "was rolled over.",
                )


@idea("us.w2.tips-not-marked", "Tips that may be deductible", "missed", "IRC 224")
def tips_not_marked(run):
    if run.year < 2025:
        return
    for wage in run.papers("w2"):
        if wage.social_security_tips and not any(row.kind == "tips" for row in wage.others):
            yield found(
                wage.address("others"),
                f"{wage.title} has tips in box 7. If the occupation is one that customarily receives them, enter the "
                "qualified tips in box 14, so that they are deducted.",
            )


@check("us.benefits.lived-apart-open", "Married filing separately: lived apart not answered", "missing", "IRC 86(c)(1)(C)(ii)")
def benefits_apart(run):
    filing, form = run.single("filing"), run.form("us.benefits")
    if run.form("us.1040").status == "separate" and form.received > 0 and filing.lived_apart is None:
        yield found(
            filing.address("lived_apart"),
            "Filed separately, benefits are taxed from the first dollar unless the spouses lived apart all year. "
            "Answer the question.",
        )


@idea("us.gambling.losses", "Gambling winnings without losses", "missed", "IRC 165(d)")
def gambling_losses(run):
    federal = run.form("us.sch-1")
    if federal.gambling > 0 and run.single("itemized").gambling_losses == ZERO and run.form("us.1040").is_itemised:
        yield found(
            run.single("itemized").address("gambling_losses"),
            f"{federal.gambling:,} of gambling winnings. Losses up to that amount are deductible: ask for a log.",
        )


CHECKS = (
    care_without_two_earners,
    care_nobody_qualifies,
    care_benefits_taxed,
    ira_not_deducted,
    excess_contributions,
    savings_excess,
    student_loans_apart,
    tuition_without_first_credit,
    savers_credit_lost,
    tips_not_marked,
    benefits_apart,
    gambling_losses,
)
