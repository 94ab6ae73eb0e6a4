"""Diagnostics of Illinois' returns of entities."""

from taxcore.engine import check, found, stops
from taxcore.packs.us.entity.receipts import is_divided, receipts_of
from taxcore.packs.us.states.il.entities.base import files_here

_DOLLAR = 1
_NOT_YET = "This return cannot be e-filed from here."


@stops("us-il.entity.not-asked", "Illinois: its questions are not answered", "missing", "35 ILCS 5/303")
@stops("us-il.entity.nonbusiness", "Illinois: income that is not business income", "unsupported", "35 ILCS 5/303")
@stops(
    "us-il.entity.more",
    "Illinois: credits, Schedule 80/20 or Schedules K-1-P received",
    "unsupported",
    "35 ILCS 5/201(e), 203(b)(2)(E-12)",
)
@stops("us-il.entity.unitary", "Illinois: unitary business group", "unsupported", "35 ILCS 5/304(e), 502(f)")
@check("us-il.entity.adjusted-basis", "Illinois: section 743(b) adjustments", "unlikely", "35 ILCS 5/203(d), (e)(2)(H)")
@check("us-il.entity.lines", "Illinois: line numbers not compared with the form", "unlikely")
def unsupported(run):
    if not files_here(run):
        return
    asked = run.single("il-entity")
    if not run.papers("il-entity"):
        says = "Add Illinois questions: whether all of it is business income, what is added and taken off, what was paid."
        yield found(asked.address("business_only"), says, code="us-il.entity.not-asked")
    if asked.business_only is False:
        says = f"Income that goes to one state as a whole, Schedule NB, is not made here yet. {_NOT_YET}"
        yield found(asked.address("business_only"), says, code="us-il.entity.nonbusiness")
    if asked.more or run.papers("k1-1065"):
        says = f"Credits, related-party expenses and shares of other entities are not made here yet. {_NOT_YET}"
        yield found(asked.address("more"), says, code="us-il.entity.more")
    if asked.unitary:
        yield found(asked.address("unitary"), f"Schedule UB is not made here. {_NOT_YET}", code="us-il.entity.unitary")
    if run.papers("basis-adjustment"):
        says = "They do not change the partnership's base income in Illinois. Owners report them in federal income."
        yield found(run.papers("basis-adjustment")[0].address("property"), says, code="us-il.entity.adjusted-basis")
    says = "Amounts follow the law cited; lines after the base income were not compared with this year's printed form."
    yield found(_page(run).address("owed"), says, code="us-il.entity.lines")


@check("us-il.entity.own-tax", "Illinois: taxes deducted are not answered", "missing", "35 ILCS 5/203(b)(2)(B), (d)(2)(B)")
@check("us-il.entity.sales-differ", "Receipts by state differ from the return", "conflict", "35 ILCS 5/304(a)(3)")
@stops("us-il.entity.no-sales", "Illinois: no receipts to apportion by", "missing", "35 ILCS 5/304(h)")
@stops("us-il.entity.state-twice", "Receipts by state: the same state twice", "conflict")
def apportioned(run):
    if not files_here(run):
        return
    asked, page, table = run.single("il-entity"), _page(run), run.single("receipts")
    if page.page.taxes and not asked.is_answered("own_tax"):
        says = "Taxes are deducted. Enter how much of them is Illinois income or replacement tax, 0 if none."
        yield found(asked.address("own_tax"), says, code="us-il.entity.own-tax")
    if not is_divided(run):
        return
    if not page.sales:
        says = "Receipts everywhere are nothing, so no part of the income can be Illinois'. Enter them."
        yield found(table.address("rows"), says, code="us-il.entity.no-sales")
    elif abs(page.sales - page.page.net_receipts) > _DOLLAR:
        says = f"By states they are {page.sales:,.0f}, on the federal return {page.page.net_receipts:,.0f}. Other receipts?"
        yield found(table.address("rows"), says, code="us-il.entity.sales-differ")
    for row in table.rows:
        if len(receipts_of(run, row.state)) > 1:
            says = "It is there more than once. Put it in one line."
            yield found(row.address("state"), says, code="us-il.entity.state-twice")
            return


