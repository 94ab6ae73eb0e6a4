"""Papers that lead nowhere, or contradict themselves or the year: what would otherwise be lost or counted twice."""

from taxcore.engine import ZERO, check, found, idea, stops

_LOST = "It would be missing from the return."


@stops("us.1099-nec.nowhere", "1099-NEC without a business", "conflict")
@stops("us.1099-misc.nowhere", "1099-MISC business income without a business", "conflict")
@stops("us.1099-k.nowhere", "1099-K without a business", "conflict")
def statement_without_business(run):
    """Pay that belongs to no business and to nothing else would vanish."""
    for paper in run.papers("1099-nec"):
        if paper.pay and not paper.business and not paper.not_business:
            yield found(
                paper.address("business"),
                f"{paper.title}: which business reports it? Choose one, add the business, or mark it as not a business. {_LOST}",
                code="us.1099-nec.nowhere",
            )
    for paper in run.papers("1099-misc"):
        work = paper.fishing + paper.medical + paper.attorney
        if (work and not paper.is_business) or (paper.is_business and not paper.business):
            yield found(
                paper.address("business"),
                f"{paper.title}: boxes 5, 6 and 10 are business income. Check the box and choose the business. {_LOST}",
                code="us.1099-misc.nowhere",
            )
    for paper in run.papers("1099-k"):
        if paper.gross > paper.on_other_statement + paper.personal and not paper.business:
            yield found(
                paper.address("business"),
                f"{paper.title}: which business reports these payments? Choose one, or enter the personal part. {_LOST}",
                code="us.1099-k.nowhere",
            )


@stops("us.prior-year.itemized-open", "State refund: prior year deduction unknown", "missing", "IRC 111")
def refund_without_last_year(run):
    form = run.form("us.state-refund")
    if form.refunds > 0 and run.single("prior-year").itemised is None:
        yield found(
            run.single("prior-year").address("itemised"),
            "A state refund was received. Was last year's return itemized? It decides whether the refund is income.",
        )


@check("us.1099-g.other-year", "State refund of an earlier year", "carried", "IRC 111")
def refund_of_another_year(run):
    for paper in run.papers("1099-g"):
        if paper.state_refund and paper.refund_year is not None and paper.refund_year != run.year - 1:
            yield found(
                paper.address("refund_year"),
                f"{paper.title}: this refund is of {paper.refund_year}. The benefit of itemizing in that year decides: "
                "enter that year's amounts under Prior year return.",
            )


@check("us.1099-div.liquidation", "Liquidating distribution entered as dividend", "conflict", "IRC 331")
@idea("us.1099-div.basis", "Nondividend distribution reduces basis", "carried", "IRC 301(c)(2), (3)")
def distributions_of_capital(run):
    for paper in run.papers("1099-div"):
        if paper.cash_liquidation or paper.other_liquidation:
            yield found(
                paper.address("cash_liquidation"),
                f"{paper.title}: a liquidating distribution is treated as a sale of the stock. Enter it with the sales, "
                "with its basis.",
                code="us.1099-div.liquidation",
            )
        elif paper.return_of_capital:
            yield found(
                paper.address("return_of_capital"),
                f"{paper.title}: box 3 reduces the basis of the stock. Note it for the sale; above basis it is capital gain now.",
                code="us.1099-div.basis",
            )


@idea("us.benefits.lump-sum", "Benefits for earlier years, and the lump-sum election", "election", "IRC 86(e)")
def lump_sum_of_benefits(run):
    for paper in run.papers("ssa-1099"):
        if paper.earlier_years and not paper.is_keyed("lump_sum_taxable"):
            yield found(
                paper.address("lump_sum_taxable"),
                f"{paper.earlier_years:,} of the benefits is for earlier years. The lump-sum election may tax less: "
                "figure it and enter the result.",
            )


@stops("us.8615.parent-missing", "Form 8615 applies, parent's information missing", "missing", "IRC 1(g)")
def parents_figures(run):
    form = run.form("us.8615")
    if form.applies and not (run.single("parent").is_keyed("taxable_income") and run.single("parent").status):
        yield found(
            run.single("parent").address("taxable_income"),
            "This child's unearned income is taxed at the parent's rate. Enter the parent's status and taxable "
            "income, or say that neither parent is alive.",
        )


