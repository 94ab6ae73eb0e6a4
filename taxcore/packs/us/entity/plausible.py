"""Diagnostics of entities' returns: accounts and answers that contradict each other, or seldom are what they look like."""

from datetime import date
from decimal import Decimal

from taxcore.engine import check, found, stops
from taxcore.packs.us.entity.base import ZERO, digits
from taxcore.packs.us.entity.books import accounts_of, before_of, credit_of, debit_of

_PAYMENT, _FEW = Decimal(600), Decimal(1_000)
_MEALS, _TENTH, _REPAIR, _LENT = Decimal("0.05"), Decimal("0.10"), Decimal(10_000), Decimal(10_000)
_OWED = ("payables", "short_notes", "other_current_owed", "nonrecourse", "loans_from_owners", "long_notes", "other_owed")
_DEBT = ("short_notes", "long_notes", "nonrecourse", "loans_from_owners", "other_owed")
_HELD = ("receivables", "inventory", "other_current", "buildings", "land", "intangible", "investments", "other_assets")
# Contra account, what it is taken off, code
_CONTRAS = (
    ("accumulated", "buildings", "us.books.accumulated-above"),
    ("amortized", "intangible", "us.books.amortized-above"),
    ("depleted", "depletable", "us.books.depleted-above"),
    ("allowance", "receivables", "us.books.allowance-above"),
)


def _at(run, key):
    """Where an account of a tax line stands."""
    return accounts_of(run, key)[0].row.address("account")


def _page(run):
    return run.form(run.pack.authorities[0].form.code())


@check("us.books.accumulated-above", "Accumulated depreciation above cost", "conflict", "Schedule L")
@check("us.books.amortized-above", "Accumulated amortization above cost", "conflict", "Schedule L")
@check("us.books.depleted-above", "Accumulated depletion above cost", "conflict", "Schedule L")
@check("us.books.allowance-above", "Allowance for bad debts above receivables", "conflict", "Schedule L")
@check("us.books.negative-debt", "Schedule L: a liability below zero", "unlikely", "Schedule L")
@check("us.books.no-cash", "Books without cash", "unlikely", "Schedule L")
def sheet(run):
    for contra, asset, code in _CONTRAS:
        taken, cost = credit_of(run, contra, tax=False), debit_of(run, asset, tax=False)
        if taken > max(cost, ZERO):
            says = f"{taken:,.0f} is taken off {cost:,.0f}. An account is missing or on another tax line."
            yield found(_at(run, contra), says, code=code)
    for key in _OWED:
        if credit_of(run, key, tax=False) < 0:
            yield found(
                _at(run, key),
                "It is on the debit side: an overpayment, or an entry the wrong way.",
                code="us.books.negative-debt",
            )
    rows = run.single("books").rows
    if rows and not accounts_of(run, "cash"):
        says = "No account is cash. Choose the tax line of the bank accounts."
        yield found(run.single("books").address("rows"), says, code="us.books.no-cash")


@check("us.books.beginning-missing", "No beginning balances, and not the initial return", "missing", "Schedule L")
@check("us.books.beginning-initial", "Initial return with beginning balances", "conflict", "Schedule L")
@check("us.books.final-assets", "Final return with assets left", "conflict", "IRC 331, 336, 731")
@check("us.about.started-later", "It began after the year", "conflict")
@stops("us.about.short-first-year", "Depreciation in a short first year", "unsupported", "Rev. Proc. 89-15")
@check("us.about.initial-later", "Initial return of a later year than its first", "unlikely")
def begins_and_ends(run):
    about, books, year = run.single("about"), run.single("books"), run.year
    began = about.started if "started" in about.fields() else about.incorporated
    before = [row for row in books.rows if row.before]
    if books.rows and not before and not about.initial:
        says = "Enter beginning balances, or answer that this is its initial return."
        yield found(books.address("rows"), says, code="us.books.beginning-missing")
    if before and about.initial:
        says = f"“{before[0].account}” had a balance before it began."
        yield found(before[0].address("before"), says, code="us.books.beginning-initial")
    left = [key for key in _HELD if debit_of(run, key, tax=False) > 0] if about.final else []
    if left:
        says = "Whatever was left went to owners or was sold. Close the accounts, or the return is not the final one."
        yield found(_at(run, left[0]), says, code="us.books.final-assets")
    at = about.address("started" if "started" in about.fields() else "incorporated")
    if began and began.year > year:
        yield found(at, f"Its first year is {began.year}. Correct the date, or the year.", code="us.about.started-later")
    elif began and began.year < year and about.initial:
        says = f"It began in {began.year}. Did it have nothing to file until now?"
        yield found((about.address("initial"), at), says, code="us.about.initial-later")
    elif began and about.initial and began.month > 1 and _depreciates(run):
        says = "Its first tax year is short, which reduces MACRS depreciation. That is not worked out here: it cannot be e-filed."
        yield found(at, says, code="us.about.short-first-year")


