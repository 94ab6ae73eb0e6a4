"""Random companies against the straight line, and what must hold of every one."""

import random
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.uk.company import PACK
from taxcore.packs.uk.company.tests import straight
from taxcore.packs.uk.company.tests.test_worked import LONG, books, bought, losses, other, paper, plant, result

_AMOUNTS = (0, 900, 9_000, 24_000, 49_000, 51_000, 90_000, 180_000, 249_000, 260_000, 700_000)


def drawn(chance):
    begins = date(2022, 4, 1) + timedelta(days=chance.randrange(1_000))
    ends = min(begins + timedelta(days=chance.choice((364, 364, 364, 200, 91))), date(2026, 3, 31))
    facts = {"begins": begins, "ends": ends, "profit": chance.choice(_AMOUNTS) + chance.randrange(900) - 2_000}
    facts |= {
        "added": chance.choice((0, 4_321)),
        "plant": chance.choice((0, 7_000, 60_000)),
        "pool": chance.choice((0, 400, 30_000)),
    }
    facts |= {
        "interest": chance.choice((0, 0, 812)),
        "losses": chance.choice((0, 5_000)),
        "donations": chance.choice((0, 0, 500)),
    }
    return facts | {"dividends": chance.choice((0, 0, 15_000)), "associates": chance.choice((0, 0, 1, 3))}


def entered(facts):
    adjustments = [{"id": "1", "what": "Private", "by": "add", "amount": str(facts["added"])}]
    rows = [bought(facts["plant"], bought=facts["begins"].isoformat())] if facts["plant"] else []
    return (
        books(facts["profit"], adjustments=adjustments), plant(*rows, main_before=str(facts["pool"])),
        other(interest=str(facts["interest"]), dividends=str(facts["dividends"])), losses(trade_before=str(facts["losses"])),
        paper("reliefs", donations=str(facts["donations"])),
    )  # fmt: skip


def computed(facts):
    span = {"begins": facts["begins"].isoformat(), "ends": facts["ends"].isoformat()}
    return result(*entered(facts), associates=str(facts["associates"]), **span).run


class StraightTests(TestCase):
    def test_tax_of_random_companies(self):
        for number in range(80):
            facts = drawn(random.Random(f"company {number}"))
            form = computed(facts).form("uk.ct600")
            profits, lost = straight.chargeable(facts)
            with self.subTest(number, **facts):
                self.assertEqual((form.taxable, form.trade.loss), (profits, lost))
                self.assertTrue(straight.close(form.chargeable, straight.corporation_tax(facts)), form.chargeable)

    def test_pools_are_never_negative_nor_allowed_more_than_was_spent(self):
        for number in range(40):
            facts = drawn(random.Random(f"pool {number}"))
            form = computed(facts).form("uk.plant")
            with self.subTest(number, **facts):
                self.assertGreaterEqual(form.main_after, 0)
                self.assertLessEqual(form.allowances, facts["plant"] + facts["pool"])
                self.assertEqual(form.allowances + form.main_after, facts["plant"] + facts["pool"])

    def test_tax_never_falls_as_profits_rise(self):
        for number in range(30):
            facts = drawn(random.Random(f"more {number}"))
            more = facts | {"profit": facts["profit"] + 1_000}
            less, then = (computed(one).form("uk.ct600").chargeable for one in (facts, more))
            self.assertGreaterEqual(then, less, facts)

    def test_parts_of_long_accounts_make_the_whole(self):
        for profit in (109_600, -50_000, 777_777):
            parts = [result(books(profit, **LONG), **span).run.form("uk.trading-profit").of_period
                     for span in ({}, {"begins": "2025-04-01", "ends": "2025-09-30"})]  # fmt: skip
            self.assertLessEqual(abs(sum(parts) - profit), 2)

    def test_after_any_edits_a_result_is_what_a_full_computation_gives(self):
        for number in range(6):
            chance = random.Random(f"edits {number}")
            found = result(*entered(drawn(chance)))
            for _ in range(8):
                data = found.run.everything
                place = chance.randrange(2, len(data.papers))
                names = [name for name, value in data.papers[place].values.items() if isinstance(value, str)]
                if not names:
                    continue
                values = {**data.papers[place].values, chance.choice(names): str(chance.choice(_AMOUNTS))}
                papers = tuple(replace(one, values=values) if at == place else one for at, one in enumerate(data.papers))
                wanted = data.but(papers=papers)
                found, whole = found.changed(wanted) or compute(PACK, wanted), compute(PACK, wanted)
                mine, theirs = ({cell.address: (cell.value, cell.how) for cell in one.lines()} for one in (found, whole))
                self.assertEqual(mine, theirs)
                self.assertEqual(found.findings, whole.findings)

    def test_order_of_papers_never_matters(self):
        facts = drawn(random.Random("order"))
        one = computed(facts).form("uk.ct600").chargeable
        span = {"begins": facts["begins"].isoformat(), "ends": facts["ends"].isoformat()}
        other_way = result(*reversed(entered(facts)), associates=str(facts["associates"]), **span)
        self.assertEqual(other_way.run.form("uk.ct600").chargeable, one)
        self.assertIsInstance(one, Decimal)
