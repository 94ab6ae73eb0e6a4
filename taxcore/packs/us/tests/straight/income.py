"""From the papers' amounts to adjusted gross income: IRC 61 to 86, 162, 1211, 1401, 62, 219, 221, 223."""

from decimal import ROUND_CEILING, ROUND_HALF_UP, Decimal
from types import SimpleNamespace

from taxcore.packs.us.tests.straight import amounts as law
from taxcore.packs.us.tests.straight.papers import HOME, VALUE
from taxcore.packs.us.tests.straight_line import BASE, dollars

D = Decimal


def net_profit(year, trade):
    """Schedule C: meals by half, the car by the mile, the home by the square foot or its costs and never into a loss."""
    car = dollars(trade.miles * D(law.MILE.get(year, 0)))
    before = trade.receipts - trade.supplies - dollars(D(trade.meals) / 2) - car - written_off(trade)[0]
    return before - min(_home(trade), max(before, D(0)))


def written_off(trade):
    """(by the published table of seven years, for the minimum tax by 150% declining balance). IRC 168(b), 56(a)(1)."""
    if not trade or not trade.machine:
        return D(0), D(0)
    cost, age = trade.machine
    slower = [D(150) / 7 / 2, (100 - D(150) / 14) * D("1.5") / 7]
    slower.append((100 - sum(slower)) * D("1.5") / 7)
    return dollars(cost * D(("14.29", "24.49", "17.49")[age]) / 100), dollars(cost * slower[age] / 100)


def letting(facts, without):
    """What one let house adds to income, and what of its loss waits. IRC 469(i): 25,000, half of what income is below 150,000."""
    net = D(facts.rents - facts.rent_costs)
    loss = max(facts.rents_waiting - net, D(0))
    if not loss:
        return net - facts.rents_waiting, D(0)
    most, ends = D(25_000), D(150_000)
    room = D(0) if facts.status == "separate" else min(max(ends - without, D(0)) / 2, most)
    allowed = min(loss, dollars(room))
    return -allowed, loss - allowed


def _home(trade):
    """Form 8829 with no depreciation: direct costs, the area's part of the others to six places, and what was left of last year's."""
    if not trade.office:
        return D(min(trade.area, 300) * 5)
    part = (D(trade.area) / HOME).quantize(D("0.000001"), ROUND_HALF_UP)
    alone = {"direct", "carried"}
    shared = sum(amount for name, amount in trade.office.items() if name not in alone)
    return sum(D(trade.office.get(name, 0)) for name in alone) + dollars(shared * part)


def ira_income(one):
    """(taxable of what was drawn, taxable of what was converted): the rest is basis, in proportion. IRC 72(e)(8), 408(d)(2)."""
    together = VALUE + one.early + one.converted
    part = min((D(one.basis) / together).quantize(D("0.00001"), ROUND_HALF_UP), D(1))
    return one.early - dollars(one.early * part), one.converted - dollars(one.converted * part)


def own_business(year, one):
    """Profit, tax on self-employment and its half, SEP and health insurance of one person. IRC 1402, 404(a)(8), 162(l)."""
    profit = net_profit(year, one.trade) if one.trade else D(0)
    base = dollars(profit * D("0.9235")) if profit > 0 else D(0)
    base = base if base >= 400 else D(0)
    pay = sum(min(job.insured, BASE[year]) for job in one.jobs)
    security = dollars(min(base, max(D(BASE[year]) - pay, D(0))) * D("0.124"))
    tax = security + dollars(base * D("0.029"))
    half = dollars(tax / 2)
    trade = one.trade or SimpleNamespace(plan=0, insurance=0)
    plan = min(D(trade.plan), max(dollars((profit - half) / 5), D(0)))
    health = min(D(trade.insurance), max(profit - half - plan, D(0)))
    return SimpleNamespace(
        profit=profit, base=base, tax=tax, half=half, plan=plan, health=health, unused=trade.insurance - health
    )


