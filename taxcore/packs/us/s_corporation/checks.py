"""Diagnostics of an S corporation's return: who may hold shares, pay, distributions, accounts, what is not made here."""

from decimal import Decimal

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.entity.books import accounts_of, credit_of, debit_of
from taxcore.packs.us.entity.checks import CHECKS as ENTITY
from taxcore.packs.us.entity.checks import NO_RETURN_OF_OWNERS, cannot_file, not_final, state_returns
from taxcore.packs.us.entity.closing import closing
from taxcore.packs.us.entity.withholding import withheld
from taxcore.packs.us.s_corporation.papers import BARRED

_DOLLAR, _MOST, _PASSIVE = Decimal(1), 100, Decimal("0.25")


@stops("us.shareholder.none", "No shareholders", "missing", "IRC 1361(b)")
@stops("us.shareholder.no-shares", "Shareholder without shares", "missing", "Schedule K-1, item G")
@stops("us.shareholder.days", "Shares held: dates outside the year", "conflict", "IRC 1377(a)(1)")
@stops("us.shareholder.too-many", "More than 100 shareholders", "rule", "IRC 1361(b)(1)(A)")
@stops("us.shareholder.barred", "A shareholder that may not be one", "rule", "IRC 1361(b)(1)(B), (C)")
@check("us.shareholder.number-twice", "Two shareholders with one number", "conflict")
@check("us.shareholder.shares-move", "The number of shares changes in the year", "unlikely", "Schedule K-1, item H")
def shareholders(run):
    every = run.papers("shareholder")
    if not every:
        yield found("us.shareholder", "Add the shareholders: each gets a Schedule K-1.", code="us.shareholder.none")
        return
    if len(every) > _MOST:
        says = f"There are {len(every)}. Members of a family count as one; else the election ends."
        yield found(every[0].address("called"), says, code="us.shareholder.too-many")
    numbers = set()
    for one in every:
        yield from _of_holder(run, one, numbers)
    first, last = (sum((one.at(end) for one in every), Decimal(0)) for end in (False, True))
    if first and last and first != last:
        says = f"There are {first:,.0f} at the beginning and {last:,.0f} at the end. Were shares issued or bought back?"
        yield found(every[0].address("stakes"), says, code="us.shareholder.shares-move")


def _of_holder(run, one, numbers):
    if not any(row.shares for row in one.stakes):
        says = f"{one.called or 'A shareholder'} holds no shares on any day. Enter them."
        yield found(one.address("stakes"), says, code="us.shareholder.no-shares")
    for row in one.stakes:
        if row.since and not run.period.start <= row.since <= run.period.end:
            says = f"{row.since:%B %-d, %Y} is not in this year. Leave it empty for the whole year."
            yield found(row.address("since"), says, code="us.shareholder.days")
    if one.sort in BARRED or one.alien:
        says = f"{one.called} may not hold shares of an S corporation: the election ends. This cannot be e-filed from here."
        yield found(one.address("sort"), says, code="us.shareholder.barred")
    if one.number and one.number in numbers:
        says = f"{one.called} has the number of another shareholder. Correct one of them."
        yield found(one.address("number"), says, code="us.shareholder.number-twice")
    numbers.add(one.number)


def _out_of_proportion(given, weights):
    paid, every = sum(given, Decimal(0)), sum(weights)
    return any(abs(amount - paid * weight / every) > _DOLLAR for amount, weight in zip(given, weights, strict=True))


