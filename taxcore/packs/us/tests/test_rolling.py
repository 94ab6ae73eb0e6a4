"""Next year's return: each carryover worked by hand over a pair of years, and nothing that was not declared."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as some

from taxcore.engine import Amount, CannotRoll, PaperValues, ReturnData, Rows, compute, document, roll_forward
from taxcore.engine.document import read, write
from taxcore.packs.us import PACK, balances
from taxcore.packs.us.tests import test_properties
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import child, codes, couple, filing, interest, person, result, w2
from taxcore.packs.us.tests.sampling import examples
from taxcore.packs.us.tests.test_properties import returns


def sold(short="0", long="0"):
    """Losses, as positive amounts."""
    sales = [
        {
            "id": number,
            "box": box,
            "description": "Shares",
            "acquired": "2020-01-05",
            "sold": "2024-05-05",
            "proceeds": "0",
            "basis": loss,
        }
        for number, box, loss in (("1", "A", short), ("2", "D", long))
        if loss != "0"
    ]
    return paper("1099-b", "b1", payer="Sandbar", sales=sales)


def values(rolled, kind, key=None):
    return next((one.values for one in rolled.data.papers if one.kind == kind and key in (None, one.id)), None)


def roll(*papers, **options):
    return roll_forward(result(*papers, year=2024, **options))


class WorkedPairsTests(TestCase):
    """Law of 2024 by hand: standard deduction 14,600 single; brackets 10% to 11,600, 12% to 47,150."""

    def test_capital_losses_keep_their_kind(self):
        """3,000 comes off the short-term loss first: 10,000 less 3,000, and all of the long-term one."""
        rolled = roll(w2(50_000), sold("10000", "5000"))
        self.assertEqual(values(rolled, "capital-carryover"), {"short_term": "7000", "long_term": "5000"})

    def test_a_limit_not_used_for_want_of_income_is_not_used_up(self):
        """10,000 less 14,600 and 3,000 back is below zero: nothing of the loss was of use."""
        rolled = roll(w2(10_000), sold("10000", "5000"))
        self.assertEqual(values(rolled, "capital-carryover"), {"short_term": "10000", "long_term": "5000"})

    def test_gifts_above_the_limit_by_year_and_the_oldest_lost(self):
        """60% of 50,000 takes 30,000 of this year's 40,000; nothing of 2019's 1,000, whose fifth year this was."""
        before = single("gift-carryover", rows=rows({"from_year": "2019", "gift_kind": "cash", "amount": "1000"}))
        rolled = roll(
            w2(50_000),
            paper("gift", charity="Pier", gift_kind="cash", amount="40000"),
            before,
            single("itemized", choice="itemise"),
        )
        carried = values(rolled, "gift-carryover")["rows"]
        self.assertEqual(carried, [{"id": "1", "from_year": "2024", "gift_kind": "cash", "amount": "10000"}])
        self.assertEqual(values(rolled, "gift"), {"owner": "taxpayer", "charity": "Pier", "gift_kind": "cash"})

    def test_the_oldest_gifts_are_used_first(self):
        """Room of 30,000: this year's 10,000, 2021's 15,000, then 5,000 of 2022's 8,000."""
        before = single("gift-carryover", rows=rows({"from_year": "2022", "gift_kind": "cash", "amount": "8000"},
                                                    {"from_year": "2021", "gift_kind": "cash", "amount": "15000"}))  # fmt: skip
        rolled = roll(
            w2(50_000),
            paper("gift", charity="Pier", gift_kind="cash", amount="10000"),
            before,
            single("itemized", choice="itemise"),
        )
        carried = values(rolled, "gift-carryover")["rows"]
        self.assertEqual(carried, [{"id": "1", "from_year": "2022", "gift_kind": "cash", "amount": "3000"}])

    def test_foreign_tax_above_the_limit(self):
        """61,000 less 14,600 is 46,400, its tax by the table 5,339; 1,000 less .0164 of 14,600 (239) is 761, over 46,400 .0164,
        so 88 of 700 is credited."""
        income = paper(
            "1099-div", "v1", payer="Heron", dividends="1000", foreign_income="1000", foreign_tax="700", foreign_country="Norway"
        )
        rolled = roll(w2(60_000), income, single("foreign-tax", category="passive", country="Norway"))
        carried = values(rolled, "foreign-tax")
        self.assertEqual(
            carried, {"category": "passive", "country": "Norway", "carried": [{"id": "1", "from_year": "2024", "amount": "612"}]}
        )

    def test_foreign_tax_of_ten_years_ago_is_lost(self):
        before = rows({"from_year": "2014", "amount": "90"}, {"from_year": "2015", "amount": "40"})
        rolled = roll(w2(60_000), single("foreign-tax", category="general", carried=before))
        self.assertEqual(values(rolled, "foreign-tax")["carried"], [{"id": "1", "from_year": "2015", "amount": "40"}])

    def test_clean_energy_credit_that_found_no_tax(self):
        """30% of 30,000 is 9,000; the tax on 25,400 by the table 2,819."""
        rolled = roll(w2(40_000), single("energy", solar_electric="30000"))
        self.assertEqual(values(rolled, "energy"), {"carried_in": "6181"})

    def test_investment_interest_above_investment_income(self):
        rolled = roll(w2(50_000), interest(300), single("itemized", choice="itemise", investment_interest="1000"))
        self.assertEqual(values(rolled, "itemized"), {"investment_interest_before": "700"})

    def test_basis_and_excesses_stay_with_their_owner(self):
        """A basis nobody touched; Roth 10,000 against 7,000; the spouse's excess of last year against room of 7,000."""
        mine = paper("ira", "x1", owner="taxpayer", basis_before="700", roth="10000")
        hers = paper("ira", "x2", owner="spouse", excess_before="9000")
        rolled = roll_forward(couple(w2(60_000), mine, hers, year=2024))
        self.assertEqual(values(rolled, "ira", "x1"), {"owner": "taxpayer", "basis_before": "700", "roth_excess_before": "3000"})
        self.assertEqual(values(rolled, "ira", "x2"), {"owner": "spouse", "excess_before": "2000"})

    def test_an_hsa_excess_is_taxed_again_each_year(self):
        cover = rows({"kind": "alone", "first": "1", "last": "12"})
        rolled = roll(w2(60_000), paper("hsa", "h1", coverage=cover, paid_in="5000"))
        self.assertEqual(values(rolled, "hsa"), {"owner": "taxpayer", "excess_before": "850"})  # 4,150 may be paid in

    def test_a_business_passes_on_its_stock_and_its_home_office(self):
        """Receipts 10,000 less goods of 3,000 (5,000 bought, 2,000 left) less 4,000: 3,000 of profit. A tenth of 40,000 rent is
        4,000: 1,000 waits."""
        books = paper("business", "b1", activity="Repair", code="811490", participates="yes", receipts="10000", purchases="5000",
                      inventory_end="2000", supplies="4000", home_method="regular", home_area="100", home_total="1000", home_rent="40000")  # fmt: skip
        carried = values(roll(w2(50_000), books), "business")
        self.assertEqual((carried["inventory_start"], carried["home_carried"]), ("2000", "1000"))
        self.assertEqual((carried["activity"], carried["home_method"], carried.get("receipts")), ("Repair", "regular", None))

    def test_a_home_office_carryover_waits_through_the_simplified_method(self):
        books = paper(
            "business",
            "b1",
            activity="Repair",
            code="811490",
            receipts="10000",
            home_method="simplified",
            home_area="100",
            home_carried="900",
        )
        self.assertEqual(values(roll(books), "business")["home_carried"], "900")

    def test_a_qualified_loss_waits_through_years_without_its_business(self):
        books = paper("business", "b1", activity="Repair", code="811490", participates="yes", receipts="500", supplies="1500")
        rolled = roll(w2(50_000), books)
        self.assertEqual(values(rolled, "qualified-loss"), {"loss": "1000"})
        without = [one for one in rolled.data.papers if one.kind != "business"]
        again = roll_forward(compute(PACK, rolled.data.but(papers=tuple(without))))
        self.assertEqual(values(again, "qualified-loss"), {"loss": "1000"})

    def test_years_of_the_american_credit_are_counted_where_it_was_had(self):
        tuition = paper("1098-t", "t1", payer="College", student="d1", paid="3000", half_time="yes", years_claimed="1")
        family = (person(), filing("head_of_household", kept_home="yes"), child("d1", born="2005-04-01", student="yes"), tuition)
        self.assertEqual(values(roll(*family, w2(60_000)), "1098-t"), {"student": "d1", "payer": "College", "years_claimed": "2"})
        self.assertEqual(values(roll(*family, w2(190_000)), "1098-t")["years_claimed"], "1")  # phased out from 80,000 to 90,000

    def test_cost_of_an_annuity(self):
        """31,500 over 210 payments is 150 a month, 1,800 a year."""
        annuity = paper("1099-r", "r1", payer="Tern", gross="12000", code="7", ira="no", total_contributions="31500", start="2024-01-01",
                        age_at_start="66")  # fmt: skip
        carried = values(roll(annuity), "1099-r")
        self.assertEqual(
            (carried["recovered_before"], carried["total_contributions"], carried["age_at_start"]), ("1800", "31500", "66")
        )

    def test_overpayments_and_figures_that_the_law_looks_at(self):
        """50,000 less 14,600: 35,400, its tax by the table 4,019."""
        asked = single("il-questions", applied_to_next_year="40")
        rolled = roll(
            w2(50_000, 6_000, state_withheld=3_000), single("deposit", routing="138150000", applied_to_next_year="500"), asked
        )
        self.assertEqual(values(rolled, "estimates"), {"applied": "500"})
        self.assertEqual(values(rolled, "il-questions"), {"applied_before": "40"})
        self.assertEqual(values(rolled, "prior-year"), {"adjusted_gross_income": "50000", "tax": "4019", "itemised": "no"})
        self.assertEqual(values(rolled, "deposit"), {"routing": "138150000"})

    def test_itemized_deductions_for_a_state_refund(self):
        """Income tax 9,000 and property 6,000 are 15,000, of which 10,000 count."""
        rolled = roll(
            w2(90_000, state_withheld=9_000), single("itemized", choice="itemise", property_tax="6000", sales_tax="1200")
        )
        prior = values(rolled, "prior-year")
        wanted = {"itemised": "yes", "itemised_total": "10000", "state_tax_deducted": "9000", "sales_tax_then": "1200", "above_cap": "5000",
                  "standard_then": "14600"}  # fmt: skip
        self.assertEqual({name: prior[name] for name in wanted}, wanted)

    def test_taxable_income_below_zero_for_a_state_refund(self):
        """10,000 less property tax of 9,000 and medical costs of 8,000 less 750: 6,250 below zero."""
        rolled = roll(w2(10_000), single("itemized", choice="itemise", property_tax="9000", medical="8000"))
        self.assertEqual(values(rolled, "prior-year")["separate_or_negative"], "-6250")

    def test_a_states_tax_of_the_year_before(self):
        """Indiana, 2024: 3.05% of 50,000 less 1,000, in whole dollars; no county is entered."""
        rolled = roll(filing(residence="IN", state="IN"), w2(50_000, state="IN"), single("in-questions", use_tax="0"))
        self.assertEqual(values(rolled, "in-questions")["tax_last_year"], "1495")


