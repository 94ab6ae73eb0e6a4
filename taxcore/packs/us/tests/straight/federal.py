"""The whole federal return in a straight line: facts in, {address of a line: amount} out."""

from decimal import Decimal

from taxcore.packs.us.tests.straight import credits, deductions, income, taxes

D = Decimal


def computed(facts):
    found = income.of(facts)
    taken = deductions.of(facts, found)
    tax = taxes.regular(facts, taken.taxable, found.gains)
    out_premium, back = credits.premium(facts, found)
    minimum = taxes.minimum_tax(facts, found, taken, tax + back)
    before = tax + minimum + back
    out_tuition, used = _credits(facts, found, before, tax + back)
    others = taxes.others(facts, found, taken)
    total = before - sum(used.values()) + sum(others.values())
    paid, excess = taxes.withheld(facts, others["medicare"])
    by_work = credits.earned(facts, found)
    whole, small = credits.families(facts, found)
    by_child = credits.child_paid_out(facts, found, whole - used["child"], small, by_work, excess)
    payments = paid + facts.estimates + excess + by_work + by_child + out_tuition + out_premium
    new = facts.year >= 2025
    return {
        "us.1040.1z": found.wages,
        "us.1040.6b": found.taxed_benefits,
        "us.1040.7a" if new else "us.1040.7": found.gains.counted,
        "us.1040.9": found.total,
        "us.1040.10": found.adjustments,
        "us.1040.11a" if new else "us.1040.11": found.agi,
        "us.1040.12e" if new else "us.1040.12": taken.taken,
        "us.1040.13a" if new else "us.1040.13": taken.business,
        **({"us.1040.13b": taken.new} if new else {}),
        "us.1040.15": taken.taxable,
        "us.1040.16": tax,
        "us.1040.17": minimum + back,
        "us.1040.19": used["child"],
        "us.1040.20": sum(used.values()) - used["child"],
        "us.1040.23": sum(others.values()),
        "us.1040.24": total,
        "us.1040.27a" if new else "us.1040.27": by_work,
        "us.1040.28": by_child,
        "us.1040.29": out_tuition,
        "us.1040.33": payments,
        "us.1040.34": max(payments - total, D(0)),
        "us.1040.37": max(total - payments, D(0)),
    }


def _credits(facts, found, before, without_minimum):
    """(education paid out, {credit: what of it is used}): each takes what the ones before it leave of the tax.

    Of the credit for children only the part that is never paid out comes before the one for clean energy. IRC 25D(c), 26(a)."""
    tuition, out = credits.education(facts, found)
    children, small = credits.families(facts, found)
    wanted = {
        "foreign": min(D(facts.foreign), without_minimum), "care": credits.care(facts, found), "tuition": tuition,
        "savers": credits.savers(facts, found), "improvements": credits.improvements(facts),
    }  # fmt: skip
    used, left = {}, before
    for name, amount in wanted.items():
        used[name] = min(amount, left)
        left -= used[name]
    kept = children - credits.child_paid_out(facts, found, children, small, D(0), D(0)) if facts.solar else children
    used["solar"] = min((D(facts.solar) * 30 / 100).quantize(D(1), "ROUND_HALF_UP"), max(left - kept, D(0)))
    used["child"] = min(children, left - used["solar"])
    return out, used