@check("us.schedule-b-part-iii", "Schedule B: foreign accounts not answered", "missing")
@check("us.foreign-report-open", "Foreign account: FinCEN 114 question not answered", "missing", "31 CFR 1010.350")
def foreign_accounts(run):
    filing = run.single("filing")
    if run.form("us.sch-b").required() and filing.foreign_account is None:
        yield found(
            filing.address("foreign_account"),
            "Schedule B, part III, asks about foreign accounts and trusts. Ask the client.",
            code="us.schedule-b-part-iii",
        )
    if filing.foreign_account and filing.foreign_report is None:
        yield found(
            filing.address("foreign_report"),
            "There is a foreign account. If its value exceeded $10,000 on any day, FinCEN Form 114 is required.",
            code="us.foreign-report-open",
        )


@check("us.digital-assets.nothing-keyed", "Digital assets answered yes, none entered", "conflict")
@stops("us.digital-assets.answer", "Digital assets entered, answered no", "conflict")
def digital_assets(run):
    filing, sold = run.single("filing"), run.papers("1099-da")
    received = any(paper.digital_assets for paper in run.papers("other-income"))
    rows = [row.box for paper in run.papers("1099-b") for row in (*paper.sales, *paper.summaries)]
    if filing.digital_assets and not sold and not received and not any(box in "GHIJKL" for box in rows):
        yield found(
            filing.address("digital_assets"),
            "The answer is yes and no sale or income of digital assets is entered. Right for a purchase or a gift "
            "received; otherwise add what is missing.",
            code="us.digital-assets.nothing-keyed",
        )
    if filing.digital_assets is False and (sold or received):
        yield found(
            filing.address("digital_assets"),
            "Digital assets were sold or received as income, and the question on page 1 says no. Answer yes.",
            code="us.digital-assets.answer",
        )


def _needs_the_list(row):
    """Totals of sales with reported basis and no adjustment may stand alone."""
    adjusted = (row.is_keyed("wash_sales") and row.wash_sales) or (row.is_keyed("other_adjustment") and row.other_adjustment)
    return bool(row.box) and (row.box not in ("A", "D", "G", "J") or bool(adjusted))


@check("us.sale.summary-unattached", "Summary totals without the statement", "missing", "IRC 6045(g); Form 8949")
@stops("us.sale.box-of-later-years", "Digital asset box used before 2025", "conflict")
@stops("us.sale.other-year", "Sale in another year", "conflict")
@stops("us.sale.code-missing", "Form 8949 adjustment without a code", "missing")
@check("us.sale.wash-sale-sign", "Wash sale adjustment increases the loss", "unlikely", "IRC 1091")
def sales_rows(run):
    for kind in ("1099-b", "1099-da"):
        for paper in run.papers(kind):
            for row in paper.sales:
                if row.is_keyed("sold") and row.sold is not None and row.sold.year != run.year:
                    yield found(
                        row.address("sold"),
                        f"{paper.title}: this sale was not in {run.year}. Correct the date or remove it.",
                        code="us.sale.other-year",
                    )
                if row.is_keyed("adjustment") and row.adjustment and not row.code:
                    yield found(
                        row.address("code"),
                        f"{paper.title}: an adjustment needs its code in column f. Choose it.",
                        code="us.sale.code-missing",
                    )
                if row.is_keyed("code") and row.code == "W" and row.adjustment < 0:
                    yield found(
                        row.address("adjustment"),
                        f"{paper.title}: a wash sale disallows a loss, so its adjustment is positive. Compare it "
                        "with the statement.",
                        code="us.sale.wash-sale-sign",
                    )
            if not paper.attached and any(_needs_the_list(row) for row in paper.summaries):
                yield found(
                    paper.address("summaries"),
                    f"{paper.title}: totals with adjustments, or of sales whose basis was not reported, require a "
                    "statement with the return. Attach the broker's statement and choose it to be e-filed, or enter "
                    "the transactions.",
                    code="us.sale.summary-unattached",
                )
            if any(row.box in "GHIJKL" for row in (*paper.sales, *paper.summaries) if row.box) and run.year < 2025:
                yield found(
                    paper.address("sales"),
                    f"{paper.title}: boxes G to L exist from 2025. Use C or F for digital assets of {run.year}.",
                    code="us.sale.box-of-later-years",
                )


