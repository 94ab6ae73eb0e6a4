"""A child with income of its own, a second time: the dependent's standard deduction and the tax of Form 8615. IRC 63(c)(5), 1(g)."""

from dataclasses import dataclass
from datetime import date
from decimal import ROUND_HALF_UP, Decimal

from taxcore.packs.us.tests import returns
from taxcore.packs.us.tests.diagnosed.making import paper, rows
from taxcore.packs.us.tests.straight import amounts as law
from taxcore.packs.us.tests.straight.facts import YEARS, Job, Someone, Trade
from taxcore.packs.us.tests.straight.income import own_business
from taxcore.packs.us.tests.straight_line import BASIC, dollars, schedule, tax_on

D = Decimal
# Revenue procedures of each year: the least standard deduction, and what is added to earned income
LEAST = {2022: (1_150, 400), 2023: (1_250, 400), 2024: (1_300, 450), 2025: (1_350, 450), 2026: (1_350, 450)}


@dataclass
class Child:
    year: int
    age: int
    student: bool
    supports_itself: bool
    wages: int
    receipts: int
    interest: int
    early_withdrawal: int
    dividends: int
    qualified: int
    gain: int
    parents_status: str
    parents_income: int
    parents_preferred: int
    others: int


def draw(chance):
    dividends = chance.choice((0, chance.randint(1, 30_000)))
    parents = chance.randint(0, 900_000)
    return Child(
        chance.choice(YEARS), chance.choice((12, 16, 17, 18, 20, 23, 24)), chance.random() < 0.7, chance.random() < 0.3,
        chance.choice((0, chance.randint(1, 25_000))), chance.choice((0, 0, chance.randint(1, 20_000))),
        chance.randint(0, 9_000), chance.choice((0, 0, chance.randint(1, 900))), dividends, chance.randint(0, dividends),
        chance.choice((0, chance.randint(1, 90_000))), chance.choice(("single", "joint", "head_of_household", "separate")),
        parents, chance.randint(0, parents), chance.choice((0, 0, chance.randint(1, 20_000))),
    )  # fmt: skip


def papers(of):
    """The return of the child alone, with the parent's amounts."""
    yes = {True: "yes", False: "no"}
    yield returns.person(born=date(of.year - of.age, 4, 1).isoformat(), blind="no", student=yes[of.student], claimed_by_other="yes",
                         **({"earns_own_support": yes[of.supports_itself]} if of.age >= 18 else {}))  # fmt: skip
    yield returns.filing("single", residence="TX", state="TX")
    if of.wages:
        yield returns.w2(of.wages, state="TX", states=rows())
    if of.receipts:
        yield paper("business", "business", activity="Net mending", code="811490", participates="yes", service_trade="no",
                    owner="taxpayer", receipts=str(of.receipts))  # fmt: skip
    yield paper("1099-int", "interest", payer="River Bank", owner="taxpayer", interest=str(of.interest),
                early_withdrawal=str(of.early_withdrawal))  # fmt: skip
    yield paper(
        "1099-div", "dividends", payer="Heron Fund", owner="taxpayer", dividends=str(of.dividends), qualified=str(of.qualified)
    )
    if of.gain:
        sold = {"box": "D", "proceeds": str(of.gain + 500), "basis": "500"}
        yield paper("1099-b", "sold", payer="Sandbar Brokers", summaries=rows(sold), owner="taxpayer")
    yield paper("parent", "parent", parent_name="Edda Quist", parent_number="916-20-1111", status=of.parents_status,
                taxable_income=str(of.parents_income), preferred=str(of.parents_preferred), others_unearned=str(of.others))  # fmt: skip


def by_rates(year, status, income, preferred):
    """Tax with qualified dividends and net capital gain at 0, 15 and 20 percent, or by the table if that is less. IRC 1(h)."""
    kind = law.KIND[status]
    fifteen = law.GAIN_FIFTEEN_SEPARATE[year] if status == "separate" else law.GAIN_FIFTEEN[year][kind]
    special = min(preferred, income)
    ordinary = income - special
    free = min(max(min(income, D(law.GAIN_ZERO[year][kind])) - ordinary, D(0)), special)
    middle = min(max(min(income, D(fifteen)) - ordinary - free, D(0)), special - free)
    bands = schedule(year, status)
    layered = tax_on(ordinary, bands) + dollars(middle * 15 / 100) + dollars((special - free - middle) * 20 / 100)
    return min(layered, tax_on(income, bands))


def computed(of):
    """{address: amount}."""
    least, added = LEAST[of.year]
    own = own_business(of.year, Someone("taxpayer", date(2000, 1, 1), jobs=[Job(of.wages, 0)], trade=Trade(of.receipts, 0)))
    total = D(of.wages + of.interest + of.dividends + of.gain) + own.profit
    agi = total - own.half - of.early_withdrawal
    earned = of.wages + own.profit - own.half
    standard = min(D(BASIC[of.year]["single"]), max(D(least), earned + added))
    before = max(agi - standard, D(0))
    preferred = D(of.qualified + of.gain)
    business = min(dollars((own.profit - own.half) / 5), dollars(max(before - preferred, D(0)) / 5)) if own.profit > 0 else D(0)
    if of.year >= 2026 and own.profit - own.half >= 1_000:
        business = min(max(business, D(400)), before)
    taxable = before - business
    return {
        "us.1040.12e" if of.year >= 2025 else "us.1040.12": standard,
        "us.1040.15": taxable,
        "us.1040.16": _tax(of, total - of.wages - own.profit - of.early_withdrawal, taxable, preferred),
    }


def _tax(of, unearned, taxable, preferred):
    own = by_rates(of.year, "single", taxable, preferred)
    free = 2 * LEAST[of.year][0]
    young = of.age < 18 or (not of.supports_itself and (of.age == 18 or (of.student and of.age < 24)))
    if not young or unearned <= free:
        return own
    net = min(unearned - free, taxable)
    in_net = min(dollars(preferred * net / unearned), net)
    parents = D(of.parents_income), D(of.parents_preferred)
    together = by_rates(of.year, of.parents_status, net + parents[0] + of.others, parents[1] + in_net)
    more = max(together - by_rates(of.year, of.parents_status, *parents), D(0))
    part = (net / (net + of.others)).quantize(D("0.001"), ROUND_HALF_UP) if of.others else D(1)
    return max(own, dollars(more * part) + by_rates(of.year, "single", taxable - net, preferred - in_net))
