"""What changes for this client next year: the law that is known already, laid beside this year's. Silent where it is not."""

from taxcore.engine import found, idea
from taxcore.engine import law as law_files


def next_law(run):
    """The federal law of the year after, or None where it is not in the files."""
    return law_files.load(run.pack.law["us"], run.year + 1) if run.year + 1 in run.pack.years else None


@idea("us.next-year.child-17", "Child turns 17 next year", "next-year", "IRC 24(c)(1)")
@idea("us.next-year.child-19", "Child turns 19 next year", "next-year", "IRC 152(c)(3)")
@idea("us.next-year.student-24", "Student turns 24 next year", "next-year", "IRC 152(c)(3)")
def children(run):
    for one in run.every("us.dependent"):
        if one.not_a_child or one.who.disabled or one.who.birth_date is None:
            continue
        who, years = one.who, one.who.years_old() + 1
        at = who.address("birth_date")
        if years == run.laws["us"].child_credit.age_below and one.child_credit > 0:
            yield found(
                at,
                f"{who.title} turns {years} next year: {one.child_credit:,} of child tax credit becomes "
                f"{run.laws['us'].child_credit.other_each:,}. Adjust withholding.",
                code="us.next-year.child-17",
            )
        if years == 19 and not who.student:
            yield found(
                at,
                f"{who.title} turns 19 next year and is a dependent then only as a full-time student, or with little income.",
                code="us.next-year.child-19",
            )
        if years == 24 and who.student:
            yield found(
                at, f"{who.title} turns 24 next year: student status no longer qualifies.", code="us.next-year.student-24"
            )


@idea("us.next-year.gift-floor", "Next year: floor on charitable contributions", "next-year", "IRC 170(b)(1)(I)")
@idea("us.next-year.gift-without-itemizing", "Next year: contributions deductible without itemizing", "next-year", "IRC 170(p)")
@idea("us.next-year.gambling", "Next year: gambling losses limited to 90%", "next-year", "IRC 165(d)(1)")
@idea("us.next-year.mortgage-insurance", "Next year: mortgage insurance deductible", "next-year", "IRC 163(h)(3)(E)")
@idea("us.next-year.salt-cap", "Next year: SALT cap changes", "next-year", "IRC 164(b)(7)")
def deductions(run):
    later, law = next_law(run), run.laws["us"].itemized
    if later is None:
        return
    form, new, costs = run.form("us.1040"), later.itemized, run.single("itemized")
    begins = "from_2026" in new and "from_2026" not in law
    gifts = [paper for paper in run.papers("gift") if paper.amount]
    if begins and gifts and form.is_itemised:
        floor = new.from_2026.gift_floor * max(form.adjusted_gross_income, 0)
        yield found(
            gifts[0].address("amount"),
            f"From {run.year + 1} only contributions above {new.from_2026.gift_floor:.1%} of income count, about "
            f"{floor:,.0f} here. Contributions made before year end are deductible in full.",
            code="us.next-year.gift-floor",
        )
    if "gifts_without_itemizing" in new and "gifts_without_itemizing" not in law and gifts and not form.is_itemised:
        yield found(
            gifts[0].address("amount"),
            f"From {run.year + 1} up to {new.gifts_without_itemizing[form.status]:,} of cash contributions is "
            "deductible without itemizing. Keep the receipts.",
            code="us.next-year.gift-without-itemizing",
        )
    if begins and costs.gambling_losses:
        yield found(
            costs.address("gambling_losses"),
            f"From {run.year + 1} {new.from_2026.gambling_share:.0%} of losses is deductible against winnings, so a "
            "break-even year is taxed.",
            code="us.next-year.gambling",
        )
    for paper in run.papers("1098") if begins else ():
        if paper.insurance:
            yield found(
                paper.address("insurance"),
                f"{paper.title}: mortgage insurance is deductible from {run.year + 1}, up to an income limit.",
                code="us.next-year.mortgage-insurance",
            )
    if form.is_itemised and new.state_tax_cap[form.status] != law.state_tax_cap[form.status]:
        schedule = run.form("us.sch-a")
        if schedule.taxes_together > min(schedule.cap, new.state_tax_cap[form.status]):
            yield found(
                (schedule.address("cap"), schedule.address("taxes_together")),
                f"The cap on state and local taxes is {law.state_tax_cap[form.status]:,} this year and "
                f"{new.state_tax_cap[form.status]:,} next year, less for high incomes. Timing of payments matters.",
                code="us.next-year.salt-cap",
            )


