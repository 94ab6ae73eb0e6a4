"""Rolling forward knows no country: a made-up one keeps, opens and closes by its declarations alone."""

from decimal import Decimal
from pathlib import Path
from unittest import TestCase

from taxcore.engine import (
    Amount,
    Authority,
    Balance,
    CannotRoll,
    Form,
    Pack,
    Paper,
    PaperValues,
    Person,
    Refer,
    ReturnData,
    Row,
    Rows,
    Succession,
    Text,
    compute,
    excess,
    fact,
    last_year_of,
    line,
    roll_forward,
    total,
)  # fmt: skip
from taxcore.engine.balances import closings_of

SEEDS = Balance("seeds", "Seeds kept")
JARS = Balance("jars", "Empty jars", waits=False)
OLDEST = Balance("oldest", "Berries put by", expires=True)
TOLD = Balance("told", "What was told", kept_up=False)


class Picker(Person):
    jurisdiction = "ti"
    first_name = Text(None, "Name", kept=True)


class Crate(Row):
    since = Text(None, "Year")
    berries = Amount(None, "Berries")


class Hedge(Paper):
    jurisdiction, kind, name, heading, again = "ti", "hedge", "Hedge", "of", True
    repeats = ("neighbors",)

    class Neighbor(Row):
        called = Text(None, "Name")
        berries = Amount(None, "Berries")

    of = Text(None, "Whose")
    berries = Amount(None, "Berries")
    beside = Refer(None, "Beside", ("hedge", "person"), kept=True, optional=True)
    jars = Amount(None, "Jars", opens=JARS)
    neighbors = Rows(None, "Neighbors", Neighbor)

    def comes_again(self):
        return self.of != "felled"


class Larder(Paper):
    jurisdiction, kind, name, single, owned = "ti", "larder", "Larder", True, False
    seeds = Amount(None, "Seeds", opens=SEEDS)
    crates = Rows(None, "Crates", Crate, opens=OLDEST)
    told = Amount(None, "Told", opens=TOLD)


class Harvest(Form):
    jurisdiction, number, name = "ti", "Harvest", "Harvest"

    @line("1", "Seeds", closes=SEEDS)
    def seeds(self):
        return total(self.paper("larder").seeds, [hedge.berries for hedge in self.papers("hedge")])

    @fact("Put by", closes=OLDEST, by_origin="by_year")
    def put_by(self):
        return total([Decimal(row["berries"]) for row in self.by_year()])

    def by_year(self):
        rows = [{"since": row.since, "berries": f"{row.berries:.0f}"} for row in self.paper("larder").crates]
        return [row for row in rows if int(row["since"]) > self.year - 2]

    @fact("Told", closes=TOLD)
    def told(self):
        return total(self.seeds)

    @line("2", "Back")
    def back(self):
        return excess(0, over=0)


class Slip(Form):
    jurisdiction, number, per = "ti", "Slip", "hedge"

    @line("1", "Jars", closes=JARS)
    def jars(self):
        return total(self.run.by_key(("hedge",), self.key).jars, 1)


def leaving(run):
    """Whoever is called Gone leaves."""
    stay = {person.key: person.role for person in run.people() if person.first_name != "Gone"}
    if not stay:
        raise CannotRoll("Nobody is left.")
    return Succession(stay, {"larder": {"told": "7"}} if len(stay) > 1 else {}, remarks=() if len(stay) > 1 else ("Gone left.",))


PACK = Pack(
    code="ti", name="Tinyland", years=(2001, 2002, 2003), people=Picker, papers=(Hedge, Larder), forms=(Harvest, Slip),
    authorities=(Authority("ti", "Tinyland", Harvest, "back", "back", "H", (5, 1), lambda run: True),), checks=(),
    law={"ti": Path(__file__).parent / "tinyland_years"}, groups={"income": "Income"}, succession=leaving,
)  # fmt: skip


