"""Diagnostics that returns of entities share: books that do not balance, entries, rents and assets beside them."""

from decimal import Decimal

from taxcore.engine import check, found, stops
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.entity.books import ENTRIES, RESULT, accounts_of, credit_of, debit_of, ledger, named
from taxcore.packs.us.entity.plausible import CHECKS as PLAUSIBLE
from taxcore.packs.us.entity.plausible import owners
from taxcore.packs.us.entity.received import shares

_DOLLAR = Decimal(1)
# States without a return of income: of an entity whose owners pay the tax, and of a corporation that pays its own
NO_RETURN_OF_OWNERS = UNTAXED - {"NH", "TN", "TX"}
NO_RETURN_OF_CORPORATIONS = NO_RETURN_OF_OWNERS - {"AK", "FL"}


@stops("us.books.unbalanced", "Trial balance: debits and credits differ", "conflict", "IRC 446(a)")
@stops("us.books.beginning-unbalanced", "Trial balance: beginning balances do not add up to zero", "conflict", "Schedule L")
@stops("us.books.account-twice", "Trial balance: the same account twice", "conflict")
@check("us.books.suggested", "Trial balance: tax lines suggested by names", "unlikely")
@check("us.books.negative-asset", "Schedule L: an asset below zero", "unlikely", "Schedule L")
@check("us.books.result-carried", "Income statement account with a beginning balance", "conflict", "IRC 446(a)")
def books(run):
    paper = run.single("books")
    rows = paper.rows
    off = sum((row.debit - row.credit for row in rows), Decimal(0))
    if off:
        says = f"Debits exceed credits by {off:,.2f}." if off > 0 else f"Credits exceed debits by {-off:,.2f}."
        yield found(paper.address("rows"), f"{says} Correct an account, or enter what is missing.", code="us.books.unbalanced")
    before = sum((row.before for row in rows), Decimal(0))
    if before and any(row.before for row in rows):
        says = f"They come to {before:,.2f}. Debits are entered as they are, credits with a minus sign."
        yield found(paper.address("rows"), says, code="us.books.beginning-unbalanced")
    seen = set()
    for row in rows:
        if named(row.account) in seen:
            says = f"“{row.account}” is there twice; entries and next year know it by its name. Give one another name."
            yield found(row.address("account"), says, code="us.books.account-twice")
        seen.add(named(row.account))
        if row.tax_line in RESULT and row.before:
            says = f"“{row.account}” begins each year at zero. Remove its beginning balance, or choose another tax line."
            yield found(row.address("before"), says, code="us.books.result-carried")
    guessed = [row for row in rows if row.tax_line and not row.is_keyed("tax_line")]
    if guessed:
        says = f"Tax lines of {len(guessed)} account(s) are suggested by name, “{guessed[0].account}” among them. Confirm them."
        yield found(guessed[0].address("tax_line"), says, code="us.books.suggested")
    sheet = run.form("us.sch-l")
    for name in ("cash_ended", "receivables_ended", "inventory_ended", "buildings_ended", "land_ended"):
        if getattr(sheet, name) < 0:
            yield found(sheet.address(name), "An account or an entry is on the wrong side.", code="us.books.negative-asset")


@stops("us.entry.unbalanced", "Journal entry: debits and credits differ", "conflict", "IRC 446(a)")
@stops("us.entry.account", "Journal entry: account not in the trial balance", "conflict")
@check("us.entry.tax-on-balance", "Tax entry that moves no income or deduction", "unlikely")
def entries(run):
    known = ledger(run)
    for entry in run.papers("entry"):
        off = sum((line.debit - line.credit for line in entry.rows), Decimal(0))
        if off:
            says = f"It is off by {abs(off):,.2f}. An entry has as much on one side as on the other."
            yield found(entry.address("rows"), says, code="us.entry.unbalanced")
        for line in entry.rows:
            if line.account and named(line.account) not in known:
                says = f"“{line.account}” is no account of the trial balance. Correct the name, or add the account."
                yield found(line.address("account"), says, code="us.entry.account")
        accounts = [known[named(line.account)] for line in entry.rows if named(line.account) in known]
        if entry.entry_kind == "tax" and accounts and not any(one.row.tax_line in RESULT for one in accounts):
            says = f"A {ENTRIES['tax'].lower()} entry changes the return alone. Did you mean an adjusting one?"
            yield found(entry.address("entry_kind"), says, code="us.entry.tax-on-balance")


