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
    item = Choice(None, "Item of Schedule K", _ITEMS, needed="Choose what it changes.", kept=True)
    amount = Amount(None, "Effect on income", negative=True, help="Below zero where it is a deduction or takes off gain.")


class BasisAdjustment(EntityPaper):
    """One property's basis for one partner who came by transfer. IRC 743(b), 755; 26 CFR 1.743-1(j), (k)."""

    kind, name, official, group = "basis-adjustment", "Section 743(b) adjustment", "26 CFR 1.743-1", "owners"
    again = True
    short, heading = "Section 743(b) adjustment", "property"

    property = Text(None, "Property", longest=60, needed="Name the property or its class.", kept=True)
    partner = Refer(None, "Partner", ("partner",), needed="Choose whose basis it is.", kept=True)
    why = Choice(None, "Why", _WHY, needed="Without either there is no adjustment.", kept=True)
    left = Amount("20U", "Adjustment left at the end of the year", negative=True, help="Net of what was deducted or recognized.")
    rows = Rows(None, "Effect this year", EffectRow, kept=True)

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


@stops("us.1065.adjusted-how", "Basis adjusted, and not said of what", "missing", "Schedule B, line 10")
@stops("us.1065.adjusted-missing", "Section 743(b) adjustment missing", "missing", "26 CFR 1.743-1(j)")
@stops("us.1065.adjusted-answer", "Section 743(b) adjustment, and Schedule B says none", "conflict", "Schedule B, line 10")
@stops("us.adjusted.left", "Section 743(b) adjustment: what is left of it", "missing", "Schedule K-1, box 20, code U")
@stops("us.adjusted.cents", "Section 743(b) adjustment with cents", "conflict", "Schedule K-1")
@check("us.adjusted.sign", "Section 743(b) adjustment that raises income of the business", "unlikely", "26 CFR 1.743-1(j)(4)")
@check("us.adjusted.attached", "Section 743(b) adjustment without its statement", "missing", "26 CFR 1.743-1(k)(1)")
@check("us.1065.property-adjusted", "Section 734(b): property of the partnership", "unlikely", "26 CFR 1.734-1(e)")
def adjusted(run):
    about, papers = run.single("about"), run.papers("basis-adjustment")
    if about.basis_adjusted and not about.adjusted_how:
        yield found(
            about.address("adjusted_how"),
            "Say whether it was a partner's basis, property, or nothing yet.",
            code="us.1065.adjusted-how",
        )
    wanted = about.basis_adjusted and about.adjusted_how in ("partner", "both")
    if wanted and not papers:
        says = "Add each partner's adjustment with its effect: it is told in boxes 11, 13 and 20."
        yield found(about.address("adjusted_how"), says, code="us.1065.adjusted-missing")
    if papers and not wanted:
        says = "Answer Schedule B, line 10 with yes, of a partner's basis; or remove the adjustment."
        yield found(about.address("basis_adjusted"), says, code="us.1065.adjusted-answer")
    if about.basis_adjusted and about.adjusted_how in ("property", "both"):
        says = (
            "An increase is an asset of its own from that day, a decrease lowers the basis of assets. Enter it in the register, "
            "and what it did to capital under each partner, item L."
        )
        yield found(about.address("adjusted_how"), says, code="us.1065.property-adjusted")
    for paper in papers:
        yield from _of_one(paper)


def _of_one(paper):
    if not paper.is_keyed("left"):
        says = f"Enter what is left of the adjustment of {paper.property or 'it'} when the year ends, 0 where nothing is."
        yield found(paper.address("left"), says, code="us.adjusted.left")
    cents = next((row for row in paper.rows if row.amount % 1), None)
    if cents is not None:
        yield found(cents.address("amount"), "Schedules K-1 have whole dollars. Round it.", code="us.adjusted.cents")
    raised = next((row for row in paper.rows if row.item in ("1", "2") and row.amount > 0 and paper.left > 0), None)
    if raised is not None:
        says = "More basis gives more depreciation, which is entered below zero. Check the sign."
        yield found(raised.address("amount"), says, code="us.adjusted.sign")
    if not paper.attached:
        says = "The return for the year of the transfer has a statement of how it was computed and allocated. Keep it beside it."
        yield found(paper.address("property"), says, code="us.adjusted.attached")
