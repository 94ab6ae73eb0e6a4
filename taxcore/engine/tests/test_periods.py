"""Periods that straddle two of the law's years, and law by the day of an event: a second kind of return of the made-up country."""

import json
from datetime import date
from unittest import TestCase

from taxcore.engine import PaperValues, Period, ReturnData, compute, document
from taxcore.engine.law import LawError
from taxcore.engine.tests.tinyland import TINYLAND
from taxcore.engine.tests.tinyland_guild import GUILD, REFORM, STRADDLING, guild, law_year, member


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


class IssuingTests(TestCase):
    """3,650 berries, of which 274 are given: 60 in a hundred are 2,190 and 164, 40 are 1,460 and 110."""

    def issued(self, **values):
        result = compute(GUILD, guild(member("ann", 60, "1"), member("bo", 40, "2"), **{"berries": "3650"} | values))
        return {one.named: one for one in GUILD.issues(result.run)}

    def test_to_each_member_their_part_with_where_it_comes_from(self):
        found = self.issued()
        self.assertEqual({name: (one.values["berries"], one.values["given"]) for name, one in found.items()},
                         {"Ann": ("2190", "164"), "Bo": ("1460", "110")})  # fmt: skip
        self.assertEqual(found["Ann"].lines["berries"], "ti.guild-slip[ann].1")
        self.assertEqual(found["Ann"].values["guild"], "Hedge Guild")

    def test_the_member_s_return_computes_alone_with_the_paper(self):
        one = self.issued()["Bo"]
        data = ReturnData("ti", 2003, (PaperValues("bo", "person", {"role": "taxpayer", "first_name": "Bo"}),
                                       PaperValues(one.id, one.kind, one.values)))  # fmt: skip
        result = compute(TINYLAND, data)
        self.assertEqual((result["ti.harvest.1"].value, result["ti.harvest.5"].value), (1_460, 110))
        self.assertEqual([found.code for found in result.findings], [])