@check("us.1099-r.not-determined", "Pension taxed in full, cost unknown", "missed", "IRC 72(d)")
@stops("us.1099-r.more-than-gross", "Rollover exceeds the distribution", "conflict")
@stops("us.1099-r.charity-too-young", "Qualified charitable distribution before age 70½", "rule", "IRC 408(d)(8)(B)(ii)")
@idea("us.1099-r.early", "Early distribution without exception", "lost", "IRC 72(t)(2)")
@stops("us.ira.value-missing", "IRA basis: year-end value missing", "missing", "IRC 408(d)(2)")
def retirement(run):
    for paper in run.papers("1099-r"):
        cost_known = paper.is_keyed("taxable") or paper.own_contributions or paper.total_contributions or paper.moved_all()
        if paper.undetermined and not paper.ira and not cost_known:
            yield found(
                paper.address("taxable"),
                f"{paper.title} does not show the taxable amount, so all of it is taxed. Enter the cost and the annuity "
                "starting date, or box 2a.",
                code="us.1099-r.not-determined",
            )
        if paper.rolled_over + paper.converted + paper.charity > paper.gross:
            yield found(
                paper.address("rolled_over"),
                f"{paper.title}: more was rolled over, converted or given than was paid out. Compare it with box 1.",
                code="us.1099-r.more-than-gross",
            )
        owner = run.person(paper.owner or "taxpayer")
        if paper.charity and owner is not None and owner.birth_date is not None and (run.year - owner.birth_date.year) < 70:
            yield found(
                paper.address("charity"),
                f"{paper.title}: a qualified charitable distribution requires age 70½. Enter it as a contribution instead.",
                code="us.1099-r.charity-too-young",
            )
        if "1" in paper.codes() and not paper.exception and run.form("us.distribution", paper.key).income > 0:
            yield found(
                paper.address("exception"),
                f"{paper.title} is subject to the additional 10% tax. Ask whether an exception applies: medical, "
                "education, disability, first home.",
                code="us.1099-r.early",
            )
    for form in run.every("us.8606"):
        account = next(iter(run.papers("ira", form.key)), None)
        if (
            form.required()
            and form.basis > 0
            and form.distributions + form.conversions > 0
            and not account.is_keyed("value_at_end")
        ):
            yield found(
                account.address("value_at_end"),
                "Part of the distribution is a return of basis, in proportion to all IRAs. Enter their value at year "
                "end, 0 if none.",
                code="us.ira.value-missing",
            )


@stops("us.hsa.cover-missing", "HSA without months of coverage", "missing", "IRC 223")
@check("us.hsa.not-medical", "HSA distribution not used for medical expenses", "lost", "IRC 223(f)(2)")
@stops("us.hsa.employer-excess", "Employer HSA contributions exceed the limit", "rule", "IRC 106(d)")
def health_savings(run):
    for form in run.every("us.8889"):
        papers = run.papers("hsa", form.key)
        if form.employer > 0 and not papers:
            wage = next((w for w in run.papers("w2", form.key) if w.coded({"W"})), None)
            yield found(
                wage.address("codes") if wage is not None else form.address("employer"),
                f"{wage.title if wage is not None else 'An amount'} was contributed to an HSA. Add the HSA paper and enter the "
                "months of coverage.",
                code="us.hsa.cover-missing",
            )
        elif papers and form.employer_excess > 0:
            yield found(
                form.address("others"),
                "The employer paid more than the limit. The excess is taxable unless withdrawn; that is not supported yet.",
                code="us.hsa.employer-excess",
            )
        if form.taxable > 0:
            yield found(
                form.address("taxable"),
                f"{form.taxable:,} of the HSA distribution was not used for qualified medical expenses and is taxed. "
                "Enter the medical expenses if missing.",
                code="us.hsa.not-medical",
            )


@stops("us.business.service-open", "SSTB question not answered", "missing", "IRC 199A(d)(2)")
@check("us.business.car-evidence", "Vehicle: evidence not answered", "missing", "IRC 274(d)")
@check("us.business.statements-due", "Forms 1099 to contractors", "missing", "IRC 6041")
def business_facts(run):
    above = run.form("us.8995").exists and run.form("us.8995").above_threshold
    for one in run.every("us.sch-c"):
        books = one.books
        if above and books.service_trade is None and not books.not_qualified:
            yield found(
                books.address("service_trade"),
                f"{books.title}: income is above the threshold. Is it an SSTB? The QBI deduction depends on it.",
                code="us.business.service-open",
            )
        if books.miles and books.car_evidence is None and books.car_method != "actual":
            yield found(
                books.address("car_evidence"),
                f"{books.title}: miles need a written record. Ask for it and answer line 47.",
                code="us.business.car-evidence",
            )
        if books.must_report and books.did_report is not True:
            yield found(
                books.address("did_report"),
                f"{books.title} made payments that require Forms 1099. Were they filed? Answer line J.",
                code="us.business.statements-due",
            )


