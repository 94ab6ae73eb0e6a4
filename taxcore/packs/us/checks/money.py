"""Payments, refunds and balances; income that hardly belongs where it stands; interest and loans. IRC 6654, 111, 163."""

from decimal import Decimal

from taxcore.engine import ZERO, check, found, idea, stops

_LARGE_REFUND = Decimal(5_000)
_VALUES = {letter: number for letters, number in (
    ("AJ", 1), ("BKS", 2), ("CLT", 3), ("DMU", 4), ("ENV", 5), ("FW", 6), ("GPX", 7), ("HY", 8), ("RZ", 9)) for letter in letters
}  # fmt: skip
_WEIGHTS = (8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2)


@check("us.estimates.twice", "Two payments of same date and amount", "unlikely", "IRC 6654")
@check("us.estimates.no-amount", "Payment without an amount", "missing")
@check("us.estimates.state-among-federal", "Federal payment same as a state payment", "unlikely")
@check("us.extension.payment-differs", "Extension payment differs", "conflict", "IRC 6081")
@check("us.extension.expected-too-low", "Extension: estimate of tax too low", "unlikely", "26 CFR 1.6081-4")
def payments(run):
    paper, extension = run.single("estimates"), run.single("extension")
    marks = [(row.paid, row.amount) for row in paper.rows if row.paid is not None and row.amount]
    if len(marks) != len(set(marks)):
        yield found(
            paper.address("rows"),
            "Two payments have the same day and amount. Remove one unless both were made.",
            code="us.estimates.twice",
        )
    for row in paper.rows:
        if not row.amount:
            yield found(
                row.address("amount"), "This payment has no amount. Enter it, or remove the row.", code="us.estimates.no-amount"
            )
    to_states = {(row.paid, row.amount) for row in paper.state_rows if row.paid is not None and row.amount}
    if to_states & set(marks):
        yield found(
            (paper.address("rows"), paper.address("state_rows")),
            "One payment stands among the federal and among the state ones, on the same day. Compare both with the "
            "client's records.",
            code="us.estimates.state-among-federal",
        )
    if extension.asked:
        if extension.paying != paper.with_extension and (extension.paying or paper.with_extension):
            yield found(
                (paper.address("with_extension"), extension.address("paying")),
                f"{extension.paying:,} was to be paid with the extension; {paper.with_extension:,} stands among the "
                "payments. Enter what was paid.",
                code="us.extension.payment-differs",
            )
        if extension.is_keyed("expected_tax") and extension.expected_tax < run.form("us.1040").total_tax * Decimal("0.9"):
            yield found(
                extension.address("expected_tax"),
                "The tax expected is well below the tax of the return. An extension needs a proper estimate.",
                code="us.extension.expected-too-low",
            )


@idea("us.2210.penalty", "Underpayment penalty", "lost", "IRC 6654")
@idea("us.next-year.vouchers", "Balance due, no estimated tax vouchers", "next-year", "IRC 6654(d)")
@idea("us.next-year.withholding-high", "Large refund", "next-year", "IRC 3402")
@idea("us.deposit.none", "Refund without direct deposit", "missing", "Executive Order 14247")
def balances(run):
    form = run.form("us.1040")
    chosen = run.single("penalty")
    if form.penalty > 0 and not (chosen.annualise or chosen.waiver):
        yield found(
            (form.address("penalty"), chosen.address("annualise")),
            f"A penalty of {form.penalty:,} is in the balance. Was income late in the year, or is there a reason for a waiver?",
            code="us.2210.penalty",
        )
    if form.owed > 1_000 and run.single("next-year").make is None:
        yield found(
            (run.single("next-year").address("make"), form.address("owed")),
            f"{form.owed:,} is owed. Will next year be alike? Vouchers, or more withholding, avoid the penalty.",
            code="us.next-year.vouchers",
        )
    if form.refund >= _LARGE_REFUND and form.withheld > form.refund:
        yield found(
            (form.address("refund"), form.address("withheld")),
            f"{form.refund:,} is refunded. A new Form W-4 would bring it with every pay.",
            code="us.next-year.withholding-high",
        )
    if form.refund > 0 and not run.single("deposit").account and not run.single("split-deposit").rows:
        yield found(
            run.single("deposit").address("routing"),
            "No account is entered for the refund. The authority is giving up checks: ask for one.",
            code="us.deposit.none",
        )


