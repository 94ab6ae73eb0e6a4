"""A made-up country for the engine's tests: Tinyland taxes berries. Nothing of a real country can hide in here."""

from decimal import Decimal
from pathlib import Path

from taxcore.engine import (
    Amount,
    Authority,
    Choice,
    Day,
    Flag,
    Form,
    Loop,
    Pack,
    Paper,
    Person,
    Row,
    Rows,
    Text,
    by_bands,
    check,
    excess,
    fact,
    found,
    least,
    line,
    linked,
    nothing_because,
    share,
    stops,
    total,
    whole,
)

LAW = Path(__file__).parent / "tinyland_years"


class Picker(Person):
    jurisdiction = "ti"
    first_name = Text(None, "Name", needed="Ask.")
    born = Day(None, "Born")


class Place(Row):
    glade = Choice("g", "Glade", {"N": "North", "S": "South"}, needed="Say which.")
    berries = Amount("n", "Berries")


class Basket(Paper):
    jurisdiction, kind, name, heading, main = "ti", "basket", "Basket", "of", "berries"
    of = Text("o", "Whose hedge", pattern=r"[A-Za-z ]+", pattern_says="Letters only.")
    berries = Amount("1", "Berries picked")
    eaten = Amount("2", "Berries eaten on the way", negative=True)
    ripe = Flag("3", "Ripe")
    tithe = Amount("4", "Tithe")
    places = Rows("5", "Glades", Place)

    @tithe.when_empty
    def _tithe(self):
        return share(Decimal("0.1"), of=self.berries)


class GuildShare(Paper):
    """What a guild's return issues to its members."""

    jurisdiction, kind, name, heading, main = "ti", "guild-share", "Guild share", "guild", "berries"
    guild = Text("g", "Guild")
    berries = Amount("1", "Berries of the guild")
    given = Amount("2", "Gift made by the guild")


class Harvest(Form):
    jurisdiction, number, name = "ti", "Harvest", "Harvest return"
    rounding = staticmethod(whole)
    jam = linked("ti.jam")

    @line("1", "Berries")
    def berries(self):
        return total([basket.berries for basket in self.papers("basket")], [one.berries for one in self.papers("guild-share")])

    @line({2001: "2", 2003: "2a"}, "Eaten")
    def eaten(self):
        return total([basket.eaten for basket in self.papers("basket")])

    @line({2003: "2b"}, "Only since 2003")
    def newer(self):
        return nothing_because("nobody asked for it", self.berries)

    @fact("Whether there is anything")
    def anything(self):
        return self.berries > 0

    @line("3", "Left", weight="total")
    def left(self):
        return excess(self.berries, over=total(self.eaten, self.jam.gift))

    @line("4", "Tax")
    def tax(self):
        return by_bands(self.left, self.law.bands.tax)

    @line("5", "Paid")
    def paid(self):
        return total([basket.tithe for basket in self.papers("basket")], [one.given for one in self.papers("guild-share")])

    @line("6", "Back")
    def back(self):
        return excess(self.paid, over=self.tax)

    @line("7", "Owed")
    def owed(self):
        return excess(self.tax, over=self.paid)


class Jam(Form):
    """A gift that is a tenth of what is left after the gift: a circle."""

    jurisdiction, number = "ti", "Jam"
    harvest = linked("ti.harvest")

    def required(self):
        return self.gift > 0

    @line("1", "Gift", loop=Loop(tolerance=Decimal("0.11")), rounding=None)
    def gift(self):
        return share(self.law.gift.rate, of=self.harvest.left) if self.law.gift.rate else nothing_because("no gift this year")


class Basketwise(Form):
    jurisdiction, number, per = "ti", "Basket slip", "basket"

    @line("1", "Most of the basket")
    def most(self):
        basket = next(basket for basket in self.papers("basket") if basket.key == self.key)
        return least(of={"berries": basket.berries, "cap": self.law.gift.cap})


class Personwise(Form):
    jurisdiction, number, per = "ti", "Person slip", "person"

    @line("1", "Own berries")
    def own(self):
        return total([basket.berries for basket in self.papers("basket", self.key)])


@stops("ti.eaten-more", "More eaten than picked", "conflict")
@check("ti.all-eaten", "All was eaten", "unlikely")
def eaten_more_than_picked(run):
    for basket in run.papers("basket"):
        if basket.eaten > basket.berries:
            yield found(basket.address("eaten"), "More was eaten than picked. Count again.", code="ti.eaten-more")
        elif basket.eaten == basket.berries > 0:
            yield found(basket.address("2"), "All was eaten. Ask whether that is so.", code="ti.all-eaten")


TINYLAND = Pack(
    code="ti", name="Tinyland", years=(2001, 2003), people=Picker, papers=(Basket, GuildShare),
    forms=(Harvest, Jam, Basketwise, Personwise),
    authorities=(Authority("ti", "Tinyland", Harvest, "back", "owed", "H", (5, 1), lambda run: True, tax="tax", income="left"),),
    checks=(eaten_more_than_picked,), law={"ti": LAW}, groups={"income": "Income"},
)  # fmt: skip