class PeopleTests(TestCase):
    def test_a_spouse_who_died_leaves_and_the_other_is_the_taxpayer(self):
        """Losses of 20,000 and 10,000, together 27,000 are left: a third of it is the survivor's."""
        died, lives = person("taxpayer", death_date="2024-05-05"), person("spouse", born="1982-01-01")
        his, hers = sold(long="20000"), PaperValues("b2", "1099-b", sold(long="10000").values | {"owner": "spouse"})
        rolled = roll_forward(
            result(died, lives, filing("joint"), w2(60_000), w2(50_000, key="w2", owner="spouse"), his, hers, year=2024)
        )
        people = [(one.id, one.values["role"], one.values["first_name"]) for one in rolled.data.papers if one.kind == "person"]
        self.assertEqual(people, [("taxpayer", "taxpayer", "Spouse")])
        self.assertEqual([(one.id, one.values["owner"]) for one in rolled.data.papers if one.kind == "w2"], [("w2", "taxpayer")])
        self.assertEqual(values(rolled, "filing")["status"], "single")
        self.assertEqual(values(rolled, "capital-carryover"), {"long_term": "9000"})
        self.assertTrue(any("33% is Spouse" in says for says in rolled.remarks), rolled.remarks)

    def test_with_a_child_at_home_the_survivor_has_two_years(self):
        people = (person(), person("spouse", death_date="2024-05-05"), child("d1"), filing("joint"))
        filed = values(roll(*people, w2(60_000)), "filing")
        self.assertEqual((filed["status"], filed["spouse_died"]), ("surviving_spouse", "2024"))

    def test_who_part_have_their_own_losses_and_their_part_of_the_tax(self):
        """Short-term losses of 12,000 and 3,000, of which 12,000 are left: four fifths are one's. Apart, wages of 60,000 and 50,000
        less 1,500 of loss each are taxed with 5,039 and 3,839; of 8,875 together that makes 5,037 and 3,838."""
        his, hers = sold(short="12000"), PaperValues("b2", "1099-b", sold(short="3000").values | {"owner": "spouse"})
        deposit = PaperValues("deposit", "deposit", {"applied_to_next_year": "400"})
        both = result(person(), person("spouse", born="1982-01-01"), child("d1", born="2005-01-01"), filing("joint"), his, hers, deposit,
                      w2(60_000, 12_000), w2(50_000, key="w2", owner="spouse"), year=2024)  # fmt: skip
        one, other = (roll_forward(both, role) for role in ("taxpayer", "spouse"))
        self.assertEqual((values(one, "capital-carryover"), values(other, "capital-carryover")),
                         ({"short_term": "9600"}, {"short_term": "2400"}))  # fmt: skip
        self.assertEqual((values(one, "prior-year")["tax"], values(other, "prior-year")["tax"]), ("5037", "3838"))
        self.assertEqual(values(one, "estimates")["applied"], "400")
        self.assertNotIn("applied", values(other, "estimates"))
        for rolled, wages, first in ((one, "w1", "Taxpayer"), (other, "w2", "Spouse")):
            self.assertEqual([paper.id for paper in rolled.data.papers if paper.kind == "w2"], [wages])
            self.assertEqual(values(rolled, "person", "taxpayer")["first_name"], first)
            self.assertEqual(values(rolled, "filing")["status"], "single")
            self.assertTrue(any("one of them claims" in says for says in rolled.remarks), rolled.remarks)
            self.assertIn("us.unconfirmed-tax", codes(compute(PACK, rolled.data)))

    def test_only_a_couple_can_part(self):
        for papers in ((person(), w2(60_000)), (person(), person("spouse", death_date="2024-05-05"), filing("joint"))):
            with self.assertRaisesRegex(CannotRoll, "Only a couple"):
                roll_forward(result(*papers, year=2024), "taxpayer")

    def test_nobody_is_left(self):
        with self.assertRaisesRegex(CannotRoll, "no individual return for 2025"):
            roll(person(death_date="2024-05-05"), w2(60_000))

    def test_the_law_of_the_year_after_is_not_here(self):
        with self.assertRaisesRegex(CannotRoll, "law of 2027"):
            roll_forward(result(w2(60_000), year=2026))

    def test_children_grow_and_facts_of_the_year_are_asked_again(self):
        kid = values(
            roll(person(), filing("head_of_household", kept_home="yes"), child("d1", student="yes"), w2(60_000)), "person", "d1"
        )
        self.assertEqual((kid["birth_date"], kid["relationship"], kid["resident"]), ("2015-04-01", "child", "yes"))
        self.assertFalse({"months_at_home", "student", "identity_pin"} & set(kid))

    def test_whoever_moved_begins_where_the_year_ended(self):
        stays = single(
            "residency",
            rows=rows(
                {"person": "taxpayer", "state": "IL", "last": "2024-06-30"},
                {"person": "taxpayer", "state": "WI", "first": "2024-07-01"},
            ),
        )
        rolled = roll(w2(60_000), stays)
        self.assertEqual((values(rolled, "filing")["residence"], values(rolled, "residency")), ("WI", None))

    def test_two_homes_stay_two(self):
        stays = single("residency", rows=rows({"person": "taxpayer", "state": "IL"}, {"person": "spouse", "state": "WI"}))
        kept = values(roll_forward(couple(w2(60_000), stays, year=2024)), "residency")["rows"]
        self.assertEqual([(row["person"], row["state"]) for row in kept], [("taxpayer", "IL"), ("spouse", "WI")])

    def test_senders_come_without_amounts_and_what_ended_does_not_come(self):
        pension = paper("1099-r", "r1", payer="Tern", gross="900", code="7", ira="no", total_distribution="yes")
        rolled = roll(w2(50_000, 5_000), interest(300), pension, paper("w2g", "g1", payer="Casino", winnings="400"))
        wages = values(rolled, "w2")
        self.assertEqual(
            (wages["employer"], wages["states"]), ("Kittiwake", [{"id": "1", "state": "IL", "state_number": "0071"}])
        )
        self.assertEqual(values(rolled, "1099-int"), {"owner": "taxpayer", "payer": "Bank i1"})
        self.assertEqual({one.kind for one in rolled.data.papers} & {"1099-r", "w2g", "diligence"}, set())


