"""Periods that straddle two of the law's years, and law by the day of an event: a second kind of return of the made-up country."""

import json
from datetime import date
from unittest import TestCase

from taxcore.engine import (
    Amount,
    Authority,
    Day,
    Form,
    Pack,
    Paper,
    PaperValues,
    Period,
    Person,
    ReturnData,
    Text,
    compute,
    document,
    fact,
    line,
    pro_rata,
    share,
    total,
)  # fmt: skip
from taxcore.engine.law import LawError
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


GUILD = Pack(
    code="ti-guild", name="Tinyland guilds", years=(2001, 2003), people=Guild, papers=(Books,), forms=(GuildReturn,),
    authorities=(Authority("ti", "Tinyland", GuildReturn, "back", "owed", "G", (5, 1), lambda run: True),), checks=(),
    law={"ti": LAW}, groups={"income": "Income"}, law_year=law_year,
    period=lambda year: Period(date(year - 1, 10, 1), date(year, 9, 30)),
)  # fmt: skip
STRADDLING = Period(date(2002, 4, 1), date(2003, 3, 31))  # 91 days before the reform, 274 after


def guild(period=STRADDLING, **values):
    return ReturnData(
        "ti-guild", 2003, (PaperValues("g", "person", {"role": "taxpayer"}), PaperValues("books", "books", values)), period=period
    )


class PeriodTests(TestCase):
    def test_parts_by_the_laws_years(self):
        parts = STRADDLING.parts(law_year)
        self.assertEqual([(one.year, one.start, one.end, one.days) for one in parts],
                         [(2001, date(2002, 4, 1), date(2002, 6, 30), 91), (2003, date(2002, 7, 1), date(2003, 3, 31), 274)])  # fmt: skip
        self.assertEqual(sum(one.days for one in parts), STRADDLING.days)

    def test_a_day_and_nonsense(self):
        one = Period(REFORM, REFORM)
        self.assertEqual((one.days, REFORM in one, date(2002, 7, 2) in one, "x" in one), (1, True, False, False))
        with self.assertRaisesRegex(ValueError, "cannot end"):
            Period(date(2003, 1, 2), date(2003, 1, 1))

    def test_what_is_apportioned_bears_each_parts_law(self):
        """A tenth of 274 in 365 of 3,650: 274. The law before the reform asks for nothing."""
        result = compute(GUILD, guild(berries="3650"))
        self.assertEqual((result["ti.guild.2"].value, result.run.form("ti.guild").days), (274, 365))

    def test_law_by_the_day_of_an_event(self):
        for day, gift in (("2002-06-30", 0), ("2002-07-01", 9)):
            self.assertEqual(compute(GUILD, guild(served="90", feast=day))["ti.guild.3"].value, gift)

    def test_without_one_the_pack_says_what_a_year_means(self):
        result = compute(GUILD, guild(period=None))
        self.assertEqual((result.run.period.start, result.run.period.end), (date(2002, 10, 1), date(2003, 9, 30)))

    def test_another_period_is_another_frame(self):
        result = compute(GUILD, guild(berries="3650"))
        self.assertIsNone(result.changed(guild(period=Period(date(2002, 7, 1), date(2003, 6, 30)), berries="3650")))

    def test_law_that_is_not_there(self):
        run = compute(GUILD, guild()).run
        with self.assertRaises(LawError):
            run.law_in("ti", 1999)

    def test_the_document_says_the_period(self):
        data = guild(berries="10")
        written = json.loads(json.dumps(document.write(data)))
        self.assertEqual(written["period"], {"start": "2002-04-01", "end": "2003-03-31"})
        self.assertEqual(document.read(written), data)
        for wrong in ({"start": "2003-01-01", "end": "2002-01-01"}, {"start": "x", "end": "y"}, {"start": "2003-01-01"}, 7):
            with self.assertRaisesRegex(document.DocumentError, "The period"):
                document.read(written | {"period": wrong})
