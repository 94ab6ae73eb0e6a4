"""Papers that lead nowhere, or contradict themselves or the year: what would otherwise be lost or counted twice."""

from taxcore.engine import ZERO, check, idea, stops_filing

_LOST = "It would be missing from the return."


def statement_without_business(run):
    """Pay that belongs to no business and to nothing else would vanish."""
    for paper in run.papers("1099-nec"):
        if paper.pay and not paper.business and not paper.not_business:
            yield stops_filing("us.1099-nec.nowhere", at=paper.address("business"),
                               says=f"{paper.title}: to which business does it belong? Choose one, add the business, or say "
                                    f"that it is none. {_LOST}")  # fmt: skip
    for paper in run.papers("1099-misc"):
        work = paper.fishing + paper.medical + paper.attorney
        if (work and not paper.is_business) or (paper.is_business and not paper.business):
            yield stops_filing("us.1099-misc.nowhere", at=paper.address("business"),
                               says=f"{paper.title}: boxes 5, 6 and 10 are business income. Say so and choose the "
                                    f"business. {_LOST}")  # fmt: skip
    for paper in run.papers("1099-k"):
        if paper.gross > paper.on_other_statement + paper.personal and not paper.business:
            yield stops_filing("us.1099-k.nowhere", at=paper.address("business"),
                               says=f"{paper.title}: to which business do these payments belong? Choose one, or key what is "
                                    f"personal. {_LOST}")  # fmt: skip


def refund_without_last_year(run):
    form = run.form("us.state-refund")
    if form.refunds > 0 and run.single("prior-year").itemised is None:
        yield stops_filing("us.prior-year.itemised-open", at=run.single("prior-year").address("itemised"), cites="IRC 111",
                           says="A state refund was received. Was last year's return itemised? It decides whether the refund "
                                "is income.")  # fmt: skip


def refund_of_another_year(run):
    for paper in run.papers("1099-g"):
        if paper.state_refund and paper.refund_year is not None and paper.refund_year != run.year - 1:
            yield check("us.1099-g.other-year", at=paper.address("refund_year"), cites="IRC 111",
                        says=f"{paper.title}: this refund is of {paper.refund_year}. What itemising saved then decides, not last "
                             "year: key that year's figures under last year's return.")  # fmt: skip


def distributions_of_capital(run):
    for paper in run.papers("1099-div"):
        if paper.cash_liquidation or paper.other_liquidation:
            yield check("us.1099-div.liquidation", at=paper.address("cash_liquidation"), cites="IRC 331",
                        says=f"{paper.title}: a liquidation is a sale of the shares. Key it among the sales, with what they "
                             "cost.")  # fmt: skip
        elif paper.return_of_capital:
            yield idea("us.1099-div.basis", at=paper.address("return_of_capital"), cites="IRC 301(c)(2), (3)",
                       says=f"{paper.title}: box 3 lowers what the shares cost. Note it for the day they are sold; above their "
                            "cost it is gain now.")  # fmt: skip


def lump_sum_of_benefits(run):
    for paper in run.papers("ssa-1099"):
        if paper.earlier_years and not paper.is_keyed("lump_sum_taxable"):
            yield idea("us.benefits.lump-sum", at=paper.address("lump_sum_taxable"), cites="IRC 86(e)",
                       says=f"{paper.earlier_years:,} of the benefits is for earlier years. Taxing them by those years' income "
                            "may be less: work it out and key the result.")  # fmt: skip


def parents_figures(run):
    form = run.form("us.8615")
    if form.applies and not (run.single("parent").is_keyed("taxable_income") and run.single("parent").status):
        yield stops_filing("us.8615.parent-missing", at=run.single("parent").address("taxable_income"), cites="IRC 1(g)",
                           says="This child's unearned income is taxed at the parent's rate. Key the parent's status and "
                                "taxable income, or say that neither parent is alive.")  # fmt: skip


