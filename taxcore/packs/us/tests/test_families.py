"""Generated families against the function written apart: any difference is a defect of one of the two."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as some

from taxcore.engine import PaperValues, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import child, data, filing, interest, person, w2
from taxcore.packs.us.tests.straight_family import family_by_hand

wages = some.integers(0, 140_000)
small = some.one_of(some.just(0), some.integers(0, 30_000))
profit = some.one_of(some.just(0), some.integers(-9_000, 60_000))


def paper(kind, key, owner="taxpayer", **values):
    return PaperValues(key, kind, {"owner": owner} | {name: str(value) for name, value in values.items()})


def sale(box, amount):
    """A gain of that much, or a loss."""
    rows = [{"id": "1", "box": box, "proceeds": str(max(amount, 0)), "basis": str(max(-amount, 0))}]
    return PaperValues(f"b{box.lower()}", "1099-b", {"owner": "taxpayer", "payer": "Sandbar", "summaries": rows})


class FamilyTests(TestCase):
    @given(some.data())
    @settings(max_examples=500, deadline=None)
    def test_a_computation_written_apart_agrees(self, draws):
        draw = draws.draw
        year, status = (
            draw(some.sampled_from([2022, 2023, 2024, 2025])),
            draw(some.sampled_from(["single", "joint", "head_of_household"])),
        )
        roles = ("taxpayer", "spouse") if status == "joint" else ("taxpayer",)
        old = [draw(some.booleans()) for _ in roles]
        pay, profits = [draw(wages) for _ in roles], [draw(profit) for _ in roles]
        earned_interest, dividends, gain, loss = draw(small), draw(small), draw(small), draw(small)
        qualified = draw(some.integers(0, dividends))
        benefits = draw(some.one_of(some.just(0), some.integers(0, 40_000)))
        children = draw(some.integers(1 if status == "head_of_household" else 0, 4))
        withheld = draw(some.integers(0, 20_000))
        people = [person(role, born="1950-06-15" if aged else "1985-06-15") for role, aged in zip(roles, old, strict=True)]
        papers = [w2(amount, 0, f"w{role}", role, state="TX") for role, amount in zip(roles, pay, strict=True)]
        papers += [paper("business", f"c{role}", role, activity="x", code="811490", participates="yes", service_trade="no",
                         receipts=max(amount, 0), supplies=max(-amount, 0))
                   for role, amount in zip(roles, profits, strict=True) if amount]  # fmt: skip
        papers += [interest(earned_interest, withheld=str(withheld)), paper("1099-div", "v1", dividends=dividends, qualified=qualified),
                   sale("D", gain), sale("A", -loss), paper("ssa-1099", "s1", net=benefits)]  # fmt: skip
        kids = [child(f"d{n}", born=f"{year - 9}-04-01") for n in range(1, children + 1)]
        home = filing(status, residence="TX", state="TX", kept_home="yes")
        result = compute(PACK, data(*people, *kids, home, *papers, year=year))
        assume(not result.run.form("us.8995").above_threshold)
        exact = [Decimal(amount) for amount in (earned_interest, dividends, qualified, gain, loss, benefits)]
        expected = family_by_hand(
            year, status, [Decimal(p) for p in pay], [Decimal(p) for p in profits], *exact, children, sum(old), Decimal(withheld)
        )
        self.assertEqual({address: result[address].value for address in expected}, expected)
