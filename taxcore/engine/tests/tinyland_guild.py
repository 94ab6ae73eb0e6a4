"""The made-up country's second kind of return: guilds, entities whose year is cut in two by a reform, and who issue to their members."""

from datetime import date
from decimal import Decimal

from taxcore.engine import (
    Amount,
    Authority,
    Day,
    Form,
    Issued,
    Pack,
    Paper,
    PaperValues,
    Period,
    Person,
    ReturnData,
    Text,
    fact,
    line,
    linked,
    pro_rata,
    share,
    total,
    whole,
)
from taxcore.engine.tests.tinyland import LAW

REFORM = date(2002, 7, 1)  # the law of 2003 begins in the middle of 2002


def law_year(day):
    return 2001 if day < REFORM else 2003


class Guild(Person):
    """The filer is no person: an entity stands in people's place."""

    jurisdiction = "ti"
    called = Text(None, "Guild")


class Books(Paper):
    jurisdiction, kind, name, single, owned = "ti", "books", "Books", True, False
    berries = Amount(None, "Berries of the period")
    feast = Day(None, "Day of the feast")
    served = Amount(None, "Jam served at the feast")


class Member(Paper):
    """Who has a part of the guild, in percent."""

    jurisdiction, kind, name, heading, owned = "ti", "member", "Member", "called", False
    called = Text(None, "Name", needed="Say who.")
    number = Text(None, "Number", secret=True)
    part = Amount(None, "Part, in percent")


class GuildReturn(Form):
    jurisdiction, number, name = "ti", "Guild", "Guild return"

    @line("1", "Berries")
    def berries(self):
        return total(self.paper("books").berries)

    @line("2", "Gift, by the days of each year's law")
    def gift(self):
        """Each part of the period bears its own rate."""
        parts = [share(self.run.law_in("ti", part.year).gift.rate, of=pro_rata(self.berries, part.days, self.run.period.days))
                 for part in self.run.parts()]  # fmt: skip
        return total(parts)

    @line("3", "Gift on the feast, by the law of its day")
    def feast(self):
        books = self.paper("books")
        return share(self.law_on(books.feast).gift.rate, of=books.served) if books.feast else total(0)

    @fact("Days")
    def days(self):
        return self.run.period.days

    @line("4", "Back")
    def back(self):
        return total(0)

    @line("5", "Owed")
    def owed(self):
        return total(self.gift, self.feast)


class Slip(Form):
    """What each member is told."""

    jurisdiction, number, name, per = "ti", "Guild slip", "Guild slip", "member"
    rounding = staticmethod(whole)
    guild = linked("ti.guild")

    @property
    def member(self):
        return next(one for one in self.papers("member") if one.key == self.key)

    @line("1", "Berries")
    def berries(self):
        return pro_rata(self.guild.berries, self.member.part, Decimal(100))

    @line("2", "Gift made")
    def given(self):
        return pro_rata(self.guild.owed, self.member.part, Decimal(100))


def issues(run):
    """To each member what their slip says."""
    called = next((one.called for one in run.people()), "")
    for slip in run.every("ti.guild-slip"):
        who = slip.member
        yield Issued(
            to=who.address("called"), named=who.called, number=who.number, pack="ti", kind="guild-share", id=f"guild-{who.key}",
            values={"guild": called, "berries": f"{slip.berries:f}", "given": f"{slip.given:f}"},
            lines={"berries": slip.address("berries"), "given": slip.address("given")},
        )  # fmt: skip


def opens(people, address):
    """The guild by its name."""
    return tuple(PaperValues(one["id"], "person", {"role": one["role"], "called": one["name"]}) for one in people)


GUILD = Pack(
    code="ti-guild", name="Tinyland guilds", years=(2001, 2003), people=Guild, papers=(Books, Member), forms=(GuildReturn, Slip),
    authorities=(Authority("ti", "Tinyland", GuildReturn, "back", "owed", "G", (5, 1), lambda run: True, tax="owed", income="berries"),), checks=(),
    law={"ti": LAW}, groups={"income": "Income"}, law_year=law_year,
    filer="entity", opens=opens, issues=issues,
    period=lambda year: Period(date(year - 1, 10, 1), date(year, 9, 30)),
)  # fmt: skip
STRADDLING = Period(date(2002, 4, 1), date(2003, 3, 31))  # 91 days before the reform, 274 after


def member(key, part, number=""):
    return PaperValues(key, "member", {"called": key.title(), "number": number, "part": str(part)})


def guild(*members, period=STRADDLING, **values):
    people = PaperValues("g", "person", {"role": "taxpayer", "called": "Hedge Guild"})
    return ReturnData("ti-guild", 2003, (people, PaperValues("books", "books", values), *members), period=period)
