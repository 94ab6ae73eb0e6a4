"""Returns put together at random, of all states, years and statuses: nothing raises, and what must hold of every state's return does."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from taxcore.packs.us import apart, extensions
from taxcore.packs.us.tests.diagnosed.making import paper, pension, rows, sale, single
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, interest, person, result, w2
from taxcore.packs.us.tests.sampling import examples
from taxcore.packs.us.tests.test_states import TAXING, at

YEARS = (2022, 2023, 2024, 2025, 2026)
STATUSES = ("single", "joint", "separate", "head_of_household", "surviving_spouse", "")
PLACES = (*TAXING, "TX", "OH")
AMOUNTS = (0, 500, 9_000, 40_000, 250_000, 2_000_000)
FILERS = (
    {},
    {"birth_date": "1950-01-01"},
    {"claimed_by_other": "yes", "birth_date": "2007-01-05"},
    {"blind": "yes"},
    {"birth_date": ""},
)


class _Making:
    """One return from a source of chance. Values that make no sense together are meant: people enter them."""

    def __init__(self, chance, owns=False):
        self.chance, self.owns = chance, owns
        self.year = chance.choice(YEARS)
        self.home = chance.choice(PLACES)

    def often(self, share):
        return self.chance.random() < share

    def result(self):
        owned = self.owned() if self.owns else ()
        return result(*self.people(), *self.living(), *self.income(), *owned, *self.questions(), year=self.year)

    def people(self):
        choice, year = self.chance.choice, self.year
        yield person(**choice((*FILERS, {"death_date": f"{year}-05-05"})))
        if self.often(0.6):
            yield person("spouse", **choice(FILERS))
        for number in range(choice((0, 0, 1, 3))):
            yield child(f"d{number}", born=f"{year - choice((0, 3, 12, 16, 20))}-03-03", number=f"914-33-000{number}")

    def living(self):
        choice = self.chance.choice
        whole_year = choice((self.home, self.home, ""))
        status = {"spouse_died": choice(("", str(self.year - 1))), "kept_home": choice(("", "yes"))}
        yield filing(choice(STATUSES), residence=whole_year, state=self.home, **status)
        if not whole_year:
            yield single("residency", rows=rows(*self.stays()))

    def stays(self):
        for who in self.chance.choice((("both",), ("taxpayer", "spouse"), ("taxpayer",))):
            month = self.chance.randint(1, 12)
            yield {"person": who, "state": self.chance.choice(PLACES), "last": f"{self.year}-{month:02d}-10"}
            yield {"person": who, "state": self.chance.choice((*PLACES, "abroad")), "first": f"{self.year}-{month:02d}-11"}

    def income(self):
        choice = self.chance.choice
        for number in range(choice((0, 1, 2, 3))):
            yield self.wages(f"w{number}")
        given = {
            0.5: lambda: interest(choice(("0", "1200", "90000")), owner=choice(("taxpayer", "joint", "spouse"))),
            0.4: lambda: pension(gross=choice(("900", "40000")), code=choice(("1", "7", "4"))),
            0.41: lambda: sale(box=choice("ADF"), proceeds=choice(("100", "90000")), basis=choice(("50", "95000")),
                               sold=choice(("", f"{self.year}-05-05")), situated=choice(("", choice(TAXING)))),
            0.3: lambda: paper("ssa-1099", "s1", net=choice(("9000", "30000"))),
            0.31: lambda: shop(**choice(({}, {"receipts": "90000"}, {"receipts": "0"}))),
            0.32: lambda: paper("1098", "m1", owner="joint", lender="Ferry", interest=choice(("9000", "60000"))),
            0.33: lambda: paper("1099-g", "g1", unemployment=choice(("3000", "20000"))),
        }  # fmt: skip
        yield from (made() for share, made in given.items() if self.often(share))

    def owned(self):
        """Trades, shares with their bases, houses, things, exchanges, credits: what depends on one another in circles."""
        choice, year = self.chance.choice, self.year
        made = {
            0.3: lambda: paper("k1-1065", "k1", entity="Quay", entity_number="00-4455668", ordinary=choice(("-90000", "40000", "-2000000")), rental=choice(("", "-9000", "5000")), participates=choice(("yes", "no")),
                               all_at_risk=choice(("yes", "no", "")), publicly_traded=choice(("", "yes")), passive_before=choice(("", "900")),
                               royalties=choice(("", "70")), foreign_tax=choice(("", "40")), self_employment=choice(("", "9000"))),
            0.31: lambda: paper("basis-p", "p1", share="k1", basis=choice(("", "4000", "90000")), liabilities=choice(("", "-9000")),
                                distributed=choice(("", "50000")), not_at_risk=choice(("", "3000"))),
            0.25: lambda: paper("business", "b2", activity="Kiln", code="321000", participates="no", receipts=choice(("0", "30000")), supplies="9000",
                                not_at_risk=choice(("", "yes")), at_risk=choice(("", "500")), passive_before=choice(("", "700"))),
            0.3001: lambda: paper("rental", "h1", address_line="4 Slipway", property_kind=choice("1367"), state=choice(PLACES),
                                  active=choice(("yes", "no")), professional=choice(("", "yes")), rents=choice(("9000", "90000")), taxes=choice(("500", "30000"))),
            0.3002: lambda: paper("asset", "a1", description="House", sort=choice(("residential", "truck", "machinery")), used_in=choice(("h1", "b2")),
                                  cost="90000", in_service=f"{year - choice((0, 3))}-04-05", business_share=choice(("", "40")), fell_in=choice(("", str(year))),
                                  share_before="80", prior=choice(("", "4000")), section_179=choice(("", "5000")), sold=choice(("", f"{year}-06-06")), sold_for="70000"),
            0.15: lambda: paper("exchange", "e1", given="Copse", got="Meadow", sort=choice(("capital", "trade", "rental")), asset=choice(("", "a1")),
                                acquired="2015-04-01", transferred=f"{year}-06-06", value="90000", cash=choice(("", "8000"))),
            0.2: lambda: single("business-credits", wages_long=choice(("", "30000")), tips="9000", access_costs=choice(("", "900")),
                                carried=rows({"from_year": str(year - 2), "kind": choice(("other", "specified")), "amount": "4000"})),
            0.1501: lambda: single("penalty", annualise=choice(("yes", "")), waiver=choice(("yes", "")), waived="50"),
            0.1502: lambda: single("annualized", income_a="9000", income_b="20000", profit_b="9000"),
            0.3003: lambda: single("prior-year", tax=choice(("0", "9000")), adjusted_gross_income="90000"),
            0.1: lambda: single("decedent", capacity=choice(("court", "claimant"))),
            0.1001: lambda: single("operating-losses", rows=rows({"from_year": str(year - 1), "amount": "60000"})),
        }  # fmt: skip
        yield from (make() for often, make in made.items() if self.often(often))

    def wages(self, key):
        amount = self.chance.choice(AMOUNTS)
        there = [
            (state, self.chance.choice((amount, amount // 3)), self.chance.choice((0, 300, 9_000)))
            for state in self.chance.sample(PLACES, self.chance.choice((0, 1, 2)))
        ]
        return w2(
            amount, self.chance.choice((0, 100, amount // 5)), key, owner=self.chance.choice(("taxpayer", "spouse")), **at(*there)
        )

    def questions(self):
        choice = self.chance.choice
        for state in TAXING:
            asked = {"other_additions": choice(("", "5000")), "other_subtractions": choice(("", "900000")),
                     "applied_to_next_year": choice(("", "90000"))}  # fmt: skip
            if state == "IN":
                asked |= {"county": choice(("Lake", "Allen", "none", "")), "spouse_county": choice(("", "Marion", "none")),
                          "tax_last_year": choice(("", "0", "2000"))}  # fmt: skip
            if self.often(0.2):
                yield single(f"{state.lower()}-questions", use_tax="0", **asked)
        if self.often(0.2):
            decided = {"state": choice(PLACES), "what": choice(("make", "leave-out")), "reason": "Asked"}
            yield single("state-returns", rows=rows(decided))


def random_result(chance, owns=False):
    """The result of a return put together at random; with trades, shares and property of those who file."""
    return _Making(chance, owns).result()


class AnyReturnTests(TestCase):
    def settled(self, found):
        """(authority, its form, its tax) of each return, whose bottom line is one or the other and nothing below zero."""
        for line in found.bottom_lines:
            authority, form = line.authority, found.run.form(line.authority.form.code())
            tax, refund, owed = (getattr(form, name) for name in (authority.tax, authority.refund, authority.owed))
            self.assertGreaterEqual(min(tax, refund, owed), 0, authority.code)
            self.assertEqual(min(refund, owed), 0, authority.code)
            yield authority, form, tax

    @settings(max_examples=examples(120), deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.randoms(use_true_random=False))
    def test_what_holds_of_every_return(self, chance):
        found = random_result(chance)
        self.assertIsNotNone(found.all_findings)
        for authority, form, tax in self.settled(found):
            if authority.code != "us":  # no state takes more than a fifth, whatever the credits and parts
                self.assertLessEqual(tax, max(getattr(form, authority.income), 0) * Decimal("0.2") + 500, authority.code)

    @settings(max_examples=examples(80), deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.randoms(use_true_random=False))
    def test_with_trades_shares_and_property_nothing_raises(self, chance):
        found = random_result(chance, owns=True)
        self.assertIsNotNone(found.all_findings)
        self.assertIsNotNone(list(self.settled(found)))

    @settings(max_examples=examples(50), deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.randoms(use_true_random=False))
    def test_what_is_worked_out_beside_a_return_never_raises(self, chance):
        found = random_result(chance)
        before = [line.amount for line in found.bottom_lines]
        for choice in apart.choices(found.run):
            self.assertEqual(choice.saves, choice.apart - choice.together)
        for one in extensions.of_return(found.run):
            self.assertGreaterEqual(one.balance, 0)
        self.assertEqual([line.amount for line in found.bottom_lines], before)
