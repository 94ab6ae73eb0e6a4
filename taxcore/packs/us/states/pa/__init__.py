"""Pennsylvania: personal income tax return of residents, part-year residents and nonresidents."""

from taxcore.engine import Amount, Flag, check, found, stops
from taxcore.engine.characters import within
from taxcore.packs.us import places
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states import State
from taxcore.packs.us.states.base import StateQuestions, authority, files_in, folder
from taxcore.packs.us.states.checks import common
from taxcore.packs.us.states.income import worksheets
from taxcore.packs.us.states.pa.forms import IncomeTax


class Questions(StateQuestions):
    """What Pennsylvania asks and no federal paper answers."""

    jurisdiction = "us-pa"
    kind, name, official = "pa-questions", "Pennsylvania questions", "PA-40"

    forgiveness = Flag("19a", "Claim tax forgiveness", cites="72 P.S. 7304", begins="Tax forgiveness, Schedule SP")
    other_eligibility = Amount(
        "20", "Other eligibility income", cites="72 P.S. 7304(c)",
        help="Alimony, gifts, inheritances, income earned elsewhere; not pensions. Untaxed interest is added.",
    )  # fmt: skip


@check("us-pa.forgiveness-possible", "Pennsylvania: tax forgiveness possible", "missed", "72 P.S. 7304")
def forgiveness(run):
    if not files_in(run, "PA"):
        return
    form, questions = run.form("us-pa.pa-40"), run.single("pa-questions")
    law = form.law.tax_forgiveness
    free = (law.couple if len(form.federal.filers) == 2 else law.alone) + law.each_child * int(form.children)
    if questions.forgiveness is None and form.residency == places.WHOLE and 0 < form.taxable_income < free + 10 * law.step:
        yield found(
            questions.address("forgiveness"),
            f"Income in Pennsylvania is {form.taxable_income:,}: tax forgiveness may apply. Ask about other eligibility "
            "income and answer the question.",
        )


@check("us-pa.books-differ", "Pennsylvania: federal business income used", "unlikely", "61 Pa. Code 103.12")
@check("us-pa.losses-of-couple", "Pennsylvania: one spouse's loss against the other's income", "unlikely", "72 P.S. 7303(b)")
def classes(run):
    if not files_in(run, "PA"):
        return
    form = run.form("us-pa.pa-40")
    if form.business:
        yield found(
            form.address("business"),
            "Business income is taken from the federal return. Pennsylvania allows meals in full and differs in "
            "depreciation: check.",
            code="us-pa.books-differ",
        )
    amounts = [one.profit for one in trades(run)]
    if len(form.federal.filers) == 2 and any(a < 0 for a in amounts) and any(a > 0 for a in amounts):
        yield found(
            form.address("business"),
            "One spouse's loss does not offset the other's income. If the businesses are jointly owned, override line 4.",
            code="us-pa.losses-of-couple",
        )


@stops("us-pa.early-distribution", "Pennsylvania: early pension distribution", "unsupported", "61 Pa. Code 101.6")
@stops("us-pa.vacation-home", "Pennsylvania: a home that is also let", "unsupported", "61 Pa. Code 103.14")
@stops("us-pa.other-income", "Income classes not supported", "unsupported")
@stops("us-pa.care-credit", "Pennsylvania's child and dependent care credit", "unsupported", "Act 53 of 2022")
@stops("us-pa.working-credit", "Pennsylvania's credit for earned income", "unsupported", "Act 45 of 2025")
def beyond(run):
    """Law that is not computed stops filing with its name."""
    if not files_in(run, "PA"):
        return
    form, says = run.form("us-pa.pa-40"), "is not computed yet. This return cannot be filed with it from here."
    for paper in run.papers("1099-r"):
        if paper.codes() & {"1", "J", "S"} and not paper.moved_all():
            yield found(
                paper.address("code"),
                f"{paper.title}: Pennsylvania's tax on an early distribution {says}",
                code="us-pa.early-distribution",
            )
    for let in run.every("us.sch-e-part-i"):
        if let.paper.is_home:
            yield found(let.paper.address("rents"), f"The limit of a vacation home {says}", code="us-pa.vacation-home")
    for kind in ("other-income", "1099-misc", "k1-1041", "1099-q"):
        for paper in run.papers(kind):
            yield found(
                paper.address_prefix, f"{paper.title} ({within(paper.name)}) in Pennsylvania {says}", code="us-pa.other-income"
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
    authority=authority("PA", "Pennsylvania", IncomeTax, return_type="PA40", due=(4, 15), declaration="PA-8453",
                        tax="tax", income="adjusted_income", credited_taxable="adjusted_income"),
    forms=(IncomeTax, *worksheets("us-pa")),
    papers=(Questions,),
    law=folder("PA"),
    checks=(forgiveness, classes, beyond, *common("PA", "Pennsylvania", "us-pa.pa-40", lines=False)),
)  # fmt: skip