@check("us.1120s.no-pay", "No pay of a shareholder who works", "unlikely", "IRC 3121(d)(1); Rev. Rul. 74-44")
@check("us.1120s.disproportionate", "Distributions out of proportion to shares", "rule", "IRC 1361(b)(1)(D)")
@check("us.1120s.draws-differ", "Distributions of the shareholders differ from the books", "conflict", "Schedule K, line 16d")
@check("us.1120s.officers-differ", "Form 1125-E differs from the books", "conflict", "Form 1125-E")
@stops("us.1120s.officers-missing", "Form 1125-E needed", "missing", "Form 1120-S, line 7")
@check("us.1120s.guaranteed", "Guaranteed payments of a corporation", "conflict", "IRC 707(c)")
def pay(run):
    page, schedule, holders = run.form("us.1120-s"), run.form("us.sch-k"), run.papers("shareholder")
    works = next((one for one in holders if one.officer), None)
    if works is not None and page.officers == 0 and (schedule.distributed_in_all > 0 or page.ordinary > 0):
        says = f"{works.called} works for the corporation and has no pay. Reasonable pay comes before distributions."
        yield found(page.address("officers"), says, code="us.1120s.no-pay")
    weights, given = [one.weight() for one in holders], [one.distributed for one in holders]
    every, paid = sum(weights), sum(given, Decimal(0))
    if every and paid and _out_of_proportion(given, weights):
        says = (
            "Equal shares have equal rights. What differs in time or amount is put right, or a second class of stock is feared."
        )
        yield found(holders[0].address("distributed"), says, code="us.1120s.disproportionate")
    drawn = debit_of(run, "draws", tax=False)
    if accounts_of(run, "draws") and abs(drawn - paid) > _DOLLAR:
        says = f"Shareholders have {paid:,.0f}, the accounts {drawn:,.0f}. Enter each one's distributions."
        yield found(schedule.address("distributed"), says, code="us.1120s.draws-differ")
    named = sum((one.pay for one in run.papers("officer")), Decimal(0))
    if run.papers("officer") and abs(named - page.officers) > _DOLLAR:
        says = f"Officers have {named:,.0f}, the accounts {page.officers:,.0f}. Correct one."
        yield found(page.address("officers"), says, code="us.1120s.officers-differ")
    if page.receipts >= 500_000 and page.officers and not run.papers("officer"):
        says = "With receipts of 500,000 or more officers are named one by one. Add them."
        yield found(page.address("officers"), says, code="us.1120s.officers-missing")
    if accounts_of(run, "guaranteed"):
        says = "A corporation has none. Choose officers' pay, wages or distributions for the account."
        yield found(run.single("books").address("rows"), says, code="us.1120s.guaranteed")


@stops("us.m1.unreconciled", "Schedule M-1 does not reconcile", "conflict", "Schedule M-1")
@check("us.1120s.retained-differ", "Retained earnings differ from the accounts of Schedule M-2", "unlikely", "IRC 1368(e)(1)")
@check("us.1120s.beyond-accounts", "Distributions beyond the accounts of Schedule M-2", "lost", "IRC 1368(b)(2)")
@idea("us.1120s.dividends", "Dividends out of earnings of C corporation years", "carried", "IRC 1368(c)(2)")
def accounts(run):
    m1, m2, sheet = run.form("us.sch-m-1"), run.form("us.sch-m-2"), run.form("us.sch-l")
    paid = run.form("us.sch-k").distributed_in_all
    used = m2.distributed + m2.earnings_distributed + m2.other_distributed
    if paid > used:
        says = f"{paid - used:,.0f} are beyond them. Each shareholder's basis decides what is taxed: tell them."
        yield found(m2.address("distributed"), says, code="us.1120s.beyond-accounts")
    if m2.earnings_distributed > 0:
        says = f"{m2.earnings_distributed:,.0f} are dividends. Issue Form 1099-DIV; Schedule K-1 leaves them out."
        yield found(m2.address("earnings_distributed"), says, code="us.1120s.dividends")
    if not run.single("books").rows:
        return
    if abs(m1.unreconciled) > _DOLLAR:
        says = f"{abs(m1.unreconciled):,.0f} between books and Schedule K is not explained. Look at rents and entries."
        yield found(m1.address("net"), says, code="us.m1.unreconciled")
    together = m2.ended + m2.earnings_ended + m2.other_ended
    if abs(together - sheet.retained_ended) > _DOLLAR:
        says = f"The accounts come to {together:,.0f}, retained earnings to {sheet.retained_ended:,.0f}. Timing, or an error."
        yield found(m2.address("ended"), says, code="us.1120s.retained-differ")


