"""The annualized income method and waivers of the underpayment penalty: what is missing, and where they would help. IRC 6654."""

from datetime import date

from taxcore.engine import ZERO, check, found, idea, stops
from taxcore.packs.us.papers.annualized import PERIODS

_GROWS = ("income", "itemized", "preferred", "profit", "wages", "spouse_profit", "spouse_wages")
_WORTH_ASKING = 100


def _chosen(run):
    return bool(run.single("penalty").annualise)


@stops("us.annualized.income-missing", "Annualized income of a period is missing", "missing", "IRC 6654(d)(2)(B)")
@check("us.annualized.falls", "Annualized income: a longer period shows less", "conflict", "IRC 6654(d)(2)(B)")
@check("us.annualized.above-year", "Annualized income: income by August exceeds the year's", "unlikely", "IRC 6654(d)(2)(B)")
@check("us.annualized.other-taxes", "Annualized income: other taxes of the periods", "missing", "Form 2210, Schedule AI")
@check("us.annualized.unused", "Annualized periods entered, regular method chosen", "conflict", "IRC 6654(d)(2)(A)")
@check("us.annualized.special-gain", "Annualized income with gain taxed at 25% or 28%", "rule", "IRC 1(h)")
def periods(run):
    paper, form = run.single("annualized"), run.form("us.1040")
    if not _chosen(run):
        if any(paper.is_keyed(f"{name}_{letter}") for name in _GROWS for letter in PERIODS):
            says = "They count for nothing. Choose the annualized income method, or empty them."
            yield found(run.single("penalty").address("annualise"), says, code="us.annualized.unused")
        return
    for letter, words in PERIODS.items():
        if not paper.is_keyed(f"income_{letter}"):
            says = f"Enter what came from {words}, zero if nothing did."
            yield found(paper.address(f"income_{letter}"), says, code="us.annualized.income-missing")
    for name in _GROWS:
        one, two, three = (getattr(paper, f"{name}_{letter}") for letter in PERIODS)
        if name != "income" and (one > two or two > three):
            at = f"{name}_{'b' if one > two else 'c'}"
            yield found(paper.address(at), "Each column counts from January 1. Check both.", code="us.annualized.falls")
    schedule = run.form("us.2210-ai")
    if schedule.income_c > form.adjusted_gross_income:
        says = f"{form.adjusted_gross_income:,.0f} is the year's. Was there a loss after August?"
        yield found(paper.address("income_c"), says, code="us.annualized.above-year")
    if schedule.other_taxes_d > 0 and not any(paper.is_keyed(f"other_taxes_{letter}") for letter in PERIODS):
        says = f"The year has {schedule.other_taxes_d:,.0f}. Enter what annualized income makes of them, zero if nothing."
        yield found(paper.address("other_taxes_a"), says, code="us.annualized.other-taxes")
    gains = run.form("us.sch-d")
    special = not run.is_idle("us.sch-d") and (gains.collectibles_gain > 0 or gains.property_gain > 0)
    if special and any(getattr(paper, f"preferred_{letter}") for letter in PERIODS):
        says = "All of it is taxed at 0, 15 and 20% here. Leave out what bears 25 or 28%."
        yield found(paper.address("preferred_a"), says, code="us.annualized.special-gain")


@idea("us.annualized.no-help", "The annualized method does not lower the penalty", "election", "IRC 6654(d)(2)(A)")
@idea("us.annualized.could-help", "Annualized income installment method may help", "election", "IRC 6654(d)(2)")
def worth(run):
    form = run.form("us.2210")
    if form.excused:
        return
    if _chosen(run):
        if all(one >= form.instalment for one in run.form("us.2210-ai").installments[:-1]):
            says = "Each installment is as large as the regular one."
            yield found(run.single("penalty").address("annualise"), says, code="us.annualized.no-help")
    elif form.whole_penalty >= _WORTH_ASKING and _late_gain(run) * 10 > run.form("us.1040").adjusted_gross_income:
        says = f"Gain came after August, and the penalty is {form.whole_penalty:,.0f}. Enter income by periods to lower it."
        yield found(run.single("penalty").address("annualise"), says, code="us.annualized.could-help")


def _late_gain(run):
    rows = [row for kind in ("1099-b", "1099-da") for paper in run.papers(kind) for row in paper.sales]
    return sum((row.gain() for row in rows if row.sold is not None and row.sold > date(run.year, 8, 31)), ZERO)


@stops("us.penalty.waiver-incomplete", "Penalty waiver without amount or reason", "missing", "IRC 6654(e)(3)")
@check("us.penalty.waived-above", "Waiver exceeds the penalty", "conflict", "IRC 6654(e)(3)")
def waivers(run):
    questions = run.single("penalty")
    if not questions.waiver:
        return
    if not questions.waived or not questions.waiver_reason:
        name = "waiver_reason" if questions.waived else "waived"
        says = "The IRS decides on what is asked and why. Enter both, and attach the evidence."
        yield found(questions.address(name), says, code="us.penalty.waiver-incomplete")
    whole = run.form("us.2210").whole_penalty
    if questions.waived > whole:
        yield found(questions.address("waived"), f"The penalty is {whole:,.0f}. Check both.", code="us.penalty.waived-above")


CHECKS = (periods, worth, waivers)