def foreign_accounts(run):
    filing = run.single("filing")
    if run.form("us.sch-b").required() and filing.foreign_account is None:
        yield check("us.schedule-b-part-iii", at=filing.address("foreign_account"),
                    says="Schedule B, part III, asks about foreign accounts and trusts. Ask the client.")  # fmt: skip
    if filing.foreign_account and filing.foreign_report is None:
        yield check("us.foreign-report-open", at=filing.address("foreign_report"), cites="31 CFR 1010.350",
                    says="There is a foreign account. Above 10,000 on any day FinCEN 114 is due: is it?")  # fmt: skip


def digital_assets(run):
    filing, sold = run.single("filing"), run.papers("1099-da")
    received = any(paper.digital_assets for paper in run.papers("other-income"))
    rows = [row.box for paper in run.papers("1099-b") for row in (*paper.sales, *paper.summaries)]
    if filing.digital_assets and not sold and not received and not any(box in "GHIJKL" for box in rows):
        yield check("us.digital-assets.nothing-keyed", at=filing.address("digital_assets"),
                    says="The answer is yes and no sale or income of digital assets is keyed. Right for a purchase or a gift "
                         "received; otherwise add what is missing.")  # fmt: skip
    if filing.digital_assets is False and (sold or received):
        yield stops_filing("us.digital-assets.answer", at=filing.address("digital_assets"),
                           says="Digital assets were sold or received as income, and the question on page 1 says no. Answer "
                                "yes.")  # fmt: skip


def _needs_the_list(row):
    """Totals of sales with reported basis and no adjustment may stand alone."""
    adjusted = (row.is_keyed("wash_sales") and row.wash_sales) or (row.is_keyed("other_adjustment") and row.other_adjustment)
    return bool(row.box) and (row.box not in ("A", "D", "G", "J") or bool(adjusted))


def sales_rows(run):
    for kind in ("1099-b", "1099-da"):
        for paper in run.papers(kind):
            for row in paper.sales:
                if row.is_keyed("sold") and row.sold is not None and row.sold.year != run.year:
                    yield stops_filing("us.sale.other-year", at=row.address("sold"),
                                       says=f"{paper.title}: this sale was not in {run.year}. Correct the date or take it "
                                            "out.")  # fmt: skip
                if row.is_keyed("adjustment") and row.adjustment and not row.code:
                    yield stops_filing("us.sale.code-missing", at=row.address("code"),
                                       says=f"{paper.title}: an adjustment needs its code in column f. Choose it.")  # fmt: skip
                if row.is_keyed("code") and row.code == "W" and row.adjustment < 0:
                    yield check("us.sale.wash-sale-sign", at=row.address("adjustment"), cites="IRC 1091",
                                says=f"{paper.title}: a wash sale takes a loss away, so its adjustment is positive. Compare "
                                     "it with the statement.")  # fmt: skip
            if not paper.attached and any(_needs_the_list(row) for row in paper.summaries):
                yield check("us.sale.summary-unattached", at=paper.address("summaries"), cites="IRC 6045(g); Form 8949",
                            says=f"{paper.title}: totals with adjustments, or of sales whose basis was not reported, stand for "
                                 "a list that goes with the return. Attach the statement, or key it sale by sale.")  # fmt: skip
            if any(row.box in "GHIJKL" for row in (*paper.sales, *paper.summaries) if row.box) and run.year < 2025:
                yield stops_filing("us.sale.box-of-later-years", at=paper.address("sales"),
                                   says=f"{paper.title}: boxes G to L exist from 2025. Use C or F for digital assets of "
                                        f"{run.year}.")  # fmt: skip


