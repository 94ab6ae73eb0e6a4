"""Diagnostics of a corporation's return: dividends, gifts, losses, estimates, what is not made here."""

from decimal import Decimal

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.corporation.estimates import NO_DAYS
from taxcore.packs.us.entity.books import accounts_of, credit_of
from taxcore.packs.us.entity.checks import (
    NO_RETURN_OF_CORPORATIONS,
    assets,
    books,
    cannot_file,
    entries,
    fiscal,
    not_final,
    state_returns,
)
from taxcore.packs.us.entity.plausible import CHECKS as PLAUSIBLE
from taxcore.packs.us.entity.received import shares
from taxcore.packs.us.federal.underpayment import PRIOR_TAX_UNKNOWN
from taxcore.packs.us.property.papers import BUILT

_DOLLAR, _AFFILIATED = Decimal(1), 80


@stops("us.1120.dividends-missing", "Dividends in the books and not on Schedule C", "missing", "IRC 243")
@check("us.1120.dividends-differ", "Schedule C differs from the books", "conflict", "Schedule C")
@stops("us.1120.affiliated", "Dividends of an affiliated corporation", "unsupported", "IRC 243(a)(3)")
@idea("us.1120.dividends-limited", "Deduction for dividends is limited by taxable income", "lost", "IRC 246(b)")
def dividends(run):
    page = run.form("us.1120")
    rows = run.single("dividends").rows
    booked, named = page.dividends, sum((row.amount for row in rows), Decimal(0))
    if booked and not rows:
        says = "The deduction goes by payers and how much of them is owned. Enter Schedule C, payer by payer."
        yield found(page.address("dividends"), says, code="us.1120.dividends-missing")
    elif abs(booked - named) > _DOLLAR:
        says = f"Schedule C has {named:,.0f}, the accounts {booked:,.0f}. Correct one."
        yield found(page.address("dividends"), says, code="us.1120.dividends-differ")
    for row in rows:
        if (row.owned or 0) >= _AFFILIATED:
            says = f"{row.payer or 'A payer'} is of one group with it. Its full deduction is not made here yet."
            yield found(row.address("owned"), says, code="us.1120.affiliated")
    if rows:
        form = run.form("us.sch-c")
        full = form.small_share + form.large_share
        if form.deduction < full:
            says = f"{full - form.deduction:,.0f} of it are lost. A larger loss would lift the limit."
            yield found(form.address("deduction"), says, code="us.1120.dividends-limited")


@idea("us.1120.gifts-wait", "Contributions above the limit", "carried", "IRC 170(d)(2)")
@idea("us.1120.loss-waits", "Net operating loss of this year", "carried", "IRC 172(b)")
@idea("us.1120.capital-loss", "Capital loss of this year", "carried", "IRC 1212(a)(1)")
@check("us.1120.later-year", "A carryover of this year or later", "conflict")
@check("us.1120.ended", "A carryover that has ended", "carried")
def waiting(run):
    page, form, paper = run.form("us.1120"), run.form("us.carryovers"), run.single("carryovers")
    if page.given_counted > page.contributions:
        says = f"{page.given_counted - page.contributions:,.0f} come along for five years."
        yield found(page.address("contributions"), says, code="us.1120.gifts-wait")
    if page.taxable_income < 0:
        says = f"{-page.taxable_income:,.0f} come along, to be deducted within 80% of taxable income."
        yield found(page.address("taxable_income"), says, code="us.1120.loss-waits")
    if page.capital < 0:
        says = f"{-page.capital:,.0f} go back three years, by amended returns (Form 1139 is not made here), then along for five."
        yield found(form.address("capital"), says, code="us.1120.capital-loss")
    tables = (("losses", form.losses_before()), ("gifts", form.gifts_before()), ("capital", form.capital_before()))
    for name, counted in tables:
        years = {year for year, _ in counted}
        for row in getattr(paper, name):
            if row.from_year and row.from_year >= run.year:
                yield found(
                    row.address("from_year"), "Only earlier years leave something. Check the year.", code="us.1120.later-year"
                )
            elif row.from_year and row.amount and row.from_year not in years:
                says = f"What {row.from_year} left cannot be used any more. Remove it."
                yield found(row.address("from_year"), says, code="us.1120.ended")


