"""What the page of plans shows: columns, rows that are entered, rows that come out, a curve."""

from dataclasses import dataclass
from decimal import Decimal

from practice.firm.packs import word
from practice.returns.addresses import path_in
from practice.returns.computing import trials_of
from practice.whatif.keeping import field_at
from taxcore.engine import Amount, BadValue, Choice, Count, Day, Flag
from taxcore.whatif.columns import RETURN, entered, lines, together, total_tax, value_at
from taxcore.whatif.differences import REMOVED, Difference, Place, place_of_mark, with_differences
from taxcore.whatif.sensitivity import movers

_MOST_MOVERS = 5
_MOST_FOUND = 10
_ROWS_OF = (Amount, Choice, Count, Day, Flag)
_WIDTH, _HEIGHT, _LEFT, _TOP, _BOTTOM = 360, 230, 44, 8, 18
_PLANE = 260
_HITS = 60  # places at which a curve is read


@dataclass(frozen=True)
class Head:
    """A column's head; `row` is what is kept of it, None for the return."""

    key: str
    name: str
    year: int
    row: object
    base: str
    says: str
    remarks: tuple
    papers: tuple = ()  # (mark, title, whether the column leaves it out)
    assumed: bool = False  # its year's law is not known


def _is_assumed(outcome):
    return outcome.result is not None and outcome.result.run.everything.index is not None


@dataclass(frozen=True)
class Cell:
    """What a column has in a row. `own` where the column says so itself; `text` is None where it has no such paper."""

    key: str
    row: object
    text: str | None
    own: bool
    error: str = ""


@dataclass(frozen=True)
class EnteredRow:
    mark: str
    label: str
    title: str
    cells: list
    list: str = ""


@dataclass(frozen=True)
class OutRow:
    """A line or a total. `than` are the differences to the column it is based on, None where there is none."""

    number: str
    label: str
    address: str
    amounts: list
    total: bool = False
    form: str = ""


def plan_view(return_, result, rows, outcomes, extra=(), refused=None):
    """Everything of the table. `extra` are marks of rows to show besides; `refused` is (column key, mark, text, sentence)."""
    order = [outcomes[row.key] for row in rows]
    found = [
        one for one in entered(result, order, [*_standing(result, return_), *extra]) if one.place.path not in ("owner", "role")
    ]
    results = {RETURN: result} | {one.column.key: one.result for one in order if one.result is not None}
    bases = {row.key: str(row.based_on_id or RETURN) for row in rows}
    return {
        "heads": _heads(return_, result, rows, outcomes),
        "entered": [_entered(result, results, one, rows, refused) for one in found],
        "out": _out(results, bases, rows, lines(results)),
        "more": [one for one in _out(results, bases, rows, lines(results, only_totals=False)) if _differs(one)],
        "totals": _totals(results, bases, rows),
        "colspan": len(rows) + 2,
    }


def _heads(return_, result, rows, outcomes):
    names = {row.key: row.name for row in rows}
    heads = [Head(RETURN, "As it stands", result.year, None, "", "", ())]
    for row in rows:
        outcome = outcomes[row.key]
        year = outcome.result.year if outcome.result is not None else 0
        base = names.get(str(row.based_on_id), "") if row.based_on_id else "the return"
        heads.append(
            Head(
                row.key, row.name, year, row, base, outcome.says, outcome.remarks, _papers(result, outcome), _is_assumed(outcome)
            )
        )
    return heads


def _papers(result, outcome):
    """Papers that a column has or leaves out, for choosing which it is to be without."""
    if outcome.result is None:
        return ()
    nodes = {
        f"{one.kind}/{one.key}/": one for each in (result, outcome.result) for one in each.run.all_papers() if not one.always
    }
    out = {one.place.mark for one in outcome.column.differences if one.value == REMOVED and not one.place.path}
    here = {f"{one.kind}/{one.key}/" for one in outcome.result.run.all_papers()}
    return tuple((mark, f"{node.title}, {node.name}", mark in out) for mark, node in nodes.items() if mark in here or mark in out)


def _standing(result, return_):
    """The amounts that move tax most, and what is owed: what a meeting is about."""
    wanted = [(line.authority.cell(result.run, line.authority.tax).address, _MOST_MOVERS) for line in result.bottom_lines[:1]]
    wanted += [(line.address, 2) for line in result.bottom_lines[:1]]
    places = {}
    with trials_of(return_) as trials:
        for address, most in wanted:
            for one in movers(result, address, trials, most):
                places[place_of_address(result, one.address)] = True
    return [place for place in places if place is not None]