def picker(role="taxpayer", name="Wim"):
    return PaperValues(role, "person", {"role": role, "first_name": name})


def roll(*papers, year=2001):
    return roll_forward(compute(PACK, ReturnData("ti", year, papers)))


def values(rolled, key):
    return next((one.values for one in rolled.data.papers if one.id == key), None)


class RollingTests(TestCase):
    def test_senders_and_kept_fields_come_amounts_do_not(self):
        rows = [{"id": "1", "called": "Fox", "berries": "4"}, {"id": "2", "berries": "9"}]
        hedge = PaperValues("a", "hedge", {"owner": "taxpayer", "of": "Badger", "berries": "10", "neighbors": rows})
        kept = values(roll(picker(), hedge), "a")
        self.assertEqual(kept, {"owner": "taxpayer", "of": "Badger", "neighbors": [{"id": "1", "called": "Fox"}], "jars": "1"})

    def test_what_ended_does_not_come_and_what_named_it_lets_go(self):
        felled, other = (
            PaperValues("a", "hedge", {"of": "felled", "jars": "3"}),
            PaperValues("b", "hedge", {"of": "Fox", "beside": "a"}),
        )
        rolled = roll(picker(), felled, other)
        self.assertEqual((values(rolled, "a"), values(rolled, "b")), (None, {"of": "Fox", "jars": "1"}))

    def test_whoever_stays_is_still_named(self):
        rolled = roll(picker(), PaperValues("b", "hedge", {"of": "Fox", "beside": "taxpayer"}))
        self.assertEqual(values(rolled, "b")["beside"], "taxpayer")

    def test_balances_open_by_amount_and_by_origin_and_their_oldest_is_lost(self):
        crates = [{"id": "1", "since": "1999", "berries": "5"}, {"id": "2", "since": "2000", "berries": "6"}]
        larder = PaperValues("larder", "larder", {"seeds": "3", "crates": crates})
        rolled = roll(picker(), larder, PaperValues("a", "hedge", {"of": "Fox", "berries": "10"}))
        self.assertEqual(
            values(rolled, "larder"), {"seeds": "13", "crates": [{"id": "1", "since": "2000", "berries": "6"}], "told": "13"}
        )
        self.assertEqual({(one.balance.name, one.amount, one.field) for one in rolled.opened},
                         {("seeds", 13, "seeds"), ("oldest", 6, "crates"), ("told", 13, "told"), ("jars", 1, "jars")})  # fmt: skip
        self.assertEqual(next(one for one in rolled.data.papers if one.id == "larder").carried, ("seeds", "crates", "told"))

    def test_whoever_leaves_takes_their_own_along(self):
        hers = PaperValues("a", "hedge", {"owner": "spouse", "of": "Fox"})
        both = roll(picker(), picker("spouse", "Gone"), hers)
        self.assertEqual((values(both, "spouse"), values(both, "a"), both.remarks), (None, None, ("Gone left.",)))
        with self.assertRaisesRegex(CannotRoll, "Nobody is left"):
            roll(picker(name="Gone"))

    def test_a_year_without_law(self):
        with self.assertRaisesRegex(CannotRoll, "law of 2004"):
            roll(picker(), year=2003)

    def test_last_year_knows_what_was_closed(self):
        result = compute(PACK, ReturnData("ti", 2001, (picker(), PaperValues("a", "hedge", {"of": "Fox", "berries": "2"}))))
        self.assertEqual(last_year_of(result).lines["ti.slip[a]:jars"], 1)
        self.assertEqual(last_year_of(result).lines["ti.harvest:told"], 2)

    def test_two_lines_cannot_close_one_balance(self):
        class Again(Form):
            jurisdiction, number = "ti", "Again"

            @line("1", "Seeds", closes=SEEDS)
            def seeds(self):
                return total(0)

        with self.assertRaisesRegex(ValueError, "seeds of ti is closed twice"):
            closings_of((Harvest, Again))
