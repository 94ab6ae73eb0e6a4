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


CHECKS = (
    bank_number,
    deposit_incomplete,
    accounts,
)
