"""The whole federal return in a straight line: facts in, {address of a line: amount} out."""

from decimal import Decimal
from types import SimpleNamespace

from taxcore.packs.us.tests.straight import credits, deductions, income, taxes, underpayment

D = Decimal


def whole(facts):
    """Everything that a state's return may start from."""
    found = income.of(facts)
    taken = deductions.of(facts, found)
    tax = taxes.regular(facts, taken.taxable, found.gains)
    out_premium, back = credits.premium(facts, found)
    minimum = taxes.minimum_tax(facts, found, taken, tax + back)
    before = tax + minimum + back
    out_tuition, used = _credits(facts, found, before, credits.foreign(facts, found, taken, tax + back))
    others = taxes.others(facts, found, taken)
    paid, excess = taxes.withheld(facts, others["medicare"])
    by_work = credits.earned(facts, found)
    children, small = credits.families(facts, found)
    by_child = credits.child_paid_out(facts, found, children - used["child"], small, by_work, excess)
    return SimpleNamespace(
        income=found, agi=found.agi, taken=taken, tax=tax, added=minimum + back, used=used, others=sum(others.values()),
        withheld=paid + excess, out_premium=out_premium, excise=others["excess"],
        total=before - sum(used.values()) + sum(others.values()), by_work=by_work, by_child=by_child, out_tuition=out_tuition,
        payments=paid + sum(amount for _, amount in facts.paid) + excess + by_work + by_child + out_tuition + out_premium,
    )  # fmt: skip


def computed(facts):
    """{address: amount}."""
    of, new = whole(facts), facts.year >= 2025
    late = underpayment.penalty(facts, of)
    return {
        "us.1040.1z": of.income.wages,
        "us.1040.6b": of.income.taxed_benefits,
        "us.1040.7a" if new else "us.1040.7": of.income.gains.counted,
        "us.1040.9": of.income.total,
        "us.1040.10": of.income.adjustments,
        "us.1040.11a" if new else "us.1040.11": of.agi,
        "us.1040.12e" if new else "us.1040.12": of.taken.taken,
        "us.1040.13a" if new else "us.1040.13": of.taken.business,
        **({"us.1040.13b": of.taken.new} if new else {}),
        "us.1040.15": of.taken.taxable,
        "us.1040.16": of.tax,
        "us.1040.17": of.added,
        "us.1040.19": of.used["child"],
        "us.1040.20": sum(of.used.values()) - of.used["child"],
        "us.1040.23": of.others,
        "us.1040.24": of.total,
        "us.1040.27a" if new else "us.1040.27": of.by_work,
        "us.1040.28": of.by_child,
        "us.1040.29": of.out_tuition,
        "us.1040.33": of.payments,
        "us.1040.34": max(of.payments - of.total, D(0)),
        "us.1040.37": max(of.total + late - of.payments, D(0)),
        "us.1040.38": late,
    }


def _credits(facts, found, before, foreign):
    """(education paid out, {credit: what of it is used}): each takes what the ones before it leave of the tax.

    Of the credit for children only the part that is never paid out comes before the one for clean energy. IRC 25D(c), 26(a)."""
    tuition, out = credits.education(facts, found)
    children, small = credits.families(facts, found)
    wanted = {
        "foreign": foreign, "care": credits.care(facts, found), "elderly": credits.elderly(facts, found),
        "tuition": tuition,
        "savers": credits.savers(facts, found), "improvements": credits.improvements(facts),
    }  # fmt: skip
    used, left = {}, before
    for name, amount in wanted.items():
        used[name] = min(amount, left)
        left -= used[name]
    kept = (
        children - credits.child_paid_out(facts, found, children, small, D(0), D(0)) if facts.solar or facts.battery else children
    )
    clean = facts.solar + (facts.battery if facts.year >= 2023 else 0)
    used["solar"] = min((D(clean) * 30 / 100).quantize(D(1), "ROUND_HALF_UP"), max(left - kept, D(0)))
    used["child"] = min(children, left - used["solar"])
    return out, used