@check("us.1098.principal-missing", "Mortgage without outstanding principal", "missing", "IRC 163(h)(3)")
@check("us.gift.acknowledgment", "Contribution of $250 or more without acknowledgment", "missing", "IRC 170(f)(8)")
@check("us.car-loan.not-deducted", "Vehicle loan interest not deductible", "lost", "IRC 163(h)(4)")
@check("us.alimony.new-agreement", "Alimony under an agreement after 2018", "rule", "P.L. 115-97, sec. 11051")
def deductions(run):
    for paper in run.papers("1098"):
        if paper.interest and not paper.principal and not paper.average and paper.use != "other":
            yield found(
                paper.address("principal"),
                f"{paper.title}: without box 2 the loan limit cannot be figured. Enter it.",
                code="us.1098.principal-missing",
            )
    for paper in run.papers("gift"):
        if paper.amount >= 250 and paper.acknowledged is None:
            yield found(
                paper.address("acknowledged"),
                f"{paper.title}: a contribution of $250 or more requires a written acknowledgment. Was it obtained?",
                code="us.gift.acknowledgment",
            )
    for paper in run.papers("adjustments"):
        for row in paper.alimony:
            if row.amount and row.since is not None and row.since.year >= 2019:
                yield found(
                    row.address("since"),
                    "Alimony under an agreement after 2018 is not deductible. Check the date.",
                    code="us.alimony.new-agreement",
                )
    for paper in run.papers("car-loan"):
        reason = _car_reason(paper)
        if paper.interest and reason:
            yield found(
                paper.address("interest"),
                f"{paper.title}: not deducted, because {reason}. Correct the answer if it is wrong.",
                code="us.car-loan.not-deducted",
            )


def _car_reason(paper):
    reasons = [
        (paper.loan_date is not None and paper.loan_date.year >= 2025, "the loan was made before 2025"),
        (paper.new_for_owner, "the car was not new"),
        (paper.assembled_here, "final assembly in the US is not confirmed"),
        (paper.personal, "it is not for personal use"),
    ]
    return next((reason for holds, reason in reasons if not holds), "")


@stops("us.split-deposit.sum", "Form 8888: parts do not equal the refund", "conflict")
@stops("us.deposit.applied-too-much", "Applied to next year exceeds the overpayment", "conflict")
@check("us.estimates.other-year", "Estimated payment dated outside the year", "unlikely", "IRC 6654(c)")
def payments(run):
    for row in run.single("estimates").rows:
        early, late = (run.year, 1, 1), (run.year + 1, 1, 31)
        if row.paid is not None and not early <= row.paid.timetuple()[:3] <= late:
            yield found(
                row.address("paid"),
                f"A payment of {row.paid:%B %-d, %Y} is outside the estimated tax dates for {run.year}. Compare it with "
                "the client's records.",
                code="us.estimates.other-year",
            )
    form = run.form("us.8888")
    if form.required() and form.together != run.form("us.1040").refund:
        yield found(
            run.single("split-deposit").address("rows"),
            f"The accounts total {form.together:,}; the refund is {run.form('us.1040').refund:,}. Make them equal.",
            code="us.split-deposit.sum",
        )
    deposit = run.single("deposit")
    income = run.form("us.1040")
    if deposit.applied_to_next_year > max(income.overpaid - income.penalty, 0):
        yield found(
            deposit.address("applied_to_next_year"),
            "More is applied to next year than was overpaid. Lower it.",
            code="us.deposit.applied-too-much",
        )


@stops("us.hsa.limit-twice", "Both spouses use the full family HSA limit", "rule", "IRC 223(b)(5)")
def shared_limits(run):
    """Two spouses under one family plan share its limit. IRC 223(b)(5)."""
    forms = [form for form in run.every("us.8889") if run.papers("hsa", form.key)]
    family = [form for form in forms if any(row.kind == "family" for row in run.papers("hsa", form.key)[0].coverage)]
    if len(family) == 2 and sum((form.own_limit for form in family), ZERO) > run.laws["us"].hsa.family:
        yield found(
            run.papers("hsa", "taxpayer")[0].address("spouses_part"),
            "Both spouses use the full family limit, which they share. Enter how much is allocated to the other.",
        )


CHECKS = (
    statement_without_business,
    refund_without_last_year,
    refund_of_another_year,
    distributions_of_capital,
    lump_sum_of_benefits,
    parents_figures,
    foreign_accounts,
    digital_assets,
    sales_rows,
    retirement,
    health_savings,
    business_facts,
    deductions,
    payments,
    shared_limits,
)