class ConfirmingTests(TestCase):
    def test_what_came_along_waits_and_stops_where_the_tax_depends_on_it(self):
        rolled = roll(w2(50_000, 6_000, state_withheld=3_000), sold("10000"))
        found = {
            (one.code, at)
            for one in compute(PACK, rolled.data).findings
            if one.code.startswith("us.unconfirmed")
            for at in one.at
        }
        for wanted in (
            ("us.unconfirmed-tax", "us.capital-carryover.6"), ("us.unconfirmed-tax", "us.filing.status"), ("us.unconfirmed", "us.filing.street"),
            ("us.unconfirmed", "us.w2[w1].c"),
        ):  # fmt: skip
            self.assertIn(wanted, found)
        confirmed = rolled.data.but(papers=tuple(replace(one, carried=()) for one in rolled.data.papers))
        self.assertFalse([one for one in compute(PACK, confirmed).findings if one.code.startswith("us.unconfirmed")])

    def test_confirming_by_need_is_confirming_in_full(self):
        rolled = roll(w2(50_000), sold("10000"))
        result_ = compute(PACK, rolled.data)
        papers = list(rolled.data.papers)
        while any(one.carried for one in papers):
            at = next(number for number, one in enumerate(papers) if one.carried)
            papers[at] = replace(papers[at], carried=papers[at].carried[1:])
            data = rolled.data.but(papers=tuple(papers))
            result_ = result_.changed(data)
            self.assertEqual(result_.findings, compute(PACK, data).findings)


