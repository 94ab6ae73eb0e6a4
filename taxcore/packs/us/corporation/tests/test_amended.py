"""Form 1120-X by hand. IRC 11(b), 6402(a), 6511(a). What was filed has a profit of 60,000."""

from datetime import date
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, compute, roll_forward
from taxcore.engine.amending import goes_out
from taxcore.packs.us.corporation.tests.making import about, carried, result, shop
from taxcore.packs.us.corporation.tests.test_worked import profit
from taxcore.packs.us.states.il.entities.tests.making import corporation as of_illinois
from taxcore.packs.us.tests.corrections import as_filed

FIRST, MORE, LESS = profit(60_000), profit(66_000), profit(54_000)  # 12,600, 13,860 and 11,340 at 21%
LOSS = profit(-20_000)

# Called, papers as filed, papers now, what was settled; lines by their official numbers
CASES = (
    ("more income, paid with the original", (), (MORE,), {"paid": "12600"},
     {"3-A": 60_000, "3-C": 66_000, "3-B": 6_000, "4-A": 12_600, "4-C": 13_860, "4-B": 1_260, "6": 12_600, "7": 12_600, "8": 0,
      "9": 12_600, "10": 1_260, "11": 0, "12": 0}),
    ("less income, paid with the original and since", (), (LESS,), {"paid": "12000", "paid_later": "600"},
     {"3-C": 54_000, "4-C": 11_340, "4-B": -1_260, "6": 12_600, "10": 0, "11": 1_260, "12": 1_260}),
    ("a part of it credited to next year", (), (LESS,), {"paid": "12600", "credited": "260"},
     {"11": 1_260, "12a": 260, "12": 1_000}),
    ("refunded before, 400 of it credited", (about(estimates="15000", credited="400"),),
     (about(estimates="15000", credited="400"), MORE), {},
     {"5b": 15_000, "5d": 15_000, "6": 0, "7": 15_000, "8": 2_400, "9": 12_600, "10": 1_260}),
    ("the overpayment was adjusted by the IRS", (about(estimates="15000"),), (about(estimates="15000"), MORE),
     {"overpaid": "2000"}, {"8": 2_000, "9": 13_000, "10": 860}),
    ("an overpayment of the year before, and an extension", (about(credited_before="2000", with_extension="10600"),),
     (about(credited_before="2000", with_extension="10600"), MORE), {},
     {"5a": 2_000, "5b": 0, "5d": 2_000, "5e": 10_600, "7": 12_600, "8": 0, "10": 1_260}),
    ("a loss: nothing is taxed, all comes back", (), (LOSS,), {"paid": "12600"},
     {"3-C": -20_000, "3-B": -80_000, "4-C": 0, "11": 12_600, "12": 12_600}),
    ("an earlier loss that was forgotten", (), (carried(losses=((2024, 10_000),)),), {"paid": "12600"},
     {"2-B": 10_000, "3-C": 50_000, "4-C": 10_500, "11": 2_100}),
)  # fmt: skip


def why(**values):
    return PaperValues("amendment", "amendment", {"explanation": "A wage was booked twice."} | values)


def corrected(then, *papers, superseding=False, settled=None):
    """A result again, with papers in place of those with their ids."""
    instead = {one.id for one in papers}
    kept = [one for one in then.run.everything.papers if one.id not in instead]
    data = then.run.everything.but(
        papers=(*kept, *papers, why(**(settled or {}))), amends=as_filed(then, superseding=superseding, day=date(2026, 3, 2))
    )
    return compute(then.run.pack, data)


def stops(found):
    return {one.code for one in found.findings if one.weight == "stops"}


class AmendedTests(TestCase):
    def test_worked_by_hand(self):
        for called, before, now, settled, wanted in CASES:
            with self.subTest(called):
                again = corrected(result(FIRST, *before), *now, settled=settled)
                lines = {cell.number: cell.value for cell in again.run.form("us.1120-x").lines()}
                self.assertEqual({number: lines[number] for number in wanted}, wanted)
                self.assertEqual(stops(again), set())
                self.assertEqual(lines["3-A"], lines["1-A"] - lines["2-A"])
                self.assertEqual(lines["3-C"], lines["1-C"] - lines["2-C"])

    def test_what_is_owed_and_refunded_is_that_of_the_correction(self):
        owing, coming = (corrected(result(FIRST), now, settled={"paid": "12600"}) for now in (MORE, LESS))
        self.assertEqual([one.bottom_lines[0].amount for one in (owing, coming)], [-1_260, 1_260])
        self.assertTrue(goes_out(owing.run, owing.run.pack.authorities[0]))

    def test_before_the_due_date_it_takes_the_place_of_the_first(self):
        again = corrected(result(FIRST), MORE, superseding=True)
        self.assertEqual((again.bottom_lines[0].amount, again.run.form("us.1120").owed), (-13_860, 13_860))
        self.assertNotIn("us.1120-x", {one.code() for one in again.forms})

    def test_it_begins_with_what_was_owed_as_paid(self):
        pack = result().run.pack
        (paper,) = pack.correcting.begins(corrected(result(FIRST), MORE).run)
        self.assertEqual(paper.values["paid"], "12600")

    def test_a_refund_is_claimed_within_three_years_or_two_of_payment(self):
        pack = result().run.pack
        run = corrected(result(FIRST), LESS).run
        self.assertEqual(
            pack.correcting.claimable_until(run, pack.authorities[0]), date(2029, 4, 17)
        )  # a Sunday, then Emancipation Day
        run = corrected(result(FIRST), LESS, settled={"last_paid": "2028-08-01"}).run
        self.assertEqual(pack.correcting.claimable_until(run, pack.authorities[0]), date(2030, 8, 1))

    def test_what_stops(self):
        self.assertIn("us.1120.amended-same", stops(corrected(result(FIRST))))
        self.assertNotIn("us.1120.amended-same", stops(corrected(result(FIRST), settled={"anyway": "yes"})))
        self.assertIn(
            "us.1120.credited-more", stops(corrected(result(FIRST), LESS, settled={"paid": "12600", "credited": "2000"}))
        )
        codes = {one.code for one in corrected(result(FIRST, about(withheld="100")), about(withheld="100"), MORE).findings}
        self.assertIn("us.1120.amended-withheld", codes)

    def test_illinois_stops_where_its_figures_move(self):
        self.assertIn("us-il.entity.amended", stops(corrected(of_illinois(), shop(("Wages", "salaries", 39_000, 0)))))

    def test_what_was_credited_stays_and_what_is_added_comes_to_it(self):
        before = about(estimates="15000", credited="400")  # 2,400 overpaid: 2,000 refunded
        for now, settled, wanted in ((MORE, {}, "400"), (LESS, {"credited": "260"}, "660")):
            again = corrected(result(FIRST, before), before, now, settled=settled)
            values = next(one.values for one in roll_forward(again).data.papers if one.kind == "about")
            self.assertEqual(values["credited_before"], wanted)

    def test_columns_always_meet(self):
        for pay in range(0, 200_000, 17_000):
            lines = {
                c.number: c.value
                for c in corrected(result(FIRST), shop(("Wages", "salaries", pay, 0))).run.form("us.1120-x").lines()
            }
            for number in ("1", "2", "3", "4"):
                self.assertEqual(lines[f"{number}-B"], lines[f"{number}-C"] - lines[f"{number}-A"])
            self.assertEqual(min(lines["10"], lines["11"]), Decimal(0))


CODES = {"us.1120.amended-same", "us.1120.credited-more", "us.1120.amended-withheld", "us-il.entity.amended"}
