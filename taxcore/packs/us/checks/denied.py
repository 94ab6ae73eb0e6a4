"""Form 8862: what is missing or shuts a credit that was denied before. IRC 24(g), 25A(b)(4), 32(k)."""

from taxcore.engine import check, found, stops

_HALF = 183


@stops("us.8862.missing", "Form 8862 needed: a credit was denied before", "missing", "IRC 32(k)(2)")
def missing(run):
    for paper in run.papers("diligence"):
        asked = run.single("denied-before")
        if paper.disallowed and not (asked.earned_income or asked.child or asked.education):
            yield found(paper.address("disallowed"), "Add “Credit denied in an earlier year” and say which.")


@stops("us.8862.banned", "Credit claimed while it must not be", "rule", "IRC 32(k)(1), 24(g)(1), 25A(b)(4)(A)")
@stops("us.8862.of-another", "Earned income credit: qualifying child of another", "rule", "IRC 32(c)(1)(B)")
@check("us.8862.days", "Form 8862: days of a child", "missing", "IRC 32(c)(3)(A)")
@check("us.8862.own-days", "Form 8862: days in the U.S. not answered", "missing", "IRC 32(c)(1)(A)(ii)(I)")
@check("us.8862.not-asked", "Form 8862 without “denied before” on the checklist", "conflict", "IRC 6695(g)")
def claimed_again(run):
    if run.is_idle("us.8862"):
        return
    asked, form = run.single("denied-before"), run.form("us.8862")
    if form.claimed and (asked.banned_through or 0) >= run.year:
        says = f"It must not be claimed through {asked.banned_through}. Override its line with zero."
        yield found(asked.address("banned_through"), says, code="us.8862.banned")
    if form.earned_income and asked.of_another:
        yield found(
            asked.address("of_another"), "Then there is no earned income credit. Check the answer.", code="us.8862.of-another"
        )
    for one in run.every("us.8862-child"):
        if one.required() and one.days < _HALF:
            who = run.form("us.dependent", one.key).who
            says = f"{who.title} has {one.days:,.0f} days; a qualifying child has more than half of the year. Enter them."
            yield found(asked.address("children"), says, code="us.8862.days")
    alone = form.earned_income and not run.form("us.earned-income-credit").children and not asked.only_income
    if alone and not asked.is_keyed("days_here"):
        yield found(asked.address("days_here"), "Line 9a of Form 8862 asks for them. Enter them.", code="us.8862.own-days")
    for paper in run.papers("diligence"):
        if form.claimed and paper.disallowed is False:
            yield found(paper.address("disallowed"), "The checklist says otherwise. Correct one.", code="us.8862.not-asked")


CHECKS = (missing, claimed_again)