def found_rows(results, words):
    """Places whose field or paper has all these words, in whichever column has them first; no client's number."""
    wanted = words.lower().split()
    found = {}
    for result in results if wanted else ():
        for node in (*result.run.people(), *result.run.all_papers()):
            title = f"{node.title} {node.name} {node.official}".lower()
            for name, field in node.fields().items():
                text = f"{field.label.lower()} {title}"
                if (
                    isinstance(field, _ROWS_OF)
                    and not field.secret
                    and field.applies(node)
                    and all(word in text for word in wanted)
                ):
                    found[Place(node.kind, node.key, name)] = True
    return list(found)[:_MOST_FOUND]


def by_effect(return_, result, rows):
    """Rows of amounts, those first that move the tax: a curve over what is withheld says nothing."""
    before = total_tax(result)

    def moves(row, trials):
        place, data = place_of_mark(row.mark), result.run.everything
        there = field_at(result.run.pack, place).parse(value_at(data, place) or "0")
        return total_tax(trials.of(with_differences(result.run.pack, data, [Difference(place, f"{there + 500:f}")]))) != before

    with trials_of(return_) as trials:
        return sorted(rows, key=lambda row: not moves(row, trials))


def place_of_address(result, address):
    """The place of an entered field of a paper or a row of one, by its address; None for anything else."""
    for node in (*result.run.people(), *result.run.all_papers()):
        if address.startswith(f"{node.address_prefix}.") and (path := path_in(node, address)) is not None:
            return Place(node.kind, node.key, path)
    return None


def _entered(result, results, one, rows, refused):
    field = field_at(result.run.pack, one.place)
    title = next((found for found in (_title(each, one.place) for each in results.values()) if found), "")
    cells = [Cell(RETURN, None, _read(field, one.texts.get(RETURN)), False)]
    for row in rows:
        text, error = _read(field, one.texts.get(row.key)), ""
        if refused and refused[:2] == (row.key, one.place.mark):
            text, error = refused[2:]
        cells.append(Cell(row.key, row, text, row.key in one.own, error))
    return EnteredRow(one.place.mark, field.label, title, cells, _list(field))


def _title(result, place):
    nodes = result.run.people() if place.kind == result.run.pack.people.kind else result.run.papers(place.kind)
    return next((node.title for node in nodes if node.key == place.paper), "")


def _list(field):
    """The id of a list that the field is chosen from, for the page's module."""
    return f"whatif-{field.name}" if isinstance(field, Choice | Flag) else ""


def options_of(result, places):
    """{list id: ((code, words), ...)} of the choices among these places."""
    found = {}
    for mark in places:
        field = field_at(result.run.pack, mark)
        if isinstance(field, Flag):
            found[_list(field)] = (("yes", "yes"), ("no", "no"))
        elif isinstance(field, Choice):
            found[_list(field)] = tuple((code, field.shown(code)) for code in field.options)
    return found


def _read(field, text):
    if text is None or text == "" or not isinstance(field, Amount):
        return text
    try:
        amount = field.parse(text)
    except BadValue:
        return text
    return f"{amount:,.0f}" if amount == amount.to_integral_value() else f"{amount:,.2f}"


def _out(results, bases, rows, found):
    return [OutRow(one.number, one.label, one.address, _beside(one.amounts, bases, rows), form=one.form) for one in found]


def _beside(amounts, bases, rows):
    """(amount, difference to the base) by column."""
    shown = [(amounts.get(RETURN), None)]
    for row in rows:
        amount, base = amounts.get(row.key), amounts.get(bases[row.key])
        shown.append((amount, (amount or Decimal(0)) - (base or Decimal(0)) if row.key in amounts else None))
    return shown


def _differs(row):
    return any(than for _, than in row.amounts)


def measures():
    """What can be sought and is summed over all authorities, in the country's words."""
    return {"together": f"{word('Refund')} ({word('balance due')}), all authorities", "tax": "Total tax, all authorities"}


def _totals(results, bases, rows):
    of = ((measures()["tax"], total_tax), (measures()["together"], together))
    made = []
    for label, measure in of:
        amounts = {key: measure(result) for key, result in results.items()}
        made.append(OutRow("", label, "", _beside(amounts, bases, rows), total=True))
    return made