def care_benefits(facts, businesses):
    """(excluded, taxed) of box 10. IRC 129."""
    given = D(sum(job.care for job in facts.jobs))
    spent = sum(child.care for child in facts.children)
    earned = [max(e, D(0)) for e in earned_by_person(facts, businesses)]
    most = D(5_000 if facts.year < 2026 else 7_500) / (2 if facts.status == "separate" else 1)
    excluded = min(given, D(spent), most, *earned)
    return excluded, given - excluded


def earned_by_person(facts, businesses):
    return [sum(job.wages for job in one.jobs) + own.profit - own.half for one, own in zip(facts.people, businesses, strict=True)]


def capital_gains(facts):
    """Schedule D: what enters income, the net capital gain, and its parts taxed at 25 and 28 percent. IRC 1(h), 1211, 1222."""
    short = D(facts.short - facts.carried_short)
    long = D(facts.long + facts.distributions - facts.carried_long)
    total = short + long
    counted = max(total, D(-1_500 if facts.status == "separate" else -3_000))
    net = min(long, total) if long > 0 and total > 0 else D(0)
    collected = facts.collectibles + min(short, D(0)) - facts.carried_long
    at_28 = max(D(collected), D(0)) if net else D(0)
    at_25 = max(facts.unrecaptured - max(-D(collected), D(0)), D(0)) if net else D(0)
    return SimpleNamespace(counted=counted, net=net, at_28=at_28, at_25=at_25)


def taxable_benefits(status, benefits, other):
    """IRC 86. `other` is all other income with exempt interest, less the adjustments."""
    half = dollars(benefits / 2)
    if benefits <= 0 or half + other <= 0:
        return D(0)
    if status == "separate":
        return min(dollars((half + other) * 85 / 100), dollars(benefits * 85 / 100))
    first, width = (32_000, 12_000) if status == "joint" else (25_000, 9_000)
    above = half + other - first
    if above <= 0:
        return D(0)
    lower = min(dollars(min(above, D(width)) / 2), half)
    return min(lower + dollars(max(above - width, D(0)) * 85 / 100), dollars(benefits * 85 / 100))


def health_savings(year, one):
    """(deducted, excess). IRC 223(b)."""
    most = law.HEALTH_SAVINGS[year][one.family_cover] + (1_000 if one.aged(year, 55) else 0)
    room = max(most - sum(job.health for job in one.jobs), 0)
    return D(min(one.health, room)), D(max(one.health - room, 0))


def _most_ira(year, one):
    return law.IRA[year] + (law.IRA_CATCH_UP[year] if one.aged(year, 50) else 0)


def ira_room(facts, businesses):
    """What each person may pay into IRAs: the year's amount, and no more than the compensation. IRC 219(b), (c)."""
    most = [_most_ira(facts.year, one) for one in facts.people]
    pay = [
        sum(job.wages for job in one.jobs) + max(own.profit - own.half - own.plan, D(0)) if own.profit > 0 else D(sum(job.wages for job in one.jobs))
        for one, own in zip(facts.people, businesses, strict=True)
    ]  # fmt: skip
    room = [min(D(m), p) for m, p in zip(most, pay, strict=True)]
    if facts.joint:
        less, more = (0, 1) if pay[0] < pay[1] else (1, 0)
        used = min(D(facts.people[more].ira + facts.people[more].roth), room[more])
        room[less] = min(D(most[less]), max(sum(pay) - used, D(0)))
    return room


def ira_deduction(facts, businesses, magi):
    """For each person. IRC 219(g)."""
    covered = [any(job.deferral for job in one.jobs) or bool(one.trade and one.trade.plan) for one in facts.people]
    found = []
    for place, (one, room) in enumerate(zip(facts.people, ira_room(facts, businesses), strict=True)):
        limit = D(_most_ira(facts.year, one))
        start, width = None, 10_000
        if covered[place]:
            start = law.IRA_COVERED[facts.year][1 if facts.status in ("joint", "surviving_spouse") else 0]
            width = 20_000 if facts.status in ("joint", "surviving_spouse") else 10_000
            start = 0 if facts.status == "separate" else start
        elif facts.joint and covered[1 - place]:
            start = law.IRA_SPOUSE_COVERED[facts.year]
        if start is not None and magi > start:
            left = max(start + width - magi, D(0)) * limit / width
            left = (left / 10).quantize(D(1), ROUND_CEILING) * 10
            limit = max(left, D(200)) if left else D(0)
        found.append(min(D(one.ira), room, limit))
    return found