@idea("us.1120.back-unused", "Capital loss carried back that is not used", "carried", "IRC 1212(a)(1)")
@check("us.1120.back-first", "Capital loss carried back on an original return", "unlikely", "IRC 1212(a)(1)(A)")
@check("us.1120.taken-above", "More of a capital loss used before than there is", "conflict", "IRC 1212(a)(1)(A)")
def carried_back(run):
    page, paper = run.form("us.1120"), run.single("carryovers")
    if paper.capital_back > page.back_used:
        says = f"{paper.capital_back - page.back_used:,.0f} of it go to the next year."
        yield found(page.address("capital_gain"), says, code="us.1120.back-unused")
    if paper.capital_back and run.amends is None:
        says = "A later year's loss comes after this return was filed. Enter it on an amended return."
        yield found(paper.address("capital_back"), says, code="us.1120.back-first")
    if paper.capital_taken > max(-page.capital, Decimal(0)):
        says = f"This year's capital loss is {max(-page.capital, Decimal(0)):,.0f}. Correct what was used of it in earlier years."
        yield found(paper.address("capital_taken"), says, code="us.1120.taken-above")


@check("us.1120.estimates", "Estimated tax may have been too little", "lost", "IRC 6655")
@check("us.1120.estimates-twice", "Estimated tax payments: together and day by day differ", "conflict", "Form 1120, Schedule J")
@check("us.1120.penalty", "Penalty for estimated tax", "lost", "IRC 6655")
@check("us.1120.officers-differ", "Form 1125-E differs from the books", "conflict", "Form 1125-E")
@stops("us.1120.officers-missing", "Form 1125-E needed", "missing", "Form 1120, line 12")
@stops("us.m1.unreconciled", "Schedule M-1 does not reconcile", "conflict", "Schedule M-1")
@check("us.1120.retained-differ", "Retained earnings differ from Schedule M-2", "conflict", "Schedule M-2")
@check("us.1120.guaranteed", "Guaranteed payments of a corporation", "conflict", "IRC 707(c)")
def money(run):
    page, about = run.form("us.1120"), run.single("about")
    yield from _of_estimates(run, page, about)
    named = sum((one.pay for one in run.papers("officer")), Decimal(0))
    if run.papers("officer") and abs(named - page.officers) > _DOLLAR:
        says = f"Officers have {named:,.0f}, the accounts {page.officers:,.0f}. Correct one."
        yield found(page.address("officers"), says, code="us.1120.officers-differ")
    if page.receipts >= 500_000 and page.officers and not run.papers("officer"):
        says = "With receipts of 500,000 or more officers are named one by one. Add them."
        yield found(page.address("officers"), says, code="us.1120.officers-missing")
    if accounts_of(run, "guaranteed"):
        says = "A corporation has none. Choose officers' pay, wages or distributions for the account."
        yield found(run.single("books").address("rows"), says, code="us.1120.guaranteed")
    if not run.single("books").rows:
        return
    m1, m2, sheet = run.form("us.sch-m-1"), run.form("us.sch-m-2"), run.form("us.sch-l")
    if abs(m1.unreconciled) > _DOLLAR:
        says = f"{abs(m1.unreconciled):,.0f} between books and line 28 is not explained. Look at entries and depreciation."
        yield found(m1.address("net"), says, code="us.m1.unreconciled")
    if abs(m2.ended - sheet.retained_ended) > _DOLLAR:
        says = (
            f"Schedule M-2 ends at {m2.ended:,.0f}, the books at {sheet.retained_ended:,.0f}. An entry went to equity directly."
        )
        yield found(m2.address("ended"), says, code="us.1120.retained-differ")