@idea("us.state-refund.not-taxed", "State refund not taxable", "rule", "IRC 111")
@check("us.prior-year.standard-open", "Prior year standard deduction missing", "missing", "IRC 111")
@check("us.prior-year.parts-differ", "State tax exceeds last year's itemized deductions", "conflict", "IRC 111")
def state_refund(run):
    papers, prior = [paper for paper in run.papers("1099-g") if paper.state_refund], run.single("prior-year")
    if papers and prior.itemised is False:
        yield found(
            (papers[0].address("state_refund"), prior.address("itemised")),
            "The state refund is not income, because last year was not itemized.",
            code="us.state-refund.not-taxed",
        )
    if papers and prior.itemised and prior.itemised_total and not prior.standard_then:
        yield found(
            prior.address("standard_then"),
            "The refund is income only as far as itemizing saved anything. Enter the standard deduction that last "
            "year could have had.",
            code="us.prior-year.standard-open",
        )
    if prior.state_tax_deducted > prior.itemised_total > 0:
        yield found(
            (prior.address("state_tax_deducted"), prior.address("itemised_total")),
            "The state tax is more than all itemized deductions it is part of. Compare both with last year's Schedule A.",
            code="us.prior-year.parts-differ",
        )


@check("us.gambling.losses-above", "Gambling losses exceed winnings", "rule", "IRC 165(d)")
@idea("us.gambling.not-itemized", "Gambling losses without itemizing", "lost", "IRC 165(d)")
@check("us.w2g.other-year", "Winnings dated in another year", "conflict")
@idea("us.canceled-debt.exclusion", "Canceled debt: possible exclusion", "missed", "IRC 108(a)")
@idea("us.hobby.costs", "Hobby income, expenses not deductible", "lost", "IRC 67(h), 183")
@idea("us.unemployment.withholding", "Unemployment compensation without withholding", "next-year", "IRC 3402(p)(2)")
@check("us.unemployment.high", "Unusually high unemployment compensation", "unlikely", "IRC 85")
def other_income(run):
    losses, schedule = run.single("itemized").gambling_losses, run.form("us.sch-1")
    for paper in run.papers("w2g"):
        if paper.won is not None and paper.won.year != run.year:
            yield found(
                paper.address("won"),
                f"{paper.title}: won on {paper.won:%d %B %Y}. Winnings belong to the year in which they are paid.",
                code="us.w2g.other-year",
            )
    if losses > schedule.gambling:
        yield found(
            (run.single("itemized").address("gambling_losses"), schedule.address("gambling")),
            f"Losses of {losses:,} are above winnings of {schedule.gambling:,}; only as much counts. Are all winnings entered?",
            code="us.gambling.losses-above",
        )
    elif losses and not run.form("us.1040").is_itemised:
        yield found(
            run.single("itemized").address("gambling_losses"),
            "Losses count only when itemizing. A record by session may lower the winnings themselves.",
            code="us.gambling.not-itemized",
        )
    for paper in run.papers("other-income"):
        if paper.cancelled_debt:
            yield found(
                paper.address("cancelled_debt"),
                f"{paper.cancelled_debt:,} of canceled debt is taxed. Was the client insolvent, bankrupt, or was "
                "it a main home's mortgage? Then Form 982 leaves it out.",
                code="us.canceled-debt.exclusion",
            )
        if paper.hobby:
            yield found(
                paper.address("hobby"),
                "Costs of a hobby are not deductible. If it is run for profit, enter it as a business.",
                code="us.hobby.costs",
            )
    for paper in run.papers("1099-g"):
        if paper.unemployment > 1_000 and not paper.withheld:
            yield found(
                paper.address("withheld"),
                f"{paper.title}: benefits without withholding. Form W-4V has 10% withheld.",
                code="us.unemployment.withholding",
            )
        if paper.unemployment > 50_000:
            yield found(
                paper.address("unemployment"),
                f"{paper.title}: {paper.unemployment:,} is more than states pay in a year. Look for the decimal "
                "point, or for a number stolen by somebody.",
                code="us.unemployment.high",
            )