@stops("us.1120s.planning-year", "Forms for this year are not final", "unsupported")
@stops("us.1120s.built-in", "Tax on built-in gains", "unsupported", "IRC 1374")
@stops("us.1120s.passive-receipts", "Tax on excess passive income", "unsupported", "IRC 1375")
@stops("us.1120s.debt", "Debt that was canceled", "unsupported", "IRC 108(d)(7)")
@stops("us.1120s.subsidiary", "Qualified subsidiary", "unsupported", "IRC 1361(b)(3)")
@stops("us.1120s.k-2", "Schedules K-2 and K-3", "unsupported", "Schedule K, line 14")
@stops("us.1120s.method", "Another accounting method", "unsupported", "IRC 446(c)(4)")
@check("us.1120s.state-return", "A state's S corporation return", "unsupported", "state law")
@check("us.1120s.late", "Penalty for late filing or Schedules K-1", "lost", "IRC 6699, 6722")
@stops("us.1120s.elected-later", "S election after the year", "conflict", "IRC 1362(b)")
def unsupported(run):
    about, page = run.single("about"), run.form("us.1120-s")
    yield from not_final(run, "elected", "us.1120s.planning-year")
    rows = (
        ("was_other", about.was_other, "us.1120s.built-in", "The tax on built-in gains is not worked out here yet."),
        ("debt_cancelled", about.debt_cancelled, "us.1120s.debt", "Income of canceled debt has rules of its own."),
        ("subsidiary", about.subsidiary, "us.1120s.subsidiary", "Subsidiaries are not put together here yet."),
        ("foreign_items", about.foreign_items, "us.1120s.k-2", "Schedules K-2 and K-3 are not made here yet."),
        ("method", about.method == "other", "us.1120s.method", "Only cash and accrual are known here."),
    )  # fmt: skip
    yield from cannot_file(about, rows)
    if about.elected and about.elected > run.period.end:
        says = "Then this year is one of a C corporation. Check the date."
        yield found(about.address("elected"), says, code="us.1120s.elected-later")
    passive = credit_of(run, "interest_income", "dividends", "royalties", "rental_income")
    if about.earnings_before and passive > _PASSIVE * (page.receipts + passive):
        says = "More than a quarter of receipts is passive beside earnings of C corporation years. Its tax is not made here."
        yield found(about.address("earnings_before"), says, code="us.1120s.passive-receipts")
    yield from state_returns(run, NO_RETURN_OF_OWNERS, "corporation", "us.1120s.state-return")
    if about.filed_in_time is False:
        says = "Each month late costs for every shareholder. Ask for relief with the return, or expect a notice."
        yield found(about.address("filed_in_time"), says, code="us.1120s.late")


@check("us.1120s.health-above-pay", "Health insurance above officers' pay", "conflict", "Notice 2008-1")
@check("us.1120s.elected-before", "S election before the corporation was there", "conflict", "IRC 1362(b)")
def answers(run):
    about, insured = run.single("about"), sum((one.health_insurance for one in run.papers("shareholder")), Decimal(0))
    paid = debit_of(run, "officers", "salaries")
    if insured > paid:
        says = f"It is part of pay, and pay is {paid:,.0f}. Put the insurance into wages."
        yield found(run.papers("shareholder")[0].address("health_insurance"), says, code="us.1120s.health-above-pay")
    if about.elected and about.incorporated and about.elected < about.incorporated:
        says = f"It was incorporated on {about.incorporated:%B %-d, %Y}. Correct one of the dates."
        yield found(about.address("elected"), says, code="us.1120s.elected-before")


@stops("us.closing.not-agreed", "Closing of the books that not all agreed to", "rule", "IRC 1377(a)(2)")
def agreed(run):
    paper = run.single("closing")
    if paper.rows and not paper.agreed:
        says = (
            "Every item goes by days unless all affected shareholders agree to end the year with an interest. Say that they did."
        )
        yield found(paper.address("agreed"), says)


CHECKS = (*ENTITY, closing, agreed, shareholders, pay, accounts, withheld, unsupported, answers)
