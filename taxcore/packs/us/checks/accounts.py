"""Accounts that refunds go to: routing numbers, and how many may share a refund."""

from taxcore.engine import check, found, stops
from taxcore.packs.us.base import digits
from taxcore.packs.us.checks.identity import bank_number_ok


@stops("us.deposit.routing-wrong", "Invalid routing number", "format")
def bank_number(run):
    deposit = run.single("deposit")
    if deposit.routing and not bank_number_ok(deposit.routing, run.training):
        yield found(
            deposit.address("routing"),
            "The bank routing number's check digit is wrong. Copy it from a check or the bank's letter.",
        )


@stops("us.deposit.incomplete", "Direct deposit incomplete", "missing")
def deposit_incomplete(run):
    deposit = run.single("deposit")
    keyed = [name for name in ("routing", "account", "account_kind") if deposit.is_keyed(name)]
    if keyed and len(keyed) < 3:
        missing = next(name for name in ("routing", "account", "account_kind") if name not in keyed)
        yield found(
            deposit.address(missing),
            "Direct deposit requires routing number, account number and type of account. Complete it, or clear all "
            "three for a check.",
        )


@check("us.deposit.account-is-routing", "Account number same as routing number", "format")
@check("us.split-deposit.account-twice", "Form 8888: account entered twice", "conflict")
@stops("us.split-deposit.too-many", "Refund split over more than 3 accounts", "rule", "Form 8888")
@stops("us.split-deposit.routing-wrong", "Form 8888: invalid routing number", "format")
def accounts(run):
    deposit, split = run.single("deposit"), run.single("split-deposit")
    if deposit.routing and digits(deposit.account) == digits(deposit.routing):
        yield found(
            deposit.address("account"),
            "The account number is the routing number again. Copy it from a check or the bank's letter.",
            code="us.deposit.account-is-routing",
        )
    marks = [(row.routing, row.account) for row in split.rows if row.account]
    if len(marks) != len(set(marks)):
        yield found(
            split.address("rows"),
            "An account is entered twice. Combine both amounts.",
            code="us.split-deposit.account-twice",
        )
    if len(split.rows) > 3:
        yield found(
            split.address("rows"), "A refund can go to at most 3 accounts. Remove some.", code="us.split-deposit.too-many"
        )
    for row in split.rows:
        if row.routing and not bank_number_ok(row.routing, run.training):
            yield found(
                row.address("routing"),
                "The check digit of this routing number is wrong. Copy it from a check or the bank's letter.",
                code="us.split-deposit.routing-wrong",
            )


_OF_DEBIT = ("routing", "account", "account_kind", "debit_on")


@stops("us.debit.incomplete", "Direct debit incomplete", "missing")
@stops("us.debit.routing-wrong", "Direct debit: invalid routing number", "format")
@stops("us.debit.nothing-owed", "Direct debit without a balance due", "conflict")
@stops("us.debit.too-much", "Direct debit above the balance due", "conflict")
@check("us.debit.part", "Direct debit of a part", "conflict")
@check("us.debit.late", "Direct debit after the due date", "rule", "IRC 6151(a), 6601")
def debit(run):
    """What the bank is asked to debit: complete, no more than is owed, and in time."""
    paper = run.single("debit")
    if not paper.asked():
        return
    owed = run.pack.authority("us").settled_on(run).owed
    if missing := next((name for name in _OF_DEBIT if not paper.is_keyed(name)), None):
        says = (
            "Direct debit requires routing number, account number, type of account and a date. Complete it, or clear all of it."
        )
        yield found(paper.address(missing), says, code="us.debit.incomplete")
    if paper.routing and not bank_number_ok(paper.routing, run.training):
        says = "The check digit of this routing number is wrong. Copy it from a check or the bank's letter."
        yield found(paper.address("routing"), says, code="us.debit.routing-wrong")
    if owed <= 0:
        yield found(paper.address("debit_on"), "Nothing is owed. Clear the direct debit.", code="us.debit.nothing-owed")
    elif paper.paying > owed:
        says = f"{paper.paying:,} is to be debited and {owed:,} is owed. Enter at most that, or clear the amount."
        yield found(paper.address("paying"), says, code="us.debit.too-much")
    elif 0 < paper.paying < owed:
        says = f"Of {owed:,} owed, {paper.paying:,} is debited. The rest has to be paid otherwise by the due date."
        yield found(paper.address("paying"), says, code="us.debit.part")
    due = run.pack.authority("us").due_on(run.year, run.pack.home(run))
    if owed > 0 and paper.debit_on is not None and paper.debit_on > due:
        says = f"The date is after {due:%B} {due.day}, {due.year}: interest runs. A return sent by then takes no later date."
        yield found(paper.address("debit_on"), says, code="us.debit.late")


CHECKS = (
    debit,
    bank_number,
    deposit_incomplete,
    accounts,
)
