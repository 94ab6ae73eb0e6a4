"""What a change did, as plain values for the templates: bottom line, ripple, the history of a field."""

from dataclasses import dataclass
from decimal import Decimal
from itertools import groupby

from practice.firm.packs import word
from taxcore.engine import ripple


@dataclass
class BottomView:
    name: str
    amount: Decimal
    word: str
    moved: Decimal
    address: str = ""


def bottom_view(after, before=None, opened=None):
    """What the strip at the bottom edge shows. `opened` are amounts by authority when the return was opened."""
    if after.run.pack.headline:
        lines = [*_headline(after, before), *_owed(after, before)[1:]]
        return {"lines": lines, "pays": False, "since_opened": Decimal(0), "counts": after.counts}
    lines = _owed(after, before)
    together = sum((line.amount for line in lines), Decimal(0))
    start = sum((Decimal(amount) for amount in opened.values()), Decimal(0)) if opened is not None else together
    return {"lines": lines, "pays": True, "together": together, "since_opened": together - start, "counts": after.counts}


def _owed(after, before):
    """Each authority's refund or balance due."""
    old = {line.authority.code: line.amount for line in before.bottom_lines} if before else {}
    return [
        BottomView(
            line.authority.name, line.amount, word("refund") if line.amount > 0 else "due" if line.amount < 0 else "even",
            line.amount - old.get(line.authority.code, Decimal(0)) if before else Decimal(0), line.address,
        )
        for line in after.bottom_lines
    ]  # fmt: skip


def _headline(after, before):
    """The lines that a kind of return is known by, where its filer pays no tax with it."""
    shown = []
    for code, name in after.run.pack.headline:
        cell = after.run.form(code).cell(name)
        was = before.run.form(code).cell(name).value if before else cell.value
        shown.append(BottomView(cell.label, cell.value, "", cell.value - was, cell.address))
    return shown


def ripple_view(before, after, says):
    """Lines that the last change moved, by form, bottom line first."""
    old = {line.authority.code: line.amount for line in before.bottom_lines}
    return moved_view(ripple(before, after), after, says, old)


def moved_view(moved, after, says, old=None):
    """The same from any list of moved lines. `old` are the bottom lines before, by authority, where they are known."""
    bottom = []
    for line in after.bottom_lines if old is not None else ():
        was = old.get(line.authority.code)
        if was is None or was != line.amount:
            bottom.append({"name": line.authority.name, "before": was, "after": line.amount, "address": line.address})
    forms = [(form, list(lines)) for form, lines in groupby(moved, key=lambda one: one.form)]
    untouched = [form.title for form in after.forms if form.title not in {name for name, _ in forms}]
    return {"says": says, "bottom": bottom, "forms": forms, "still": untouched, "count": len(moved)}


def history_view(paper, path):
    """Newest change first: who, when, from what to what. Secrets stay masked."""
    rows = paper.changes.filter(path=path).select_related("by")[:20]
    return [
        {"by": row.by, "at": row.at, "before": before, "after": after, "how": row.how, "note": row.note}
        for row in rows
        for before, after in (row.veiled,)
    ]