@check("us.about.ended-other", "Final return that ended in another year", "conflict", "IRC 443(a)(2)")
@check("us.about.ended-early", "Final return that is due earlier", "missing", "IRC 6072; 26 CFR 1.6072-2(a)(2)")
@stops("us.about.short-last-year", "Depreciation in a short last year", "unsupported", "Rev. Proc. 89-15")
def ended(run):
    about = run.single("about")
    if not about.final or not about.ended:
        return
    day, at = about.ended, about.address("ended")
    if day.year != run.year:
        yield found(at, f"This return is of {run.year}. Correct the day, or the year.", code="us.about.ended-other")
    elif (day.month, day.day) != (12, 31):
        months = day.month + run.pack.authorities[0].due[0] - 1
        due = date(day.year + months // 12, months % 12 + 1, 15)
        says = f"It is due on {due:%B %-d, %Y}, not on the day that is shown for a calendar year. File it by then."
        yield found(at, says, code="us.about.ended-early")
        if _depreciates(run):
            says = "A short tax year reduces MACRS depreciation. That is not worked out here: it cannot be e-filed."
            yield found(at, says, code="us.about.short-last-year")


def _depreciates(run):
    """Whether a table's rate counts this year; what is amortized goes by months."""
    return any(one.of_year and one.asset.sort not in ("intangible", "start-up") for one in run.every("us.depreciation"))


@check("us.books.no-receipts", "Expenses and no receipts", "unlikely", "IRC 162(a), 195")
@check("us.books.inventory-no-cost", "Inventory and no cost of goods sold", "conflict", "IRC 471")
@check("us.books.depreciation-no-asset", "Depreciation and nothing depreciable", "conflict", "IRC 167")
@check("us.books.amortization-no-asset", "Amortization and nothing intangible", "conflict", "IRC 197")
@check("us.books.interest-no-debt", "Interest expense and no debt", "unlikely", "IRC 163")
@check("us.books.wages-no-tax", "Wages and no payroll tax", "unlikely", "IRC 3111")
@check("us.books.meals-large", "Meals above a twentieth of receipts", "unlikely", "IRC 274(k)")
@check("us.books.repairs-large", "Repairs that may be improvements", "unlikely", "26 CFR 1.263(a)-3")
@check("us.books.cash-method", "Cash method with receivables or payables", "conflict", "26 CFR 1.446-1(c)(1)(i)")
def statement(run):
    page, about = _page(run), run.single("about")
    costs = debit_of(run, "salaries", "officers", "rent", "repairs", "other_deductions", "interest", "advertising")
    receipts = page.receipts
    if costs > _FEW and not receipts and not accounts_of(run, "rental_income"):
        says = "Before a business begins its costs are start-up costs. Otherwise an account of receipts is missing."
        yield found(page.address("receipts"), says, code="us.books.no-receipts")
    if accounts_of(run, "inventory") and not accounts_of(run, "cogs", "purchases", "labor", "other_costs"):
        yield found(_at(run, "inventory"), "What was sold had a cost. Choose its tax line.", code="us.books.inventory-no-cost")
    pairs = (
        ("depreciation", ("buildings", "depletable"), "us.books.depreciation-no-asset"),
        ("amortization", ("intangible",), "us.books.amortization-no-asset"),
    )
    for cost, assets, code in pairs:
        if accounts_of(run, cost) and debit_of(run, cost) and not accounts_of(run, *assets):
            yield found(_at(run, cost), "The account of what is written off is missing.", code=code)
    if debit_of(run, "interest") > 0 and not any(credit_of(run, key) or before_of(run, key) for key in _DEBT):
        says = "No loan stands on the balance sheet at either end of the year."
        yield found(_at(run, "interest"), says, code="us.books.interest-no-debt")
    if debit_of(run, "salaries", "officers") > _FEW and not debit_of(run, "taxes"):
        says = "The employer's half of payroll tax is usually among the taxes."
        yield found(_at(run, "salaries" if accounts_of(run, "salaries") else "officers"), says, code="us.books.wages-no-tax")
    meals, repairs = debit_of(run, "meals"), debit_of(run, "repairs")
    if receipts > 0 and meals > receipts * _MEALS:
        yield found(_at(run, "meals"), "Half of it is deducted. Is entertainment in it?", code="us.books.meals-large")
    if receipts > 0 and repairs > max(receipts * _TENTH, _REPAIR):
        yield found(
            _at(run, "repairs"), f"{repairs:,.0f}: what makes a thing better or lasts is capital.", code="us.books.repairs-large"
        )
    for key in ("receivables", "payables") if about.method == "cash" else ():
        if accounts_of(run, key) and debit_of(run, key, tax=False):
            says = (
                "On the cash method nothing is income or cost before it is paid. Is the return on another method than the books?"
            )
            yield found(_at(run, key), says, code="us.books.cash-method")
            break


@check("us.books.lent-no-interest", "Loans to owners without interest", "unlikely", "IRC 7872(c)(1)")
@check("us.books.borrowed-no-interest", "Loans from owners without interest", "unlikely", "IRC 7872, 385")
@check("us.books.own-income-tax", "Income tax of an entity whose owners pay it", "unlikely", "IRC 701, 1363(a)")
@check("us.books.gain-no-sale", "Gain on assets and nothing sold in the register", "missing", "IRC 1001, 1231")
@check("us.books.sale-no-gain", "A thing sold and no gain or loss in the books", "conflict", "IRC 1001")
@check("us.books.register-differs", "The register's cost differs from the books", "unlikely", "Schedule L")
def between(run):
    if debit_of(run, "loans_to_owners", tax=False) > _LENT and not credit_of(run, "interest_income"):
        says = "Interest below the federal rate is added by the law. Charge it, or treat the amount as a distribution or pay."
        yield found(_at(run, "loans_to_owners"), says, code="us.books.lent-no-interest")
    if credit_of(run, "loans_from_owners", tax=False) > _LENT and not debit_of(run, "interest", "investment_interest"):
        says = "A loan has terms and interest; otherwise it is capital."
        yield found(_at(run, "loans_from_owners"), says, code="us.books.borrowed-no-interest")
    if run.pack.issues is not None and debit_of(run, "income_tax", tax=False):
        says = "Tax that it paid for owners is a distribution to them; a state's tax on the entity itself is a tax."
        yield found(_at(run, "income_tax"), says, code="us.books.own-income-tax")
    assets = run.papers("asset")
    sold = [one for one in assets if one.sold and one.sold.year == run.year]
    booked = accounts_of(run, "asset_gain")
    if booked and not sold and debit_of(run, "asset_gain"):
        says = "Enter the sale in the register: what was written off decides what kind of gain it is."
        yield found(_at(run, "asset_gain"), says, code="us.books.gain-no-sale")
    if sold and not booked and accounts_of(run, "sales"):
        says = f"{sold[0].description} was sold. Its cost and what was written off leave the books with a gain or a loss."
        yield found(sold[0].address("sold"), says, code="us.books.sale-no-gain")
    cost = sum(
        (one.cost - one.land for one in assets if one.used_in == "business" and not (one.sold and one.sold.year <= run.year)),
        ZERO,
    )
    stands = debit_of(run, "buildings", "intangible", tax=False)
    if cost and stands and abs(cost - stands) > stands * _TENTH and not run.papers("rental"):
        says = f"The register has {cost:,.0f}, the balance sheet {stands:,.0f}. Is a thing missing on one of them?"
        yield found(
            _at(run, "buildings") if accounts_of(run, "buildings") else "us.books", says, code="us.books.register-differs"
        )


@check("us.entry.other-year", "Journal entry of another year", "unlikely")
@check("us.entry.empty", "Journal entry without lines", "missing")
def entries(run):
    for entry in run.papers("entry"):
        if entry.made_on and entry.made_on.year not in (run.year, run.year + 1):
            yield found(entry.address("made_on"), f"This return is of {run.year}.", code="us.entry.other-year")
        if not entry.rows:
            yield found(entry.address("rows"), "Enter its lines, or remove it.", code="us.entry.empty")


@check("us.about.no-1099", "Rent or outside work, and no payments that need Form 1099", "unlikely", "IRC 6041, 6041A")
@check("us.about.unfiled-1099", "Forms 1099 that were not filed", "lost", "IRC 6721, 6722")
@check("us.about.foreign-account", "Foreign account: its own report", "missing", "31 CFR 1010.350")
@stops("us.about.interest-limit", "Limit of business interest", "unsupported", "IRC 163(j)")
@stops("us.about.m-3", "Schedule M-3", "unsupported", "26 CFR 1.6012-2; Schedule M-3")
@check("us.about.cash-too-large", "Cash method of a large entity", "conflict", "IRC 448(a), (c)")
def answers(run):
    about, page, law = run.single("about"), _page(run), run.laws["us"].large_entity
    if about.payments_1099 is False and debit_of(run, "rent", "other_deductions") >= _PAYMENT * 10:
        says = "Rent to people and services of the self-employed from 600 (2026: 2,000) are told to the IRS."
        yield found(about.address("payments_1099"), says, code="us.about.no-1099")
    if about.payments_1099 and about.filed_1099 is False:
        yield found(about.address("filed_1099"), "File them now: each costs more with time.", code="us.about.unfiled-1099")
    if "foreign_account" in about.fields() and about.foreign_account:
        says = "FinCEN Form 114 goes apart, by April 15 or October 15. It is not made here."
        yield found(about.address("foreign_account"), says, code="us.about.foreign-account")
    large = page.net_receipts > law.receipts and not run.single("business").small  # the law asks for the average of three years
    if large and debit_of(run, "interest", "rental_costs") > 0:
        says = (
            f"Above {law.receipts:,.0f} of average receipts interest is limited, which is not made here: it cannot be e-filed "
            "from here. If the average is within it, say so under Business."
        )
        yield found(page.address("interest"), says, code="us.about.interest-limit")
    held = run.form("us.sch-l").assets_ended
    if held >= law.assets_of_m3:
        says = f"Total assets are {held:,.0f}. Schedule M-3 is not made here. This return cannot be e-filed from here."
        yield found(run.form("us.sch-l").address("assets_ended"), says, code="us.about.m-3")
    incorporated = run.pack.code == "us-1120" or any(one.sort == "corporation" for one in run.papers("partner"))
    if about.method == "cash" and large and incorporated:
        says = f"Above {law.receipts:,.0f} of average receipts a corporation, or a partnership with one, uses another method."
        yield found(about.address("method"), says, code="us.about.cash-too-large")


@check("us.k.qualified-above", "Qualified dividends above all dividends", "conflict", "IRC 1(h)(11)")
@check("us.k.collectibles-above", "Collectibles gain above the long-term gain", "conflict", "IRC 1(h)(5)")
@check("us.owner.is-entity", "An owner with the entity's own number", "conflict")
@check("us.owner.number-shape", "An owner's number is that of another kind", "conflict", "IRC 6109")
def owners(run):
    """Of entities that pass their income on."""
    schedule, more = run.form("us.sch-k"), run.single("more-items")
    if more.qualified_dividends > max(schedule.dividends, ZERO):
        says = f"All dividends are {schedule.dividends:,.0f}."
        yield found(more.address("qualified_dividends"), says, code="us.k.qualified-above")
    if more.collectibles > max(schedule.long_gain, ZERO):
        says = f"All long-term gain is {schedule.long_gain:,.0f}."
        yield found(more.address("collectibles"), says, code="us.k.collectibles-above")
    filer = next(iter(run.people()), None)
    for owner in (*run.papers("partner"), *run.papers("shareholder")):
        number = str(owner.number or "")
        if filer is not None and number and digits(number) == digits(filer.number):
            yield found(owner.address("number"), "It cannot own itself. Correct the number.", code="us.owner.is-entity")
        if "-" in number and owner.sort and (number[2] == "-") == (owner.sort in ("individual", "ira")) and owner.sort != "ira":
            wanted = "A person has 000-00-0000" if owner.sort == "individual" else "An entity has 00-0000000"
            yield found(owner.address("number"), f"{wanted}. Correct the number or what it is.", code="us.owner.number-shape")


CHECKS = (sheet, begins_and_ends, ended, statement, between, entries, answers)