class DeclarationTests(TestCase):
    def test_every_closing_line_has_an_opening_field_and_the_other_way_round(self):
        self.assertEqual(set(PACK.closings), set(PACK.openings))

    def test_every_balance_is_used(self):
        declared = {one for one in vars(balances).values() if isinstance(one, balances.Balance)}
        self.assertEqual(declared, {balance for balance, _ in PACK.closings})

    def test_an_opening_finds_its_paper_in_the_year_after(self):
        """The clean energy credit alone ends: in 2026 what is left of it has no place here, and rolling says so."""
        late = {
            (balance.name, year)
            for year in PACK.years[1:]
            for (balance, _), openings in PACK.openings.items()
            if not any(one.paper.since <= year <= one.paper.until for one in openings)
        }
        self.assertEqual(late, {("clean-energy", 2026)})
        rolled = roll_forward(result(w2(40_000), single("energy", solar_electric="30000"), year=2025))
        self.assertTrue(any("Clean energy credit" in says for says in rolled.remarks))

    def test_rows_by_origin_are_rows_of_the_field(self):
        for (balance, _), closing in PACK.closings.items():
            fields = [one.field for one in PACK.openings[next(key for key in PACK.openings if key[0] is balance)]]
            self.assertEqual(bool(closing.line.by_origin), isinstance(fields[0], Rows), balance.name)


