"""Accounts and the company itself: what does not balance, what a name suggests and nobody confirmed, what is easily missed."""

from collections import Counter

from taxcore.engine import check, found, idea, stops
from taxcore.packs.uk.company.base import months_after
from taxcore.packs.uk.company.papers import PROFIT_AND_LOSS, TREATMENTS

_LONGEST = 18  # months of one set of accounts: Companies Act 2006 s. 392
_BY_DATE = ("dividend", "donation", "other")
# Words in a trading account's name; code; what to look at
_ASKS = (
    ("provision", "uk.ct-provision", "Only a specific provision is deducted. Is it one?"),
    ("legal", "uk.ct-legal", "Fees for land, shares or new finance are no expense of the trade. Are there such?"),
    ("political", "uk.ct-political", "A political donation is no expense. Leave it out."),
    ("research", "uk.ct-research", "Credits for research (CT600L) are not supported. Claim them elsewhere if they are due."),
    ("car lease", "uk.ct-car-lease", "Of a car above 50 g/km 15% are not deducted. Enter them as an adjustment."),
)


@stops("uk.ct-no-accounts", "There are no accounts", "missing", "FA 1998 Sch. 18 para. 11")
@check("uk.ct-accounts-untagged", "No accounts go with the return", "missing", "FA 1998 Sch. 18 para. 11; SI 2009/3218")
@stops("uk.ct-unbalanced", "The trial balance does not balance", "conflict", "CTA 2009 s. 46")
@stops("uk.ct-both-sides", "An account with debit and credit", "conflict", "CTA 2009 s. 46")
@check("uk.ct-no-amount", "An account without an amount", "missing", "CTA 2009 s. 46")
@check("uk.ct-account-twice", "An account that stands there twice", "conflict", "CTA 2009 s. 46")
@check("uk.ct-opening", "Reserves differ from those that the last period closed", "carried", "Companies Act 2006 s. 393")
@stops("uk.ct-posted-twice", "The tax is posted, and the books have a charge already", "conflict", "CTA 2009 s. 46")
@check("uk.ct-profit-differs", "The profit is entered, and the trial balance gives another", "conflict", "CTA 2009 s. 46")
@check("uk.ct-turnover-none", "A profit without turnover", "unlikely", "CT600, box 145")
def trial_balance(run):
    paper, form = run.single("accounts"), run.form("uk.accounts")
    rows = list(paper.rows)
    if not rows and not paper.is_keyed("profit"):
        yield found(
            paper.address("profit"), "Bring in the trial balance, or enter turnover and profit.", code="uk.ct-no-accounts"
        )
    elif not rows:
        says = "Tagged accounts are made from a trial balance. A PDF is not taken: no program can read it."
        yield found(paper.address("rows"), says, code="uk.ct-accounts-untagged")
    if form.difference:
        says = f"Debits are {abs(form.difference):,.2f} {'above' if form.difference > 0 else 'below'} credits."
        yield found(paper.address("rows"), says, code="uk.ct-unbalanced")
    for row in rows:
        if row.debit and row.credit:
            yield found(row.address("credit"), "Enter the balance on one side.", code="uk.ct-both-sides")
        if not row.debit and not row.credit and any(one.debit or one.credit for one in rows):
            yield found(row.address("debit"), "It has no balance. Enter one, or remove the line.", code="uk.ct-no-amount")
    names = Counter(str(row.account).strip().lower() for row in rows)
    for row in rows:
        if names[str(row.account).strip().lower()] > 1:
            yield found(row.address("account"), "Another line has the same name.", code="uk.ct-account-twice")
    of_rows = sum(row.credit - row.debit for row in rows if row.heading in PROFIT_AND_LOSS)
    if rows and paper.is_keyed("profit") and paper.profit != of_rows:
        yield found(
            paper.address("profit"), f"The lines give {of_rows:,.2f}. Empty the field to take them.", code="uk.ct-profit-differs"
        )
    reserves = sum(row.credit - row.debit for row in rows if row.heading == "reserves")
    if rows and paper.is_keyed("reserves_before") and paper.reserves_before != reserves:
        says = f"The trial balance begins with {reserves:,.2f}. Is an entry of the last period missing in the books?"
        yield found(paper.address("reserves_before"), says, code="uk.ct-opening")
    if paper.posted and any(row.heading == "tax" for row in rows):
        yield found(paper.address("posted"), "Remove one of both.", code="uk.ct-posted-twice")
    if paper.profit > 0 and not paper.turnover:
        yield found(paper.address("turnover"), "Box 145 asks for it.", code="uk.ct-turnover-none")


@check("uk.ct-suggested", "What an account's name suggests is not confirmed", "missing", "CTA 2009 ss. 46 to 59")
@check("uk.ct-treatment-balance", "A treatment for a line of the balance sheet", "conflict", "CTA 2009 s. 46")
@stops("uk.ct-tax-in-profit", "Corporation tax or dividends among the expenses", "conflict", "CTA 2009 s. 1308; CTA 2009 s. 1305")
@check("uk.ct-provision", "A provision is deducted", "missed", "CTA 2009 s. 46")
@check("uk.ct-legal", "Legal fees are deducted", "missed", "CTA 2009 s. 53")
@check("uk.ct-political", "A political donation is deducted", "rule", "CTA 2009 s. 1300")
@check("uk.ct-research", "Costs of research", "unsupported", "CTA 2009 Part 13")
@check("uk.ct-car-lease", "Rent for cars is deducted", "missed", "CTA 2009 s. 56")
@check("uk.ct-director-loan", "A director owes the company", "missed", "CTA 2010 s. 455")
def lines(run):
    for row in run.single("accounts").rows:
        named, in_profit = str(row.account).lower(), row.heading in PROFIT_AND_LOSS
        at = row.address("treatment")
        if in_profit and not row.is_keyed("treatment") and row.treatment != "trade":
            says = f"{row.account}: by its name {TREATMENTS[row.treatment].lower()}. Confirm it, or choose otherwise."
            yield found(at, says, code="uk.ct-suggested")
        if not in_profit and row.heading and row.is_keyed("treatment"):
            yield found(at, "Only lines of profit and loss have one.", code="uk.ct-treatment-balance")
        if row.heading == "expense" and ("corporation tax" in named or "dividends paid" in named):
            yield found(row.address("heading"), "Neither comes off the profit before tax.", code="uk.ct-tax-in-profit")
        if in_profit and row.treatment == "trade" and row.debit:
            for words, code, says in _ASKS:
                if words in named:
                    yield found(at, says, code=code)
        if "director" in named and "loan" in named and row.debit and not run.papers("loans"):
            yield found(row.address("debit"), "Enter it among the loans to participators.", code="uk.ct-director-loan")


