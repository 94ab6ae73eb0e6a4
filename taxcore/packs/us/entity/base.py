"""The filer of an entity's return, its papers and forms, and whole dollars that add up when they are divided among owners."""

from decimal import ROUND_FLOOR, Decimal
from functools import lru_cache

from taxcore.engine import Operand, PaperValues, Person, Text, explained, line, nothing_because, total, whole
from taxcore.packs.us.base import FederalForm, FederalPaper, digits

ZERO, _ONE = Decimal(0), Decimal(1)
EIN = r"\d{2}-?\d{7}"


class EntityPaper(FederalPaper):
    owned = False


class EntityForm(FederalForm):
    """A form of an entity's return: whole dollars."""


class Filer(Person):
    """The entity whose return it is. It stands where people stand on other returns."""

    jurisdiction, heading = "us", "company"
    role_names = {"taxpayer": "entity"}

    company = Text(None, "Name", needed="The return carries it.", longest=120, kept=True)
    number = Text(
        "D", "Employer identification number", secret=True, pattern=EIN, longest=10, shape="00-0000000", kept=True,
        pattern_says="An employer number has nine digits, 00-0000000.", needed="The IRS knows the entity by it.",
    )  # fmt: skip

    @property
    def full_name(self):
        return str(self.company)

    short_name = whole_name = full_name


def opens(filers, address, *kinds):
    """The entity as the practice knows it; its address; papers of these kinds that always stand there."""
    made = []
    for one in filers:
        named = {"name": "company", "number": "number"}
        values = {"role": "taxpayer"} | {name: one[known] for known, name in named.items() if one.get(known)}
        if len(known := digits(values.get("number"))) == 9:
            values["number"] = f"{known[:2]}-{known[2:]}"
        made.append(PaperValues("taxpayer", "person", values, carried=tuple(name for name in values if name != "role")))
    where = {name: address.get(name, "") for name in ("street", "city", "state", "zip")}
    known = {name: value for name, value in where.items() if value}
    made.append(PaperValues("about", "about", known, carried=tuple(known)))
    return (*made, *(PaperValues(kind, kind, {}) for kind in kinds))


def shared_out(amount, weights):
    """As `_shared_out`, for any sequence of weights."""
    return list(_shared_out(amount, tuple(weights)))


@lru_cache(maxsize=512)  # every owner's schedule asks for the same division
def _shared_out(amount, weights):
    """An amount in whole dollars by weights, so that the parts add up: each has its whole part, what is left goes one by one to
    the largest fractions, of equal ones to the first. Weights that are nothing together give nothing to anybody."""
    every = sum(weights, ZERO)
    if not every or not amount:
        return tuple(ZERO for _ in weights)
    sign = -_ONE if amount < 0 else _ONE
    exact = [abs(amount) * weight / every for weight in weights]
    parts = [one.to_integral_value(ROUND_FLOOR) for one in exact]
    left = int(whole(abs(amount)) - sum(parts, ZERO))
    for place in sorted(range(len(parts)), key=lambda at: (parts[at] - exact[at], at))[:left]:
        parts[place] += 1
    return tuple(sign * one for one in parts)


class PartOf:
    """One owner's part of a whole-dollar amount, as arithmetic that can be done again."""

    __slots__ = ("place", "weights")

    def __init__(self, weights, place):
        self.weights, self.place = weights, place

    def __call__(self, amount):
        return _shared_out(amount, self.weights)[self.place]


def part_of(amount, weights, place):
    """Explained: the part of the owner at `place`."""
    redo, every = PartOf(tuple(weights), place), sum(weights, ZERO)
    rate = weights[place] / every * 100 if every else ZERO
    return explained("Owner's share", redo(amount), [Operand(amount)], redo, note=f"{rate.normalize():f}%, whole dollars")


def part_line(name, item, number, label, **options):
    """A line of an owner's schedule: the part of a line of Schedule K. `item` says for which division; the form has its owner's
    `place`, (amount, weights of all owners) of each of the `parts` of the year: one, unless the books were closed; and amounts
    that are `moved` to its owner from others."""

    @line(number, label, **options)
    def read(form):
        amount = getattr(form.schedule, name)
        parts = form.parts(item, amount)
        moved = form.moved(item)
        if len(parts) > 1 or moved:
            return total([part_of(one, weights, form.place) for one, weights in parts], moved)
        if not amount:
            return nothing_because("there is none to divide")
        return part_of(amount, parts[0][1], form.place)

    return read