@check("us.mortgage.origin-missing", "Large mortgage without origination date", "missing", "IRC 163(h)(3)(F)")
@idea("us.mortgage.limited", "Mortgage interest limited", "lost", "IRC 163(h)(3)(F)")
@check("us.mortgage.use-open", "Several mortgages: use of each home", "missing", "IRC 163(h)(4)")
@check("us.mortgage.rate", "Interest unusual for the principal", "unlikely")
@stops("us.mortgage.three-homes", "Mortgages on more than 2 homes", "rule", "IRC 163(h)(4)(A)")
def mortgages(run):
    papers = [paper for paper in run.papers("1098") if paper.interest]
    for paper in papers:
        if paper.principal > run.laws["us"].itemized.mortgage_debt and paper.origin is None:
            yield found(
                paper.address("origin"),
                f"{paper.title}: was the loan made before 16 December 2017? A higher limit holds then. Copy box 3.",
                code="us.mortgage.origin-missing",
            )
        if paper.principal > 10_000 and paper.interest > paper.principal * Decimal("0.15"):
            yield found(
                (paper.address("interest"), paper.address("principal")),
                f"{paper.title}: interest of {paper.interest:,} on {paper.principal:,}. Look for the decimal point.",
                code="us.mortgage.rate",
            )
        if len(papers) > 1 and not paper.use:
            yield found(
                paper.address("use"),
                f"{paper.title}: main home, second home or neither? Two homes count at most.",
                code="us.mortgage.use-open",
            )
    if len({paper.title for paper in papers if paper.use == "second"}) > 1:
        yield found(
            papers[-1].address("use"),
            "More than one second home is entered. The law counts one, of the taxpayer's choice.",
            code="us.mortgage.three-homes",
        )
    if papers and run.form("us.1040").is_itemised:
        form = run.form("us.mortgage-limit")
        if form.deductible < form.interest:
            yield found(
                (form.address("deductible"), papers[0].address("principal")),
                f"{form.interest - form.deductible:,} of interest is on debt above the limit. Did any of it pay for "
                "a business or investments?",
                code="us.mortgage.limited",
            )


@check("us.car-loan.vehicle-number", "Invalid VIN", "format", "49 CFR 565.15(c)")
def vehicle_number(run):
    for paper in run.papers("car-loan"):
        vin = paper.vin
        if len(vin) == 17:
            summed = sum(weight * (int(c) if c.isdigit() else _VALUES.get(c, 0)) for c, weight in zip(vin, _WEIGHTS, strict=True))
            if vin[8] != "0123456789X"[summed % 11]:
                yield found(
                    paper.address("vin"),
                    f"{paper.title}: the vehicle number's ninth character does not fit the others. Copy it again.",
                )


@idea("us.minimum-tax.due", "Alternative minimum tax due", "lost", "IRC 55")
@idea("us.investment-tax.due", "Net investment income tax due", "lost", "IRC 1411")
@check("us.schedule-b.nothing-kept", "All interest is nominee interest", "unlikely")
@check("us.1040.negative-income", "Income below zero", "unlikely", "IRC 172")
@check("us.1040.nothing-keyed", "No income", "missing")
def totals(run):
    form = run.form("us.1040")
    if run.form("us.sch-2").minimum_tax > 0:
        yield found(
            run.form("us.sch-2").address("minimum_tax"),
            f"{run.form('us.sch-2').minimum_tax:,} of alternative minimum tax. What it was for decides whether a credit comes "
            "next year (Form 8801).",
            code="us.minimum-tax.due",
        )
    if run.form("us.sch-2").investment > 0:
        yield found(
            run.form("us.sch-2").address("investment"),
            f"{run.form('us.sch-2').investment:,} of tax on investment income. Losses left unsold, and timing, lower it.",
            code="us.investment-tax.due",
        )
    if form.total_income < 0:
        yield found(
            form.address("total_income"),
            "Income is below zero. A loss of a business may be carried over to next year: that is worked out by hand here, as "
            "other income, 8a, of next year.",
            code="us.1040.negative-income",
        )
    papers = [paper for paper in run.all_papers() if not paper.single]
    if not papers and form.total_income == 0:
        yield found(
            (form.address("total_income"), "us.w2"),
            "Nothing is entered yet that makes income. Add the client's papers.",
            code="us.1040.nothing-keyed",
        )
    for paper in run.papers("1099-int"):
        if paper.not_the_owners and paper.not_the_owners >= paper.interest + paper.government_interest > ZERO:
            yield found(
                paper.address("not_the_owners"),
                f"{paper.title}: all of the interest belongs to somebody else. A nominee sends that person a statement too.",
                code="us.schedule-b.nothing-kept",
            )


CHECKS = (payments, balances, state_refund, other_income, mortgages, vehicle_number, totals)