@idea(
    "us.next-year.premium-cliff",
    "Next year: no premium tax credit above 400% of the poverty line",
    "next-year",
    "IRC 36B(c)(1)(A)",
)
@idea("us.next-year.care-rate", "Next year: higher care credit rate", "next-year", "IRC 21(a)(2)")
@idea("us.next-year.care-benefits", "Next year: higher dependent care exclusion", "next-year", "IRC 129(a)(2)(A)")
@idea("us.next-year.clean-energy-ends", "Energy credits end this year", "next-year", "IRC 25C(h), 25D(h)")
def credits_(run):
    later, law = next_law(run), run.laws["us"]
    if later is None:
        return
    if (
        run.papers("1095-a")
        and "most_share_of_poverty" in later.premium_credit
        and "most_share_of_poverty" not in law.premium_credit
    ):
        form = run.form("us.8962")
        if form.percent > 100 * later.premium_credit.most_share_of_poverty * 9 / 10:
            yield found(
                (form.address("percent"), run.papers("1095-a")[0].address("months")),
                f"Income is {form.percent:.0f}% of the poverty line. From {run.year + 1} there is no premium tax credit "
                "above 400%, and all advance payments are repaid.",
                code="us.next-year.premium-cliff",
            )
    if run.papers("care") and later.care.most > law.care.most and run.form("us.2441").credit > 0:
        form = run.form("us.2441")
        yield found(
            form.address("rate"),
            f"The care credit's highest rate is {law.care.most:.0%} this year and {later.care.most:.0%} next year. "
            "See the effect in a planning return.",
            code="us.next-year.care-rate",
        )
    status = run.form("us.1040").status
    for wage in run.papers("w2"):
        if wage.care_benefits >= law.care.excluded[status] and later.care.excluded[status] > law.care.excluded[status]:
            yield found(
                wage.address("care_benefits"),
                f"An employer may provide {later.care.excluded[status]:,} of tax-free dependent care next year, "
                f"{law.care.excluded[status]:,} this year. It is elected at open enrollment.",
                code="us.next-year.care-benefits",
            )
    energy = run.single("energy")
    if energy.values and "clean_energy" in law and "clean_energy" not in later:
        yield found(
            energy.address("insulation"),
            f"These credits end: nothing paid after {run.year} counts.",
            code="us.next-year.clean-energy-ends",
        )


@idea("us.next-year.minimum-tax", "Next year: AMT exemption phases out sooner", "next-year", "IRC 55(d)(3)")
@idea("us.seniors.cut", "Enhanced senior deduction reduced", "lost", "IRC 151(d)(5)(C)")
@idea("us.additional.cut", "Schedule 1-A deduction phased out", "lost", "IRC 163(h)(4), 224, 225")
def incomes(run):
    later, law, form = next_law(run), run.laws["us"], run.form("us.1040")
    if _falls_sooner(later, law, form):
        yield found(
            form.address("adjusted_gross_income"),
            "Next year the AMT exemption phases out from a lower income and twice as fast. Plan option exercises.",
            code="us.next-year.minimum-tax",
        )
    if run.year < 2025 or form.additional_in_all == 0:
        return
    schedule = run.form("us.sch-1-a")
    if schedule.reduction > 0:
        yield found(
            (schedule.address("reduction"), schedule.address("seniors")),
            f"The senior deduction is {schedule.seniors:,}: income above the threshold reduces it. Retirement "
            "contributions lower that income.",
            code="us.seniors.cut",
        )
    pairs = (("tips", "tips_reduction"), ("overtime", "overtime_reduction"), ("car_interest", "car_reduction"))
    if any(getattr(schedule, what) > 0 and getattr(schedule, cut) > 0 for what, cut in pairs):
        yield found(
            schedule.address("modified_agi"),
            "Tips, overtime or car interest are not deducted in full, because income is above a threshold.",
            code="us.additional.cut",
        )


def _falls_sooner(later, law, form):
    """The alternative minimum tax's exemption falls from a lower income next year, and this income is above it."""
    if later is None:
        return False
    sooner = later.minimum_tax.falls_from[form.status]
    return form.adjusted_gross_income > sooner < law.minimum_tax.falls_from[form.status]


CHECKS = (children, deductions, credits_, incomes)