def retirement(run):
    for paper in run.papers("1099-r"):
        cost_known = paper.is_keyed("taxable") or paper.own_contributions or paper.total_contributions or paper.moved_all()
        if paper.undetermined and not paper.ira and not cost_known:
            yield check("us.1099-r.not-determined", at=paper.address("taxable"), cites="IRC 72(d)",
                        says=f"{paper.title} does not say what is taxable, so all of it is. Key the cost and when the annuity "
                             "began, or box 2a.")  # fmt: skip
        if paper.rolled_over + paper.converted + paper.charity > paper.gross:
            yield stops_filing("us.1099-r.more-than-gross", at=paper.address("rolled_over"),
                               says=f"{paper.title}: more was rolled over, converted or given than was paid out. Compare it "
                                    "with box 1.")  # fmt: skip
        owner = run.person(paper.owner or "taxpayer")
        if paper.charity and owner is not None and owner.birth_date is not None and (run.year - owner.birth_date.year) < 70:
            yield stops_filing("us.1099-r.charity-too-young", at=paper.address("charity"), cites="IRC 408(d)(8)(B)(ii)",
                               says=f"{paper.title}: only from 70½ can an IRA pay a charity free of tax. Key it as a gift "
                                    "instead.")  # fmt: skip
        if "1" in paper.codes() and not paper.exception and run.form("us.distribution", paper.key).income > 0:
            yield idea("us.1099-r.early", at=paper.address("exception"), cites="IRC 72(t)(2)",
                       says=f"{paper.title} bears the additional 10%. Ask whether an exception applies: medical costs, "
                            "education, disability, a first home.")  # fmt: skip
    for form in run.every("us.8606"):
        account = next(iter(run.papers("ira", form.key)), None)
        if (
            form.required()
            and form.basis > 0
            and form.distributions + form.conversions > 0
            and not account.is_keyed("value_at_end")
        ):
            yield stops_filing("us.ira.value-missing", at=account.address("value_at_end"), cites="IRC 408(d)(2)",
                               says="Part of the distribution is basis, in the proportion to all IRAs. Key their value at year "
                                    "end, 0 if nothing is left.")  # fmt: skip


def health_savings(run):
    for form in run.every("us.8889"):
        papers = run.papers("hsa", form.key)
        if form.employer > 0 and not papers:
            wage = next(w for w in run.papers("w2", form.key) if w.coded({"W"}))
            yield stops_filing("us.hsa.cover-missing", at=wage.address("codes"), cites="IRC 223",
                               says=f"{wage.title} paid into a health savings account. Add the paper for it and key the months "
                                    "of cover.")  # fmt: skip
        elif papers and form.employer_excess > 0:
            yield stops_filing("us.hsa.employer-excess", at=form.address("others"), cites="IRC 106(d)",
                               says="The employer paid more than the limit. The excess is income unless it was taken out; "
                                    "that is not computed yet.")  # fmt: skip
        if form.taxable > 0:
            yield check("us.hsa.not-medical", at=form.address("taxable"), cites="IRC 223(f)(2)",
                        says=f"{form.taxable:,} of the health savings account was not spent on medical costs and is income. "
                             "Key the medical costs if they are missing.")  # fmt: skip


def business_facts(run):
    above = run.form("us.8995").exists and run.form("us.8995").above_threshold
    for one in run.every("us.sch-c"):
        books = one.books
        if above and books.service_trade is None and not books.not_qualified:
            yield stops_filing("us.business.service-open", at=books.address("service_trade"), cites="IRC 199A(d)(2)",
                               says=f"{books.title}: income is above the threshold. Is it a specified service trade? The "
                                    "deduction depends on it.")  # fmt: skip
        if books.miles and books.car_evidence is None and books.car_method != "actual":
            yield check("us.business.car-evidence", at=books.address("car_evidence"), cites="IRC 274(d)",
                        says=f"{books.title}: miles need a written record. Ask for it and answer line 47.")  # fmt: skip
        if books.must_report and books.did_report is not True:
            yield check("us.business.statements-due", at=books.address("did_report"), cites="IRC 6041",
                        says=f"{books.title} made payments that need a 1099. Were they sent? Answer line J.")  # fmt: skip