def ira_excess(facts, businesses, magi):
    """Paid into IRAs of either kind above what may be, for each person; conversions are no income here. IRC 408A(c), 4973(b), (f)."""
    magi -= sum(ira_income(one)[1] for one in facts.people)
    found = []
    for one, room in zip(facts.people, ira_room(facts, businesses), strict=True):
        limit = D(_most_ira(facts.year, one))
        married = facts.status in ("joint", "surviving_spouse")
        start = 0 if facts.status == "separate" else law.ROTH[facts.year][married]
        width = 10_000 if married or facts.status == "separate" else 15_000
        over = max(magi - start, D(0))
        left = ((limit - limit * min(over / width, D(1))) / 10).quantize(D(1), ROUND_CEILING) * 10
        left = max(left, D(200)) if left else D(0)
        found.append((max(one.ira - room, D(0)), max(one.roth - max(min(left, room - one.ira), D(0)), D(0))))
    return found


def student_loan(facts, before):
    if facts.status == "separate":
        return D(0)
    paid = D(min(facts.student_loan, 2_500))
    start, width = law.STUDENT_LOAN[facts.year][facts.joint], law.STUDENT_LOAN_WIDTH[facts.joint]
    part = (max(before - start, D(0)) / width).quantize(D("0.001"), ROUND_HALF_UP)  # the worksheet's three places
    return paid - dollars(paid * min(part, D(1)))


def above_limit(facts, businesses):
    """What business losses are above the threshold is no loss of the year. IRC 461(l)."""
    threshold = law.BUSINESS_LOSS[facts.year] * (2 if facts.joint else 1)
    return max(-sum((own.profit for own in businesses), D(0)) - facts.share - threshold, D(0))


def of(facts):
    """Everything up to adjusted gross income, by name."""
    year = facts.year
    businesses = [own_business(year, one) for one in facts.people]
    excluded, care_taxed = care_benefits(facts, businesses)
    gains = capital_gains(facts)
    wages = D(sum(job.wages for job in facts.jobs)) + care_taxed
    interest = D(facts.interest + facts.government)
    pensions = sum((one.pension + sum(ira_income(one)) for one in facts.people), D(0))
    other = sum(own.profit for own in businesses) + facts.share + facts.unemployment + facts.winnings
    before = wages + interest + facts.dividends + pensions + gains.counted + other
    health = [health_savings(year, one) for one in facts.people]
    adjusted = (
        sum(min(one.educator, law.EDUCATOR[year]) for one in facts.people) + sum(h[0] for h in health) + sum(own.half + own.plan + own.health for own in businesses)
        + facts.early_withdrawal + facts.alimony
    )  # fmt: skip
    let, waits = letting(facts, max(before - adjusted + sum(own.half for own in businesses), D(0)))
    before += let + above_limit(facts, businesses)
    benefits = D(sum(one.benefits for one in facts.people))
    exempt = D(facts.exempt + facts.private)
    for_ira = before + taxable_benefits(facts.status, benefits, before + exempt - adjusted) - adjusted
    iras = ira_deduction(facts, businesses, for_ira)
    adjusted += sum(iras)
    taxed_benefits = taxable_benefits(facts.status, benefits, before + exempt - adjusted)
    total = before + taxed_benefits
    loan = student_loan(facts, total - adjusted)
    return SimpleNamespace(
        let=let, let_waits=waits, businesses=businesses, care_excluded=excluded, care_taxed=care_taxed, gains=gains, wages=wages, interest=interest, exempt=exempt,
        benefits=benefits, taxed_benefits=taxed_benefits, total=total, adjustments=adjusted + loan, agi=total - adjusted - loan, iras=iras,
        health_excess=[h[1] for h in health], ira_excess=ira_excess(facts, businesses, total - adjusted + sum(iras)), earned=sum(earned_by_person(facts, businesses)),
    )  # fmt: skip