# A curve


def curve_view(drawn, here, behind=None):
    """The curve as an SVG's parts: paths, the present point, marks along both axes, places where it is read, bends by number."""
    points = list(drawn.points)
    every = [*points, *(behind.points if behind else ())]
    low, high = points[0][0], points[-1][0]
    least, most = min(y for _, y in every), max(y for _, y in every)
    most = most if most > least else least + 1

    def x(amount):
        return round(_LEFT + float((amount - low) / (high - low)) * (_WIDTH - _LEFT - 6), 1)

    def y(amount):
        return round(_HEIGHT - _BOTTOM - float((amount - least) / (most - least)) * (_HEIGHT - _TOP - _BOTTOM), 1)

    rates = drawn.rates()
    step = max(len(points) // _HITS, 1)
    wide = round((_WIDTH - _LEFT - 6) / (len(points) - 1) * step, 1)
    hits = [
        {"x": x(points[place][0]), "wide": wide, "at": points[place][0], "y": points[place][1], "rate": _percent(rates[place])}
        for place in range(0, len(points) - 1, step)
    ]
    bends = [
        {"number": number, "x": x(one.at), "of": one, "before": _percent(one.rates[0]), "after": _percent(one.rates[1]),
         "y": y(_near(points, one.at))}
        for number, one in enumerate(drawn.bends[:12], start=1)
    ]  # fmt: skip
    return {
        "width": _WIDTH, "height": _HEIGHT, "left": _LEFT, "top": _TOP, "base": _HEIGHT - _BOTTOM,
        "path": _path(points, x, y), "behind": _path(behind.points, x, y) if behind else "",
        "rates": _steps(points, rates), "hits": hits, "bends": bends, "left_out": max(len(drawn.bends) - 12, 0),
        "low": low, "high": high, "least": least, "most": most,
        "here": {"x": x(here), "y": y(_near(points, here)), "at": here, "rate": _percent(_rate_at(points, rates, here))}
        if low <= here <= high else None,
    }  # fmt: skip


def frontier_view(found):
    """The best division for each total, as a path in the plane of both amounts, and as rows."""
    most, side = found.best[-1].total, _PLANE - _LEFT - 6

    def x(amount):
        return round(_LEFT + float(amount / most) * side, 1)

    def y(amount):
        return round(_TOP + side - float(amount / most) * side, 1)

    rates = ["", *map(_percent, found.rates())]
    rows = [
        {"total": one.total, "first": one.first, "second": one.second, "more": one.tax - found.best[0].tax, "rate": rate,
         "saves": min(first.tax, second.tax) - one.tax, "x": x(one.first), "y": y(one.second)}
        for one, first, second, rate in zip(found.best, found.all_first, found.all_second, rates, strict=True)
    ]  # fmt: skip
    lines = [{"x": x(row["total"]), "y": y(row["total"])} for row in rows[3::3]]
    return {
        "rows": rows, "last": rows[-1], "lines": lines, "plane": _PLANE, "left": _LEFT, "top": _TOP, "base": y(0), "most": most,
        "path": _path([(one.first, one.second) for one in found.best], x, y), "step": found.best[1].total,
    }  # fmt: skip


def _path(points, x, y):
    return "M" + "L".join(f"{x(one)} {y(two)}" for one, two in points)


def _near(points, amount):
    return min(points, key=lambda point: abs(point[0] - amount))[1]


def _rate_at(points, rates, amount):
    return next((rate for (one, _), rate in zip(points[1:], rates, strict=True) if one > amount), rates[-1])


def _steps(points, rates):
    """The rate of the next unit, in a band of its own under the curve: 0 to 60 percent."""
    low, high, tall = points[0][0], points[-1][0], 46

    def x(amount):
        return round(_LEFT + float((amount - low) / (high - low)) * (_WIDTH - _LEFT - 6), 1)

    def y(rate):
        return round(tall - min(max(float(rate), 0.0), 0.6) / 0.6 * (tall - 6), 1)

    parts = [f"{x(points[place][0])} {y(rate)}H{x(points[place + 1][0])}" for place, rate in enumerate(rates)]
    return "M" + "L".join(parts)


def _percent(rate):
    return f"{float(rate) * 100:.1f}".removesuffix(".0") + "%"