def deductions(run):
    for paper in run.papers("1098"):
        if paper.interest and not paper.principal and not paper.average and paper.use != "other":
            yield check("us.1098.principal-missing", at=paper.address("principal"), cites="IRC 163(h)(3)",
                        says=f"{paper.title}: without box 2 the limit on debt cannot be tested. Copy it.")  # fmt: skip
    for paper in run.papers("gift"):
        if paper.amount >= 250 and paper.acknowledged is None:
            yield check("us.gift.acknowledgement", at=paper.address("acknowledged"), cites="IRC 170(f)(8)",
                        says=f"{paper.title}: a gift of 250 or more needs a written acknowledgement. Is it there?")  # fmt: skip
    for paper in run.papers("adjustments"):
        for row in paper.alimony:
            if row.amount and row.since is not None and row.since.year >= 2019:
                yield check("us.alimony.new-agreement", at=row.address("since"), cites="P.L. 115-97, sec. 11051",
                            says="Alimony under an agreement of 2019 or later is not deducted. Right unless the date is "
                                 "wrong.")  # fmt: skip
    for paper in run.papers("car-loan"):
        reason = _car_reason(paper)
        if paper.interest and reason:
            yield check("us.car-loan.not-deducted", at=paper.address("interest"), cites="IRC 163(h)(4)",
                        says=f"{paper.title}: not deducted, because {reason}. Correct the answer if it is wrong.")  # fmt: skip


def _car_reason(paper):
    reasons = [
        (paper.loan_date is not None and paper.loan_date.year >= 2025, "the loan was made before 2025"),
        (paper.new_for_owner, "the car was not new"),
        (paper.assembled_here, "final assembly in the US is not confirmed"),
        (paper.personal, "it is not for personal use"),
    ]
    return next((reason for holds, reason in reasons if not holds), "")


def payments(run):
    for row in run.single("estimates").rows:
        early, late = (run.year, 1, 1), (run.year + 1, 1, 31)
        if row.paid is not None and not early <= row.paid.timetuple()[:3] <= late:
            yield check("us.estimates.other-year", at=row.address("paid"), cites="IRC 6654(c)",
                        says=f"A payment of {row.paid:%d %B %Y} is hardly an estimate for {run.year}. Compare it with the "
                             "client's records.")  # fmt: skip
    form = run.form("us.8888")
    if form.required() and form.together != run.form("us.1040").refund:
        yield stops_filing("us.split-deposit.sum", at=run.single("split-deposit").address("rows"),
                           says=f"The accounts make {form.together:,}; the refund is {run.form('us.1040').refund:,}. Make them "
                                "equal.")  # fmt: skip
    deposit = run.single("deposit")
    if deposit.applied_to_next_year > run.form("us.1040").overpaid:
        yield stops_filing("us.deposit.applied-too-much", at=deposit.address("applied_to_next_year"),
                           says="More is applied to next year than was overpaid. Lower it.")  # fmt: skip


def shared_limits(run):
    """Two spouses under one family plan share its limit. IRC 223(b)(5)."""
    forms = [form for form in run.every("us.8889") if run.papers("hsa", form.key)]
    family = [form for form in forms if any(row.kind == "family" for row in run.papers("hsa", form.key)[0].coverage)]
    if len(family) == 2 and sum((form.own_limit for form in family), ZERO) > run.laws["us"].hsa.family:
        yield stops_filing("us.hsa.limit-twice", at=run.papers("hsa", "taxpayer")[0].address("spouses_part"),
                           cites="IRC 223(b)(5)", says="Both spouses use the whole family limit, which they share. Key how "
                           "much of it goes to the other.")  # fmt: skip


CHECKS = (
    statement_without_business, refund_without_last_year, refund_of_another_year, distributions_of_capital,
    lump_sum_of_benefits, parents_figures, foreign_accounts, digital_assets, sales_rows,
    retirement, health_savings, business_facts, deductions, payments, shared_limits,
)  # fmt: skip
