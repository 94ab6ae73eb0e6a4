"""The computation of gains that goes with the return: disposals, what shares were matched with, and how the tax follows.

A row for each disposal, however many there are: SA108 asks for the computations of all that are reported.
"""

from decimal import Decimal

from taxcore.engine.outgoing import Attachable, Drawn, DrawnTable, Outgoing, PaperReason
from taxcore.packs.uk.individual.choices import KINDS_OF_ASSET
from taxcore.packs.uk.individual.gains import in_order
from taxcore.packs.uk.individual.lender import statements

_HOW = {"same day": "same day", "thirty days": "within thirty days", "pool": "pool"}
_AT = {"": "", "business": "business asset disposal relief", "investors": "investors' relief"}


def drawn(result, authority):
    """One document where the gains pages go with the return."""
    run = result.run
    if authority != "uk" or run.is_idle("uk.sa108") or not run.form("uk.sa108").required():
        return ()
    page, tax = run.form("uk.sa108"), run.form("uk.gains-tax")
    tables = [_disposals(page)]
    if matches := _matches(page):
        tables.append(matches)
    tables += [_summary(page, tax), _rates(tax)]
    remarks = (
        f"Losses and the exempt amount stand where they save most: {tax.saved:,.2f} less than against the lowest rates first.",
    )
    return (Drawn("gains-computation", "Capital gains computation", tuple(tables), remarks if tax.saved else ()),)


def _day(day):
    return "" if day is None else f"{day:%-d %B %Y}"


def _disposals(page):
    rows = tuple(
        (
            one.asset,
            KINDS_OF_ASSET[one.kind],
            _day(one.day),
            one.proceeds,
            one.cost,
            _AT[one.at],
            one.whole - one.gain,
            one.gain - one.loss,
        )
        for one in page.sales()
    )
    heads = ("Asset", "Kind", "Disposed of", "Proceeds", "Costs", "Rate claimed", "Relieved", "Gain or loss")
    sums = ("Together", "", "", *(sum((row[place] for row in rows), Decimal(0)) for place in (3, 4)), "",
            *(sum((row[place] for row in rows), Decimal(0)) for place in (6, 7)))  # fmt: skip
    return DrawnTable("Disposals", heads, rows, sums)


def _matches(page):
    rows = tuple(
        (sale.asset, _day(sale.day), _HOW[one.how], f"{one.number.normalize():f}", round(one.cost, 2))
        for sale in page.sales()
        for one in sale.matches
    )
    return DrawnTable("What shares were matched with", ("Shares", "Sold", "Matched", "Number", "Cost"), rows) if rows else None


def _summary(page, tax):
    rows = (
        ("Gains of the year", page.gains), ("Losses of the year", page.losses),
        ("Losses brought forward and used", page.losses_before), ("Annual exempt amount", tax.exempt),
        ("Taxable gains", tax.taxable), ("Losses carried forward", page.carried_on),
    )  # fmt: skip
    return DrawnTable("Summary", ("", "£"), rows)


def _rates(tax):
    rows = tuple((f"{rate * 100:.0f}%", amount, charged) for rate, amount, charged in in_order(tax))
    return DrawnTable("Tax", ("Rate", "Gains", "Tax"), rows, ("Together", tax.taxable, tax.tax))


_DECLARED = (
    "I declare that this return is correct and complete to the best of my knowledge and belief. I know that false information "
    "can lead to penalties and prosecution."
)
OUTGOING = Outgoing(
    attachable=(
        Attachable("gains-computation", "Capital gains computation", "SA108 notes"),
        Attachable("claim", "Claim to a relief, signed", "TCGA 1992 ss. 152, 165"),
        Attachable("other", "Other supporting document", "SA100 notes"),
    ),
    paper_reasons=(
        PaperReason("exclusion", "HMRC excludes it from online filing", "Which exclusion applies", "SA online filing exclusions"),
        PaperReason("wish", "The client files on paper, by 31 October", "", "TMA 1970 s. 8(1D)"),
    ),
    signs=f"{_DECLARED} {{practice}} may send it to {{authority}} for me.",
    authorizes=(
        f"{_DECLARED} I have seen the tax calculation. {{practice}} may send the return for {{year}} to {{authority}} for me."
    ),
    filing_number="agent code",
    signs_on_paper=_DECLARED,
    drawn=drawn, statements=statements,
)  # fmt: skip
