"""Pennsylvania: personal income tax return of residents, part-year residents and non-residents."""

from taxcore.engine import Amount, Authority, Flag, Paper, check, found, stops
from taxcore.packs.us import places
from taxcore.packs.us.states import State
from taxcore.packs.us.states.pa.forms import LAW, IncomeTax, files_here


class Questions(Paper):
    """What Pennsylvania asks and no federal paper answers."""

    jurisdiction = "us-pa"
    kind, name, official, group = "pa-questions", "Pennsylvania questions", "PA-40", "places"
    single, owned = True, False

    use_tax = Amount("25", "Use tax on untaxed purchases", help="Zero is an answer too.", cites="72 P.S. 7202", alike=True)
    applied_before = Amount("14", "Last year's overpayment applied")
    with_extension = Amount("16", "Paid with the extension")
    forgiveness = Flag("19a", "Claim tax forgiveness", cites="72 P.S. 7304", begins="Tax forgiveness, Schedule SP")
    other_eligibility = Amount("20", "Other income that counts for it", cites="72 P.S. 7304(c)",
                               help="Alimony, gifts, inheritances, income earned elsewhere; no pensions.")  # fmt: skip
    applied_to_next_year = Amount("31", "Refund applied to next year", begins="Refund")


@check("us-pa.use-tax-open", "Pennsylvania use tax is not answered", "missing", "72 P.S. 7202")
def use_tax(run):
    if files_here(run) and not run.single("pa-questions").is_answered("use_tax"):
        yield found(
            run.single("pa-questions").address("use_tax"),
            "Use tax is not answered. Ask about purchases on which no Pennsylvania tax was paid, and key 0 if there were none.",
        )


@check("us-pa.forgiveness-possible", "Income is low enough for tax forgiveness", "missed", "72 P.S. 7304")
@stops("us-pa.applied-too-much", "More applied to Pennsylvania's next year than was overpaid", "conflict")
def forgiveness(run):
    if not files_here(run):
        return
    form, questions = run.form("us-pa.pa-40"), run.single("pa-questions")
    law = form.law.tax_forgiveness
    free = (law.couple if len(form.federal.filers) == 2 else law.alone) + law.each_child * int(form.children)
    if questions.forgiveness is None and form.residency == places.WHOLE and 0 < form.taxable_income < free + 10 * law.step:
        yield found(
            questions.address("forgiveness"),
            f"Income in Pennsylvania is {form.taxable_income:,}: part of the tax, or all of it, may be forgiven. Ask about "
            "other income and answer the question.",
            code="us-pa.forgiveness-possible",
        )
    if form.applied > form.overpaid:
        yield found(
            questions.address("applied_to_next_year"),
            "More is applied to next year than was overpaid. Lower it.",
            code="us-pa.applied-too-much",
        )


@check("us-pa.books-differ", "Business income as the federal return has it", "unlikely", "61 Pa. Code 103.12")
@check("us-pa.losses-of-couple", "Losses of one spouse against income of the other", "unlikely", "72 P.S. 7303(b)")
def classes(run):
    if not files_here(run):
        return
    form = run.form("us-pa.pa-40")
    if form.business:
        yield found(
            form.address("business"),
            "Business income is taken as the federal return has it. Pennsylvania deducts meals in full and "
            "depreciates otherwise: compare.",
            code="us-pa.books-differ",
        )
    amounts = [one.profit for one in run.every("us.sch-c")]
    if len(form.federal.filers) == 2 and any(a < 0 for a in amounts) and any(a > 0 for a in amounts):
        yield found(
            form.address("business"),
            "A loss of one spouse does not lower the other's income here. If the businesses are of both, override line 4.",
            code="us-pa.losses-of-couple",
        )


@stops("us-pa.early-distribution", "An early pension distribution in Pennsylvania", "unsupported", "61 Pa. Code 101.6")
@stops("us-pa.business-of-mover", "A business of somebody who did not live in Pennsylvania all year", "unsupported")
@stops("us-pa.sales-of-mover", "Sales of somebody who moved to or from Pennsylvania", "unsupported")
@stops("us-pa.other-income", "Income that Pennsylvania classes in a way of its own", "unsupported")
@stops("us-pa.care-credit", "Pennsylvania's child and dependent care credit", "unsupported", "Act 53 of 2022")
@stops("us-pa.working-credit", "Pennsylvania's credit for earned income", "unsupported", "Act 45 of 2025")
def beyond(run):
    """Law that is not computed stops filing with its name."""
    if not files_here(run):
        return
    form, says = run.form("us-pa.pa-40"), "is not computed yet. This return cannot be filed with it from here."
    for paper in run.papers("1099-r"):
        if paper.codes() & {"1", "J", "S"} and not paper.moved_all():
            yield found(
                paper.address("code"),
                f"{paper.title}: Pennsylvania's tax on an early distribution {says}",
                code="us-pa.early-distribution",
            )
    if form.residency != places.WHOLE:
        for kind in ("business", "k1-1065", "k1-1120s"):
            for paper in run.papers(kind):
                yield found(
                    paper.address_prefix,
                    f"{paper.title}: a business of a mover or non-resident {says}",
                    code="us-pa.business-of-mover",
                )
    if form.residency == places.PART:
        for kind in ("1099-b", "1099-da"):
            for paper in run.papers(kind):
                yield found(paper.address_prefix, f"{paper.title}: sales of a mover {says}", code="us-pa.sales-of-mover")
    for kind in ("other-income", "1099-misc", "k1-1041", "1099-q"):
        for paper in run.papers(kind):
            yield found(
                paper.address_prefix, f"{paper.title} ({paper.name.lower()}) in Pennsylvania {says}", code="us-pa.other-income"
            )
    if run.papers("care") and run.form("us.2441").credit > 0:
        yield found(run.form("us.2441").address("credit"), f"Pennsylvania's care credit {says}", code="us-pa.care-credit")
    if "working_credit" in form.law and form.federal.earned_income_credit > 0 and form.residency != places.NONE:
        yield found(
            form.federal.address("earned_income_credit"),
            f"Pennsylvania's credit for earned income {says}",
            code="us-pa.working-credit",
        )


STATE = State(
    code="PA",
    authority=Authority(
        code="us-pa", name="Pennsylvania", form=IncomeTax, refund="refund", owed="owed", return_type="PA40",
        due=(4, 15), applies=files_here, after="us", declaration="PA-8453", tax="tax", income="adjusted_income",
    ),
    forms=(IncomeTax,),
    papers=(Questions,),
    law=LAW,
    checks=(use_tax, forgiveness, classes, beyond),
)  # fmt: skip