@stops("uk.ct-accounts-days", "The period is not within the accounts", "conflict", "CTA 2010 s. 52")
@stops("uk.ct-accounts-long", "Accounts of more than eighteen months", "rule", "Companies Act 2006 s. 392")
@stops("uk.ct-by-date", "Long accounts with dividends, donations or other income", "conflict", "CTA 2010 s. 52")
@check("uk.ct-adjustment-large", "An adjustment above half the profit", "unlikely", "CTA 2009 s. 53")
@idea("uk.ct-allowances-could", "Depreciation, and no capital allowances", "missed", "CAA 2001 s. 2")
def of_the_period(run):
    paper, form, period = run.single("accounts"), run.form("uk.accounts"), run.period
    begun, ended = paper.begun or period.start, paper.ended or period.end
    if begun > period.start or ended < period.end:
        says = "Accounts begin no later and end no earlier than the period of the return."
        yield found(paper.address("begun"), says, code="uk.ct-accounts-days")
    elif ended > months_after(begun, _LONGEST):
        yield found(paper.address("ended"), "Enter one set of accounts for each.", code="uk.ct-accounts-long")
    if form.days > period.days and any(form.lines_of(one) for one in _BY_DATE):
        says = "They belong to the period in which they fall. Choose another treatment, and enter them under other income."
        yield found(paper.address("rows"), says, code="uk.ct-by-date")
    for row in paper.adjustments:
        if abs(paper.profit) > 0 and row.amount > abs(paper.profit) / 2:
            yield found(row.address("amount"), "Check the amount.", code="uk.ct-adjustment-large")
    written_off = any("depreciation" in str(row.account).lower() and row.debit for row in form.lines_of("disallowed"))
    if written_off and not run.papers("plant"):
        yield found(paper.address("rows"), "Enter plant and pools: they take its place.", code="uk.ct-allowances-could")


@stops("uk.ct-ceased-day", "The trade ceased in another period", "conflict", "CTA 2009 s. 41")
@stops("uk.ct-ceased-not-end", "The trade ceased before the period ended", "rule", "CTA 2009 s. 10(1)(d)")
@stops("uk.ct-holding-not-close", "An investment-holding company that is not close", "conflict", "CTA 2010 s. 18N")
@check("uk.ct-close-unsaid", "Loans to participators of a company that is not close", "conflict", "CTA 2010 s. 455")
@check("uk.ct-associates-many", "Many associated companies", "unlikely", "CTA 2010 s. 18E")
@check("uk.ct-instalments", "Large for the first time?", "missed", "SI 1998/3175 reg. 3(2)")
@stops("uk.ct-tax-deducted", "More income tax taken off than income", "unlikely", "CTA 2010 s. 967")
@idea("uk.ct-marginal", "Each pound above the lower limit bears 26.5%", "election", "CTA 2010 s. 18B")
@check("uk.ct-dormant", "No turnover and no income", "unlikely", "FA 1998 Sch. 18 para. 3")
def company(run):
    about, form = run.single("about"), run.form("uk.ct600")
    if about.ceased is not None and about.ceased not in run.period:
        yield found(about.address("ceased"), "The day is not in the period.", code="uk.ct-ceased-day")
    elif about.ceased is not None and about.ceased != run.period.end:
        says = "A period ends with the trade. Open a return to that day, and another from the day after."
        yield found(about.address("ceased"), says, code="uk.ct-ceased-not-end")
    if about.investment_holding and not about.close:
        yield found(about.address("investment_holding"), "Only a close company can be one.", code="uk.ct-holding-not-close")
    if run.papers("loans") and run.single("loans").loans and not about.close:
        yield found(
            about.address("close"),
            "The tax is due from close companies alone. Answer whether it is one.",
            code="uk.ct-close-unsaid",
        )
    if (about.associates or 0) > 20:
        yield found(about.address("associates"), "Those that never traded do not count.", code="uk.ct-associates-many")
    quarters = run.form("uk.instalments")
    if quarters.profits > quarters.large_above and quarters.is_spared() and not quarters.very_large:
        says = "Tax is due in four instalments where profits were as large in the twelve months before. Answer it."
        yield found(about.address("large_before"), says, code="uk.ct-instalments")
    if about.tax_deducted > form.profits:
        yield found(about.address("tax_deducted"), "Check both.", code="uk.ct-tax-deducted")
    if form.relief > 0:
        says = "Pension contributions, plant, or donations before the period's end save tax at that rate."
        yield found(form.address("relief"), says, code="uk.ct-marginal")
    if run.single("accounts").is_keyed("profit") and not form.turnover and not form.profits and not form.trade.loss:
        yield found(form.address("turnover"), "Is the company dormant?", code="uk.ct-dormant")


CHECKS = (trial_balance, lines, of_the_period, company)