class PropertyTests(TestCase):
    @given(some.data())
    @settings(max_examples=examples(40), deadline=None)
    def test_whatever_was_entered_rolling_gives_a_return_or_a_reason(self, draws):
        """Up to ten papers of any kinds with anything at all in their fields; what does not fit its field stays behind."""
        hostile = test_properties.PropertyTests()
        kinds = draws.draw(some.lists(some.sampled_from(PACK.papers), min_size=1, max_size=10))
        papers = [person(), child("d1", death_date=draws.draw(some.sampled_from(("", "2024-03-01", "nonsense"))))]
        for number, kind in enumerate(kinds):
            values = hostile.anything(draws, kind) if draws.draw(some.booleans()) else hostile.likely(draws, kind)
            papers.append(PaperValues(kind.kind if kind.single else f"k{number}", kind.kind, values))
        unique = {(one.kind, one.id): one for one in papers}
        source = ReturnData("us", draws.draw(some.sampled_from(PACK.years)), tuple(unique.values()))
        try:
            rolled = roll_forward(compute(PACK, source))
        except CannotRoll:
            return
        after = compute(PACK, rolled.data)
        self.assertFalse([one for one in after.findings if one.code in ("us.bad-value", "us.unknown-paper")])

    @given(returns())
    @settings(max_examples=examples(40), deadline=None)
    def test_rolling_is_repeatable_leaves_the_source_and_brings_no_amount_undeclared(self, source):
        before = document.write(source)
        try:
            first, second = (roll_forward(compute(PACK, source)) for _ in range(2))
        except CannotRoll:
            return
        self.assertEqual(document.write(source), before)
        self.assertEqual(write(first.data), write(second.data))
        self.assertEqual(write(read(write(first.data))), write(first.data))
        for one in first.data.papers:
            fields = PACK.by_kind[one.kind].fields()
            amounts = {name for name, value in one.values.items() if isinstance(fields.get(name), Amount)}
            allowed = {name for name, field in fields.items() if field.kept or field.opens is not None}
            self.assertLessEqual(amounts, allowed, one.kind)
            for name, value in one.values.items():
                if isinstance(fields.get(name), Rows) and fields[name].opens is None:
                    row = fields[name].row.fields()
                    self.assertFalse([n for each in value for n in each if isinstance(row.get(n), Amount)], (one.kind, name))
        after = compute(PACK, first.data)
        self.assertFalse([finding for finding in after.findings if finding.code == "us.bad-value"])
        for opened in first.opened:
            self.assertGreaterEqual(Decimal(opened.amount), -(Decimal(10) ** 12))