def total_of(*amounts):
    return sum(amounts, Decimal(0))


@check("us.8825.differ", "Rents of properties differ from the books", "conflict", "Form 8825")
@check("us.8825.costs-differ", "Expenses of properties differ from the books", "conflict", "Form 8825")
@stops("us.8825.none", "Rents in the books and no property", "missing", "Form 8825")
def rents(run):
    booked, costs = credit_of(run, "rental_income"), debit_of(run, "rental_costs")
    if accounts_of(run, "rental_income", "rental_costs") and not run.papers("rental"):
        yield found("us.rental", "Add the property: rents are passed on apart from the business.", code="us.8825.none")
        return
    if run.is_idle("us.8825"):
        return
    form = run.form("us.8825")
    if abs(form.rents - booked) > _DOLLAR:
        says = f"Properties have {form.rents:,.0f}, the accounts {booked:,.0f}. Correct one."
        yield found(form.address("rents"), says, code="us.8825.differ")
    own = total_of(*(one.expenses - one.depreciation for one in run.every("us.8825-property")))
    if abs(own - costs) > _DOLLAR:
        says = f"Without depreciation properties have {own:,.0f}, the accounts {costs:,.0f}. Correct one."
        yield found(form.address("expenses"), says, code="us.8825.costs-differ")


@stops("us.asset.entity-fallen", "Business use of a vehicle that fell", "unsupported", "IRC 280F(b)(2)")
@check("us.asset.entity-books", "Depreciation of the books without a register", "missing", "IRC 167, 168")
def assets(run):
    for one in run.papers("asset"):
        if one.has_fallen and one.fell_in == run.year:
            says = "What is added back is not worked out for an entity yet. This return cannot be e-filed from here."
            yield found(one.address("fell_in"), says, code="us.asset.entity-fallen")
    page = run.form(run.pack.authorities[0].form.code())
    if page.depreciation and not run.papers("asset"):
        says = "It is deducted as booked. Enter the assets: the law's depreciation is another one."
        yield found(page.address("depreciation"), says, code="us.asset.entity-books")


def cannot_file(about, rows):
    """Answers that stop filing; `rows` are (field, whether it holds, code, what is not made)."""
    for name, holds, code, says in rows:
        if holds:
            yield found(about.address(name), f"{says} This return cannot be e-filed from here.", code=code)


@stops("us.entity.fiscal-year", "Fiscal year", "unsupported", "IRC 441(b), (e)")
def fiscal(run):
    """Books, law, depreciation, due dates and owners' years all go by the calendar year here."""
    about = run.single("about")
    if about.fiscal:
        says = "Only calendar years are made here, with their due dates and owners' years. It cannot be e-filed from here."
        yield found(about.address("fiscal"), says, code="us.entity.fiscal-year")


def not_final(run, name, code):
    """Of a year whose forms are not final."""
    if run.laws["us"].year.planning:
        says = f"The forms of {run.year} are not final. The figures are for planning and cannot be filed."
        yield found(run.single("about").address(name), says, code=code)


def state_returns(run, without, called, code):
    """Returns that states want and that are not made here: of the entity's own and of those with receipts, but of `without`."""
    about, table = run.single("about"), run.single("receipts")
    made = {one.form.jurisdiction for one in run.pack.authorities if one.has_law(run)}
    wanted = {about.state: about.address("state")} if about.state else {}
    wanted = {row.state: row.address("state") for row in table.rows if row.state in STATES and row.amount} | wanted
    for state, at in wanted.items():
        if state not in without and f"us-{state.lower()}" not in made:
            says = f"The return of the {called} in {STATES[state]} is not made here yet."
            yield found(at, says, code=code)


CHECKS = (assets, books, entries, rents, shares, fiscal, *PLAUSIBLE, owners)
