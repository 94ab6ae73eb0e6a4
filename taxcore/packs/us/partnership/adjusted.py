"""Basis adjustments after a transfer of an interest or a distribution, as entered, with what they do to the year.

A transferee's own adjustment goes into nobody else's share, nor into capital: IRC 743(b), 754; 26 CFR 1.743-1(j)(2). One of the
partnership's own property (IRC 734(b)) goes into the register like the property itself: 26 CFR 1.734-1(e).
"""

from taxcore.engine import Amount, Choice, Refer, Row, Rows, Text, check, found, stops, total
from taxcore.packs.us.entity.base import EntityPaper

_ITEMS = {
    "1": "Ordinary business income (loss)", "2": "Net rental real estate income (loss)",
    "9a": "Net long-term capital gain (loss)", "10": "Net section 1231 gain (loss)",
}  # fmt: skip
HOW = {
    "partner": "A partner's basis, section 743(b)", "property": "Property of the partnership, section 734(b)",
    "both": "Both", "election": "Nothing yet: the election alone",
}  # fmt: skip
_WHY = {"election": "Section 754 election", "loss": "Substantial built-in loss, section 743(d)"}


class EffectRow(Row):
    item = Choice(None, "Item of Schedule K", _ITEMS, needed="Choose what it changes.")
    amount = Amount(None, "Effect on income", negative=True, help="Below zero where it is a deduction or takes off gain.")


class BasisAdjustment(EntityPaper):
    """One property's basis for one partner who came by transfer. IRC 743(b), 755; 26 CFR 1.743-1(j), (k)."""

    kind, name, official, group = "basis-adjustment", "Section 743(b) adjustment", "26 CFR 1.743-1", "owners"
    again = True
    short, heading = "Section 743(b) adjustment", "property"

    property = Text(None, "Property", longest=60, needed="Name the property or its class.", kept=True)
    partner = Refer(None, "Partner", ("partner",), needed="Choose whose basis it is.", kept=True)
    why = Choice(None, "Why", _WHY, needed="Without either there is no adjustment.", kept=True)
    left = Amount("20U", "Basis adjustment remaining, end of year", negative=True, help="Net of what was deducted or recognized.")
    rows = Rows(None, "Effect this year", EffectRow)

    def comes_again(self):
        return True


def _effects(run):
    """{(item, partner): amounts} of what adjustments do to each item of each partner."""
    found = {}
    for paper in run.papers("basis-adjustment"):
        for row in paper.rows:
            if row.item and row.amount:
                found.setdefault((row.item, paper.partner), []).append(row.amount)
    return found


def effect_on(run, item, partner):
    """What basis adjustments make of one item of one partner."""
    return total(run.once(_effects).get((item, partner), ()))


def left_of(run, partner):
    return total([paper.left for paper in run.papers("basis-adjustment") if paper.partner == partner])


@stops("us.1065.adjusted-how", "Schedule B, line 10: kind of basis adjustment missing", "missing", "Schedule B, line 10")
@stops("us.1065.adjusted-missing", "Section 743(b) adjustment missing", "missing", "26 CFR 1.743-1(j)")
@stops("us.1065.adjusted-answer", "Section 743(b) adjustment, and Schedule B says none", "conflict", "Schedule B, line 10")
@stops("us.adjusted.left", "Section 743(b) adjustment: remaining amount missing", "missing", "Schedule K-1, box 20, code U")
@stops("us.adjusted.cents", "Section 743(b) adjustment with cents", "conflict", "Schedule K-1")
@check("us.adjusted.nothing", "Section 743(b) adjustment without an effect this year", "unlikely", "26 CFR 1.743-1(j)(3), (4)")
@check("us.adjusted.sign", "Section 743(b) adjustment that raises income of the business", "unlikely", "26 CFR 1.743-1(j)(4)")
@check("us.adjusted.attached", "Section 743(b) adjustment without its statement", "missing", "26 CFR 1.743-1(k)(1)")
@check("us.1065.property-adjusted", "Section 734(b): property of the partnership", "unlikely", "26 CFR 1.734-1(e)")
def adjusted(run):
    about, papers = run.single("about"), run.papers("basis-adjustment")
    if about.basis_adjusted and not about.adjusted_how:
        says = "Choose whether a partner's basis or the partnership's property was adjusted, or only the election was made."
        yield found(about.address("adjusted_how"), says, code="us.1065.adjusted-how")
    wanted = about.basis_adjusted and about.adjusted_how in ("partner", "both")
    if wanted and not papers:
        says = "Add each partner's adjustment with its effect. Schedule K-1 reports it in boxes 11, 13 and 20."
        yield found(about.address("adjusted_how"), says, code="us.1065.adjusted-missing")
    if papers and not wanted and not (about.basis_adjusted and not about.adjusted_how):
        says = "Answer yes on Schedule B, line 10, and choose a partner's basis; or remove the adjustment."
        yield found(about.address("basis_adjusted"), says, code="us.1065.adjusted-answer")
    if about.basis_adjusted and about.adjusted_how in ("property", "both"):
        says = (
            "Enter an increase in the register as a new asset placed in service on that day; lower the basis of assets for a "
            "decrease. Enter the change of capital under each partner, item L."
        )
        yield found(about.address("adjusted_how"), says, code="us.1065.property-adjusted")
    for paper in papers:
        yield from _of_one(paper)


def _of_one(paper):
    if not paper.is_keyed("left"):
        says = f"Enter the basis adjustment of {paper.property or 'the property'} remaining at the end of the year, or 0."
        yield found(paper.address("left"), says, code="us.adjusted.left")
    if not paper.rows and paper.left:
        says = "Enter this year's depreciation, amortization or gain of the adjustment. Land has none."
        yield found(paper.address("rows"), says, code="us.adjusted.nothing")
    cents = next((row for row in paper.rows if row.amount % 1), None)
    if cents is not None:
        yield found(cents.address("amount"), "Schedules K-1 have whole dollars. Round it.", code="us.adjusted.cents")
    raised = next((row for row in paper.rows if row.item in ("1", "2") and row.amount > 0 and paper.left > 0), None)
    if raised is not None:
        says = "An increase of basis adds depreciation, which is entered as a negative amount. Check the sign."
        yield found(raised.address("amount"), says, code="us.adjusted.sign")
    if not paper.attached:
        says = "The return for the year of the transfer needs a statement of how it was computed and allocated. Attach it here."
        yield found(paper.address("property"), says, code="us.adjusted.attached")
