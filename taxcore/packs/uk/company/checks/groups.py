"""Group relief, donations, loans to participators, and pages that are not made here and stop filing by their names."""

from datetime import timedelta

from taxcore.engine import check, found, stops
from taxcore.packs.uk.company.base import days_shared, months_after
from taxcore.packs.uk.company.claims import Supplementary

_BED = 5_000
_ONE = timedelta(days=1)


@stops("uk.ct-group-lost", "Claimed above what the other company lost", "conflict", "CTA 2010 s. 138")
@stops("uk.ct-group-days", "Periods that have no day in common", "rule", "CTA 2010 s. 142")
@stops("uk.ct-group-consent", "Group relief without consent", "missing", "FA 1998 Sch. 18 para. 70")
@check("uk.ct-group-copy", "Copies of the consents go with the return", "missing", "FA 1998 Sch. 18 para. 70")
@stops("uk.ct-given-copy", "A loss is given up, and the company has not consented", "missing", "FA 1998 Sch. 18 para. 70")
@stops("uk.ct-group-both", "Group relief given up and claimed in one period", "conflict", "CTA 2010 ss. 99, 130")
@check("uk.ct-group-above", "Group relief above the profits", "rule", "CTA 2010 s. 137")
def relief(run):
    for paper in run.papers("group"):
        form = run.form("uk.ct600c")
        for row, amount in form.taken():
            both = row.begun is not None and row.ended is not None
            if both and not days_shared(run.period, (row.begun, row.ended)):
                yield found(row.address("begun"), "Relief goes by the days that both periods have.", code="uk.ct-group-days")
            elif row.amount > form.most_lost(row):
                says = f"Of its loss {form.most_lost(row):,.0f} fall on the days that both periods have."
                yield found(row.address("amount"), says, code="uk.ct-group-lost")
            elif row.amount > amount:
                says = f"Profits of those days leave room for {amount:,.0f}. Claim no more."
                yield found(row.address("amount"), says, code="uk.ct-group-above")
            if not row.consented:
                yield found(row.address("consented"), "Have its written consent first.", code="uk.ct-group-consent")
        if paper.claims and not paper.attached:
            yield found(paper.address("claims"), "Attach them, and send them along.", code="uk.ct-group-copy")
        for row in paper.given:
            if not row.consented:
                says = "Have it consent in writing: it says so to HMRC and to the other company."
                yield found(row.address("consented"), says, code="uk.ct-given-copy")
        if paper.claims and paper.given:
            says = "A company with a loss has no use for that of another."
            yield found(paper.address("given"), says, code="uk.ct-group-both")


@stops("uk.ct-surrender-above", "More given up than was lost", "conflict", "CTA 2010 ss. 99, 105")
def given_up(run):
    """A trading loss and a deficit may be given up whole; of lettings and donations what is above all profits: s. 105."""
    form = run.form("uk.ct600")
    most = {
        "trade": form.trade.loss, "deficit": form.deficit, "property": form.lettings_lost - form.lettings_lost_used,
        "donations": form.accounts.donations + run.single("reliefs").donations - form.donations,
    }  # fmt: skip
    for paper in run.papers("group"):
        for sort, limit in most.items():
            rows = [row for row in paper.given if row.sort == sort]
            if sum(row.amount for row in rows) > limit:
                yield found(rows[-1].address("amount"), f"No more than {limit:,.0f} can be.", code="uk.ct-surrender-above")


@check("uk.ct-donations-above", "Donations above the profits are lost", "rule", "CTA 2010 s. 189(2)")
def donations(run):
    for paper in run.papers("reliefs"):
        if paper.donations > run.form("uk.ct600").donations:
            yield found(paper.address("donations"), "They cannot be carried forward.", code="uk.ct-donations-above")


@stops("uk.ct-loan-day", "A loan made after the period", "conflict", "CTA 2010 s. 455")
@stops("uk.ct-loan-repaid", "More repaid than was owed", "conflict", "CTA 2010 s. 458")
@stops("uk.ct-loan-later", "Repaid later: the day is missing, or within nine months", "conflict", "CTA 2010 s. 458(5)")
@check("uk.ct-loan-later-due", "Relief for what was repaid later has its day", "rule", "CTA 2010 s. 458(5)")
@check("uk.ct-loan-again", "A loan that was repaid: was it lent again?", "rule", "CTA 2010 s. 464C")
@check("uk.ct-loan-benefit", "A loan above 10,000 is a benefit of the director", "missed", "ITEPA 2003 s. 175")
def loans(run):
    for row in (row for paper in run.papers("loans") for row in paper.loans):
        if row.made is not None and row.made > run.period.end:
            yield found(row.address("made"), "It belongs to a later period.", code="uk.ct-loan-day")
        if row.repaid + row.later > row.amount:
            yield found(row.address("repaid"), "Check the amounts.", code="uk.ct-loan-repaid")
        if row.later:
            yield from _later(run, row)
        if row.repaid + row.later >= _BED:
            says = "What is lent again within thirty days, or was meant to be, counts as not repaid."
            yield found(row.address("repaid"), says, code="uk.ct-loan-again")
        if row.amount > 10_000:
            says = "It stands on the director's own return, unless interest is paid."
            yield found(row.address("amount"), says, code="uk.ct-loan-benefit")


def _later(run, row):
    """Nine months after the end of the period in which it was repaid: periods of twelve months are taken to follow."""
    if row.later_on is None or row.later_on <= months_after(run.period.end, 9):
        says = "Enter the day; what was repaid within nine months stands in the column before."
        yield found(row.address("later_on"), says, code="uk.ct-loan-later")
        return
    end = run.period.end
    while end < row.later_on:
        end = months_after(end, 12)
    says = f"It is due from {months_after(end, 9) + _ONE:%-d %B %Y} on. Before that day claim it later, in an amended return."
    yield found(row.address("later"), says, code="uk.ct-loan-later-due")


def _not_made(name, field):
    """The diagnostic of a page that is called for and not made here."""
    page = field.numbers

    @stops(f"uk.ct-{page.lower()}", field.label, "unsupported", field.cites)
    def called_for(run):
        for paper in run.papers("supplementary"):
            if getattr(paper, name):
                yield found(paper.address(name), f"{page} is not made here. The return cannot be filed from here.")

    return called_for


NOT_MADE = tuple(_not_made(name, field) for name, field in Supplementary.fields().items())
CHECKS = (relief, given_up, donations, loans, *NOT_MADE)
