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
            "A federal and a state payment have the same date and amount. Compare with the client's records.",
            code="us.estimates.state-among-federal",
        )
    if extension.asked:
        if extension.paying != paper.with_extension and (extension.paying or paper.with_extension):
            yield found(
                (paper.address("with_extension"), extension.address("paying")),
                f"{extension.paying:,} was to be paid with the extension; {paper.with_extension:,} is entered as paid. "
                "Enter the amount paid.",
                code="us.extension.payment-differs",
            )
        if extension.is_keyed("expected_tax") and extension.expected_tax < run.form("us.1040").total_tax * Decimal("0.9"):
            yield found(
                extension.address("expected_tax"),
                "The tax expected is well below the tax of the return. An extension requires a proper estimate.",
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
            f"An underpayment penalty of {form.penalty:,} is included. Was income uneven during the year, or is there a "
            "reason for a waiver?",
            code="us.2210.penalty",
        )
    if form.owed > 1_000 and run.single("next-year").make is None:
        yield found(
            (run.single("next-year").address("make"), form.address("owed")),
            f"{form.owed:,} is due. If next year is similar, vouchers or more withholding avoid the penalty.",
            code="us.next-year.vouchers",
        )
    if form.refund >= _LARGE_REFUND and form.withheld > form.refund:
        yield found(
            (form.address("refund"), form.address("withheld")),
            f"{form.refund:,} refund. A new Form W-4 would put it in each paycheck.",
            code="us.next-year.withholding-high",
        )
    if form.refund > 0 and not run.single("deposit").account and not run.single("split-deposit").rows:
        yield found(
            run.single("deposit").address("routing"),
            "No account is entered for the refund. The IRS is phasing out paper checks: ask for an account.",
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
            "The state refund is not taxable: the standard deduction was taken last year.",
            code="us.state-refund.not-taxed",
        )
    if papers and prior.itemised and prior.itemised_total and not prior.standard_then:
        yield found(
            prior.address("standard_then"),
            "The refund is taxable only to the extent itemizing gave a benefit. Enter last year's standard deduction.",
            code="us.prior-year.standard-open",
        )
    if prior.state_tax_deducted > prior.itemised_total > 0:
        yield found(
            (prior.address("state_tax_deducted"), prior.address("itemised_total")),
            "The state tax exceeds total itemized deductions. Compare both with last year's Schedule A.",
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
                f"{paper.title}: won on {paper.won:%B %-d, %Y}. Winnings are taxed in the year paid.",
                code="us.w2g.other-year",
            )
    if losses > schedule.gambling:
        yield found(
            (run.single("itemized").address("gambling_losses"), schedule.address("gambling")),
            f"Losses of {losses:,} exceed winnings of {schedule.gambling:,}; losses are limited to winnings. Are all "
            "winnings entered?",
            code="us.gambling.losses-above",
        )
    elif losses and not run.form("us.1040").is_itemised:
        yield found(
            run.single("itemized").address("gambling_losses"),
            "Losses are deductible only if itemizing. A session log may reduce the winnings.",
            code="us.gambling.not-itemized",
        )
    for paper in run.papers("other-income"):
        if paper.cancelled_debt:
            yield found(
                paper.address("cancelled_debt"),
                f"{paper.cancelled_debt:,} of canceled debt is taxed. Was the client insolvent, bankrupt, or was it "
                "qualified principal residence debt? Then it may be excluded on Form 982.",
                code="us.canceled-debt.exclusion",
            )
        if paper.hobby:
            yield found(
                paper.address("hobby"),
                "Hobby expenses are not deductible. If it is for profit, enter it as a Schedule C business.",
                code="us.hobby.costs",
            )
    for paper in run.papers("1099-g"):
        if paper.unemployment > 1_000 and not paper.withheld:
            yield found(
                paper.address("withheld"),
                f"{paper.title}: no withholding on benefits. Form W-4V has 10% withheld.",
                code="us.unemployment.withholding",
            )
        if paper.unemployment > 50_000:
            yield found(
                paper.address("unemployment"),
                f"{paper.title}: {paper.unemployment:,} exceeds what states pay in a year. Check the decimal point, or "
                "for identity theft.",
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
                f"{paper.title}: was the loan originated before December 16, 2017? Then the higher limit applies. Enter box 3.",
                code="us.mortgage.origin-missing",
            )
        if paper.principal > 10_000 and paper.interest > paper.principal * Decimal("0.15"):
            yield found(
                (paper.address("interest"), paper.address("principal")),
                f"{paper.title}: interest of {paper.interest:,} on {paper.principal:,}. Check the decimal point.",
                code="us.mortgage.rate",
            )
        if len(papers) > 1 and not paper.use:
            yield found(
                paper.address("use"),
                f"{paper.title}: main home, second home or neither? At most 2 homes qualify.",
                code="us.mortgage.use-open",
            )
    if len({paper.title for paper in papers if paper.use == "second"}) > 1:
        yield found(
            papers[-1].address("use"),
            "More than one second home is entered. Only one qualifies, at the taxpayer's choice.",
            code="us.mortgage.three-homes",
        )
    if papers and run.form("us.1040").is_itemised:
        form = run.form("us.mortgage-limit")
        if form.deductible < form.interest:
            yield found(
                (form.address("deductible"), papers[0].address("principal")),
                f"{form.interest - form.deductible:,} of interest is on debt above the limit. Was any of it used for a "
                "business or investments?",
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
                    f"{paper.title}: the VIN's check digit is wrong. Enter it again.",
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
            f"{run.form('us.sch-2').minimum_tax:,} of alternative minimum tax. Deferral items give a credit next year "
            "(Form 8801).",
            code="us.minimum-tax.due",
        )
    if run.form("us.sch-2").investment > 0:
        yield found(
            run.form("us.sch-2").address("investment"),
            f"{run.form('us.sch-2').investment:,} of net investment income tax. Harvesting losses and timing gains reduce it.",
            code="us.investment-tax.due",
        )
    if form.total_income < 0:
        yield found(
            form.address("total_income"),
            "Income is below zero. A business loss may create an NOL: figure it by hand and enter it next year as "
            "other income, 8a.",
            code="us.1040.negative-income",
        )
    papers = [paper for paper in run.all_papers() if not paper.single]
    if not papers and form.total_income == 0:
        yield found(
            (form.address("total_income"), "us.w2"),
            "No income is entered yet. Add the client's papers.",
            code="us.1040.nothing-keyed",
        )
    for paper in run.papers("1099-int"):
        if paper.not_the_owners and paper.not_the_owners >= paper.interest + paper.government_interest > ZERO:
            yield found(
                paper.address("not_the_owners"),
                f"{paper.title}: all of the interest is nominee interest. A nominee must also issue a Form 1099-INT.",
                code="us.schedule-b.nothing-kept",
            )


CHECKS = (payments, balances, state_refund, other_income, mortgages, vehicle_number, totals)