@check("us-il.entity.loss-expired", "Illinois: losses older than twenty years", "lost", "35 ILCS 5/207")
@check("us-il.entity.loss-limited", "Illinois: losses above this year's limit", "lost", "35 ILCS 5/207(d)")
@check("us-il.entity.no-estimates", "Illinois: tax without estimated payments", "lost", "35 ILCS 5/803")
def losses(run):
    if not files_here(run):
        return
    asked, page = run.single("il-entity"), _page(run)
    oldest = run.year - int(page.rates.loss_years)
    gone = [row for row in asked.losses if row.amount and row.from_year is not None and row.from_year < oldest]
    if gone:
        says = f"{sum(row.amount for row in gone):,.0f} of years before {oldest} can no longer be used."
        yield found(gone[0].address("from_year"), says, code="us-il.entity.loss-expired")
    if page.waiting.before > page.loss_limit() and page.adjusted > page.loss_limit():
        says = f"{page.loss_limit():,.0f} of {page.waiting.before:,.0f} count this year. The rest waits."
        yield found(page.address("loss_deduction"), says, code="us-il.entity.loss-limited")
    entity_tax = getattr(page, "entity_tax", None)
    expected, least = (
        (page.total_tax, page.rates.estimates.corporation)
        if entity_tax is None
        else (entity_tax, page.rates.estimates.entity_tax)
    )
    if expected > least and not asked.estimates and not asked.credited_before:
        says = f"{expected:,.0f} of tax and nothing paid during the year: Illinois adds a penalty, which is not worked out here."
        yield found(asked.address("estimates"), says, code="us-il.entity.no-estimates")


@check("us-il.entity.pay-above-income", "Illinois: pay of partners above income", "unlikely", "35 ILCS 5/203(d)(2)(H)")
@check("us-il.entity.pay-open", "Illinois: pay of partners is not answered", "lost", "35 ILCS 5/203(d)(2)(H)")
@check("us-il.entity.trust", "Illinois: an estate pays no replacement tax, a trust does", "unlikely", "35 ILCS 5/201(c)")
@check("us-il.entity.elected", "Illinois: pass-through entity (PTE) tax elected", "unlikely", "35 ILCS 5/201(p)")
@check("us-il.entity.withheld", "Illinois: tax is withheld from nonresident owners", "unlikely", "35 ILCS 5/709.5")
def of_owners(run):
    if not files_here(run) or run.pack.code == "us-1120":
        return
    asked, page = run.single("il-entity"), _page(run)
    if run.pack.code == "us-1065":
        yield from _pay(asked, page)
    for one in page.owners():
        if one.owner.sort == "trust":
            says = f"{one.owner.called} is counted as a trust. An estate's share is not taken off: correct it by hand."
            yield found(one.owner.address("sort"), says, code="us-il.entity.trust")
    if page.entity_tax:
        says = f"{page.entity_tax:,.0f} is paid for all owners. Each has a credit in Illinois alone: see what it does to them."
        yield found(asked.address("entity_tax"), says, code="us-il.entity.elected")
    if page.withholding:
        says = f"{page.withholding:,.0f} is withheld from nonresident owners. Form IL-1000-E or PTE tax would change it."
        yield found(page.address("withholding"), says, code="us-il.entity.withheld")


def _pay(asked, page):
    income = page.with_additions
    if asked.personal_service and asked.personal_service > max(income, 0):
        says = f"It is more than the income of {income:,.0f}, and makes a loss. A reasonable pay seldom does."
        yield found(asked.address("personal_service"), says, code="us-il.entity.pay-above-income")
    if page.replacement and not asked.is_answered("personal_service"):
        says = "Reasonable pay of partners is taken off before replacement tax. Enter it, or 0."
        yield found(asked.address("personal_service"), says, code="us-il.entity.pay-open")


def _page(run):
    return next(run.form(one.form.code()) for one in run.pack.authorities if one.form.jurisdiction == "us-il")


CHECKS = (unsupported, apportioned, losses, of_owners)