@stops("us.1120.planning-year", "Forms for this year are not final", "unsupported")
@stops("us.1120.consolidated", "Consolidated return", "unsupported", "IRC 1501")
@stops("us.1120.holding", "Tax of a personal holding company", "unsupported", "IRC 541")
@stops("us.1120.closely-held", "Passive losses of a closely held corporation", "unsupported", "IRC 469(a)(2)(B)")
@stops("us.1120.personal-service", "Personal service corporation", "unsupported", "IRC 269A, 469(a)(2)(C)")
@stops("us.1120.foreign-owner", "Form 5472, a foreign owner", "unsupported", "IRC 6038A")
@stops("us.1120.method", "Another accounting method", "unsupported", "IRC 446(c)(4)")
@stops("us.1120.section-291", "A building sold with gain", "unsupported", "IRC 291(a)(1)")
@stops("us.1120.foreign-tax", "Foreign tax of a corporation", "unsupported", "IRC 901, 904")
@check("us.1120.state-return", "A state's corporation return", "unsupported", "state law")
def unsupported(run):
    about = run.single("about")
    yield from not_final(run, "incorporated", "us.1120.planning-year")
    rows = (
        ("consolidated", about.consolidated, "us.1120.consolidated", "Groups are not put together here."),
        ("holding", about.holding, "us.1120.holding", "The tax on undistributed income is not worked out here."),
        ("closely_held", about.closely_held, "us.1120.closely-held", "The limit of its passive losses is not worked out here."),
        ("personal_service", about.personal_service, "us.1120.personal-service", "Its own limits are not worked out here."),
        ("foreign_owner", about.foreign_owner, "us.1120.foreign-owner", "Form 5472 is not made here."),
        ("method", about.method == "other", "us.1120.method", "Only cash and accrual are known here."),
    )  # fmt: skip
    yield from cannot_file(about, rows)
    for sale in run.every("us.sale-of-property"):
        if sale.is_there and sale.asset.sort in BUILT and sale.gain > 0:
            says = "A fifth of what was written off is ordinary income of a corporation. That is not worked out here yet."
            yield found(sale.asset.address("sold"), says, code="us.1120.section-291")
    if accounts_of(run, "foreign_tax") and credit_of(run, "foreign_tax"):
        says = "It is deducted with the other taxes. A credit is not worked out here: Form 1118."
        yield found(run.form("us.1120").address("taxes"), says, code="us.1120.foreign-tax")
    yield from state_returns(run, NO_RETURN_OF_CORPORATIONS, "corporation", "us.1120.state-return")


def _of_estimates(run, page, about):
    paper, form = run.single("estimates"), run.form("us.2220")
    if (
        page.owed - page.penalty >= run.laws["us"].corporate.estimates_least
        and not about.is_keyed("penalty")
        and form.excused in (PRIOR_TAX_UNKNOWN, NO_DAYS)
    ):
        says = f"{page.owed:,.0f} are owed. Enter last year's tax and payments by days under Estimated tax, 0 if there was none."
        yield found(paper.address("prior_tax"), says, code="us.1120.estimates")
    if paper.rows and about.estimates and abs(page.estimates - about.estimates) > _DOLLAR:
        says = f"Day by day they are {page.estimates:,.0f}, which count; together {about.estimates:,.0f} was entered."
        yield found(about.address("estimates"), says, code="us.1120.estimates-twice")
    if form.penalty and not about.is_keyed("penalty"):
        says = (
            f"{form.penalty:,.0f} by the regular method. Annualized or seasonal income may make it less, which is not made here."
        )
        yield found(form.address("penalty"), says, code="us.1120.penalty")


@check("us.1120.credited-above", "More credited to next year than overpaid", "conflict", "Form 1120, line 37")
@check("us.1120.credits-above", "Credits above the tax", "lost", "IRC 38(c), 39")
@check("us.1120.earnings-kept", "Earnings kept above 250,000", "unlikely", "IRC 531, 535(c)(2)")
@check("us.1120.distributed-above", "Distributions above earnings", "unlikely", "IRC 301(c), 316")
def kept(run):
    page, about, m2 = run.form("us.1120"), run.single("about"), run.form("us.sch-m-2")
    if about.credited > page.overpaid:
        yield found(about.address("credited"), f"{page.overpaid:,.0f} is overpaid.", code="us.1120.credited-above")
    if about.credits > page.schedule_j.income_tax:
        says = f"{about.credits - page.schedule_j.income_tax:,.0f} is not used. Form 3800 carries it, which is not made here."
        yield found(about.address("credits"), says, code="us.1120.credits-above")
    if m2.ended > run.laws["us"].corporate.earnings_credit:
        says = f"{m2.ended:,.0f} stays in the corporation. Beyond what the business needs it may be taxed once more."
        yield found(m2.address("ended"), says, code="us.1120.earnings-kept")
    if m2.distributed > max(m2.together, Decimal(0)):
        says = "What exceeds earnings and profits is no dividend: it reduces the shareholders' basis. Form 5452 is not made here."
        yield found(m2.address("distributed"), says, code="us.1120.distributed-above")


CHECKS = (assets, books, entries, shares, fiscal, dividends, waiting, carried_back, money, kept, unsupported, *PLAUSIBLE)
