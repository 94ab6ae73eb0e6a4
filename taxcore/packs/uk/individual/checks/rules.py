"""What the law does not let stand together, and what is not computed and therefore stops."""

from taxcore.engine import check, found, stops
from taxcore.engine.amending import differing
from taxcore.packs.uk.individual.disposals import deals_of
from taxcore.packs.uk.individual.pool import NotMatched, matched


@stops("uk.number-prefix", "National Insurance number that is never issued", "format", "NIM39110")
def prefix(run):
    for person in run.people("taxpayer"):
        if (person.number or "")[:2] in ("BG", "GB", "KN", "NK", "NT", "TN", "ZZ"):
            yield found(person.address("number"), "These two letters are not issued. Copy the number from a payslip.")


@stops("uk.trading-allowance-twice", "Trading allowance claimed for more than one trade", "rule", "ITTOIA 2005 s. 783AD")
def allowance_twice(run):
    claimed = [one for one in run.papers("trade") if one.use_allowance]
    if len(claimed) > 1 or (claimed and len(run.papers("trade")) > len(claimed)):
        yield found(
            claimed[0].address("use_allowance"), "The trading allowance covers all trades together. Enter one trade, or expenses."
        )


@stops("uk.couples-allowance", "Born before 6 April 1935", "unsupported", "ITA 2007 s. 45")
def old_couple(run):
    for person in run.people("taxpayer"):
        if person.birth_date is not None and person.birth_date.isoformat() < "1935-04-06":
            yield found(person.address("birth_date"), "The married couple's allowance may be due. It is not supported yet.")


@stops("uk.allowance-transferred", "Allowance given and received", "conflict", "ITA 2007 s. 55C")
def transferred(run):
    about = run.single("about")
    if about.gives_allowance and about.receives_allowance:
        yield found(
            about.address("gives_allowance"), "The allowance is either transferred or received. Remove one of the answers."
        )


@stops("uk.marriage-allowance-rate", "Marriage allowance of somebody above the basic rate", "rule", "ITA 2007 s. 55B(2)(b)")
def above_basic(run):
    about, tax = run.single("about"), run.form("uk.income-tax")
    limit = tax.edges("basic")[1]
    if about.receives_allowance and tax.taxable > limit:
        yield found(
            about.address("receives_allowance"),
            "Who is taxed above the basic rate cannot receive the allowance. Remove the answer.",
        )


@stops("uk.class-4-trades", "Private use, cars and large balances", "unlikely", "CAA 2001 s. 56A")
def small_pool(run):
    for paper in run.papers("trade"):
        if paper.small_pool > 1_000:
            yield found(
                paper.address("small_pool"),
                "The allowance for a small balance is at most 1,000. Enter the rest as other allowances.",
            )


@stops("uk.foreign-no-agreement", "Credit claimed, and no limit is known", "missing", "TIOPA 2010 ss. 18, 33")
def no_agreement(run):
    for form in run.every("uk.foreign-item"):
        paper = form.paper
        if paper.claims and paper.tax > 0 and form.agreement is None and not paper.is_keyed("limit_percent"):
            says = (
                f"The agreement with {paper.country or 'the country'} is not known here for this income. Enter the limit and why."
            )
            yield found(paper.address("limit_percent"), says)


@stops("uk.foreign-limit-unexplained", "A limit that differs from the agreement's has no reason", "missing", "TIOPA 2010 s. 33")
def limit_unexplained(run):
    for form in run.every("uk.foreign-item"):
        if form.paper.is_keyed("limit_percent") and not form.paper.limit_reason:
            yield found(form.paper.address("limit_reason"), "Enter why the limit of the foreign tax is set here.")


@check("uk.foreign-above-limit", "Foreign tax above the agreement's limit", "missed", "TIOPA 2010 s. 33")
def above_limit(run):
    for form in run.every("uk.foreign-item"):
        if form.paper.claims and form.creditable < form.paper.tax and not form.paper.unremittable:
            over = form.paper.tax - form.creditable
            yield found(
                form.paper.address("tax"),
                f"{over:,.2f} of the tax is above the limit. It is reclaimed in that country, not here.",
            )


@check("uk.foreign-order", "The best order of foreign items differs from that of entry", "election", "TIOPA 2010 s. 36")
def better_order(run):
    form = run.form("uk.foreign-credit")
    if run.papers("foreign") and form.better > 0:
        yield found(form.address("relief"), f"Credit in the best order is {form.better:,.2f} more than item by item as entered.")


@check("uk.lived-in", "A home was sold: was it the main residence?", "missed", "TCGA 1992 s. 222")
def lived_in(run):
    for row in (row for paper in run.papers("gains") for row in paper.disposals):
        if row.kind == "residential":
            yield found(
                row.address("kind"), "If it ever was the main residence, part of the gain is relieved. Enter it as a home sold."
            )


@stops("uk.shares-unmatched", "More shares sold than bought", "conflict", "TCGA 1992 ss. 104 to 106A")
def unmatched(run):
    for paper in run.papers("shares"):
        try:
            matched(deals_of(paper))
        except NotMatched as wrong:
            yield found(paper.address("deals"), f"{wrong} Enter the purchases that are missing.")


@stops("uk.amendment-nothing", "An amendment that changes nothing", "conflict", "TMA 1970 s. 9ZA")
def nothing_amended(run):
    if run.amends is None:
        return
    filed = [one for one in run.pack.authorities if one.code in run.amends.filed]
    if not any(run.pack.correcting.sent_anyway(run, one) or any(differing(run, one)) for one in filed):
        says = "The calculation is as filed. Enter the change, or say that it is sent all the same."
        yield found(run.single("amendment").address("anyway"), says)


@check("uk.investors-lifetime", "Investors' relief: lifetime limit", "rule", "TCGA 1992 s. 169VK")
def investors(run):
    rows = [row for paper in run.papers("gains") for row in paper.disposals if row.relief == "investors"]
    if rows:
        limit = run.laws["uk"].gains.investors.lifetime
        yield found(rows[0].address("relief"), f"Check that the relief of all years together stays within {limit:,.0f}.")


@check("uk.business-relief-lifetime", "Business asset disposal relief: lifetime limit", "rule", "TCGA 1992 s. 169N(3)")
def business_relief(run):
    rows = [row for paper in run.papers("gains") for row in paper.disposals if row.business]
    if rows:
        limit = run.laws["uk"].gains.business.lifetime
        yield found(
            run.single("gains").address("business_before"),
            f"Check that the relief of all years together stays within {limit:,.0f}.",
        )


CHECKS = (
    prefix, nothing_amended, investors,
    allowance_twice, old_couple, transferred, above_basic, small_pool, business_relief, no_agreement, limit_unexplained,
    above_limit, better_order, unmatched, lived_in,
)  # fmt: skip
