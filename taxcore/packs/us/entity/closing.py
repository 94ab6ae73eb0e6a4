"""Closing of the books where interests change during the year: what an item brought in each part of the year goes by the
interests of that part, all other items by days. IRC 706(d)(1), 1377(a)(2); 26 CFR 1.706-4(a)(3), 1.1377-1(b)."""

from datetime import timedelta

from taxcore.engine import Amount, Choice, Day, Row, check, found, stops, total

_DAY = timedelta(days=1)


def part_row(items):
    """The row of a table: an item of Schedule K in one part of the year. `items` are {line: caption}."""

    class PartRow(Row):
        until = Day(None, "Through", needed="A part ends on the day before interests change.")
        item = Choice(None, "Item of Schedule K", items, needed="Choose what is divided by parts.")
        amount = Amount(None, "Amount of the part", negative=True)

    return PartRow


def _closed(run):
    """{item: its parts as (last day, amount), the last part of the year left out}."""
    made = {}
    for row in sorted((row for row in run.single("closing").rows if row.until), key=lambda row: row.until):
        made.setdefault(row.item, []).append((row.until, row.amount))
    return made


def is_closed(run, item):
    """Whether an item is divided by parts of the year."""
    return item in run.once(_closed)


def in_parts(run, item, amount, by_days, held):
    """(amount, weights of all owners) of each part of an item: one by `by_days()`, or the parts entered and what is left for the
    rest of the year, each by `held(its last day, its amount)`."""
    parts = run.once(_closed).get(item)
    if not parts:
        return ((amount, by_days()),)
    left = total(amount, less=[one for _, one in parts])
    return tuple((one, held(day, one)) for day, one in (*parts, (run.period.end, left)))


@stops("us.closing.day", "Closing of the books: day outside the year", "conflict", "26 CFR 1.706-4(c)")
@stops("us.closing.inside", "Closing of the books: interests change inside a part", "conflict", "26 CFR 1.706-4(a)(3)")
@check("us.closing.no-change", "Closing of the books without a change of interests", "unlikely", "IRC 706(d)(1)")
@check("us.closing.gains", "Closing of the books: gains of Form 4797 in self-employment", "unlikely", "IRC 1402(a)(3)")
def closing(run):
    rows, period = run.single("closing").rows, run.period
    owners = run.papers("partner" if run.pack.code == "us-1065" else "shareholder")
    changes = sorted({row.since for one in owners for row in one.stakes if row.since})
    inside = [day for day in changes if period.start < day <= period.end]
    for row in rows:
        if row.until and not period.start <= row.until < period.end:
            says = f"{row.until:%B %-d, %Y} is not a day before the last of this year. The last part is what is left."
            yield found(row.address("until"), says, code="us.closing.day")
    for item, parts in run.once(_closed).items():
        ends = {day for day, _ in parts}
        missing = next((day for day in inside if day - _DAY not in ends), None)
        if missing is not None:
            row = next(row for row in rows if row.item == item)
            says = f"Interests change on {missing:%B %-d}. Enter the item through {missing - _DAY:%B %-d}."
            yield found(row.address("until"), says, code="us.closing.inside")
    if rows and not inside:
        says = "No interest changes in this year. Enter the change under the owners' shares, or remove the parts."
        yield found(run.single("closing").address("rows"), says, code="us.closing.no-change")
    page = run.form(run.pack.authorities[0].form.code())
    if run.pack.code == "us-1065" and is_closed(run, "1") and page.gains:
        says = f"{page.gains:,.0f} leaves self-employment income by days, not by parts. Check line 14A of each partner."
        yield found(page.address("gains"), says, code="us.closing.gains")
