"""Diagnostics that entities share: each once where it speaks, once where what it says was mended."""

from unittest import TestCase

from taxcore.packs.us.corporation.tests import making as c
from taxcore.packs.us.partnership.tests import making as p
from taxcore.packs.us.partnership.tests.test_worked import house
from taxcore.packs.us.s_corporation.tests import making as s

P, S, C = p.result, s.result, c.result
HUGE = ("Sales", "sales", -40_000_000, 0)
GONE = p.asset(50_000, key="old", in_service="2020-05-10", sold="2025-06-01", sold_for="9000")
KEPT = p.asset(50_000, in_service="2020-05-10")


def small(*accounts):
    """Books of a few accounts; cash makes them balance."""
    return p.books(*accounts, ("Checking", "cash", -sum(one[2] for one in accounts), -sum(one[3] for one in accounts)))


def dated(day):
    return p.paper(
        "entry",
        "e1",
        entry_kind="tax",
        explanation="x",
        made_on=day,
        rows=p.rows({"account": "Wages", "debit": "1"}, {"account": "Meals", "credit": "1"}),
    )


# Which return; code; papers with it; papers without
CASES = (
    (P, "us.books.accumulated-above", (p.shop(("Accumulated depreciation", "accumulated", -51_000, -15_000)),), ()),
    (P, "us.books.amortized-above", (p.shop(("Amortized", "amortized", -9, 0)),), (p.shop(("Amortized", "amortized", -9, 0), ("Goodwill", "intangible", 90, 0)),)),
    (P, "us.books.depleted-above", (p.shop(("Depleted", "depleted", -9, 0)),), (p.shop(("Depleted", "depleted", -9, 0), ("Gravel", "depletable", 90, 0)),)),
    (P, "us.books.allowance-above", (p.shop(("Allowance", "allowance", -10_001, 0)),), (p.shop(("Allowance", "allowance", -900, 0)),)),
    (P, "us.books.negative-debt", (p.shop(("Suppliers", "payables", 9, -6_000)),), ()),
    (P, "us.books.no-cash", (p.books(("Land", "land", 9, 0), ("Capital", "capital", -9, 0)),), ()),
    (P, "us.books.beginning-missing", (small(("Sales", "sales", -9, 0)),), (small(("Sales", "sales", -9, 0)), p.about(initial="yes"))),
    (P, "us.books.beginning-initial", (p.about(initial="yes"),), ()),
    (P, "us.books.final-assets", (p.about(final="yes"),), ()),
    (P, "us.about.started-later", (p.about(started="2026-03-01"),), ()),
    (C, "us.about.started-later", (c.about(incorporated="2026-03-01"),), ()),
    (P, "us.about.initial-later", (p.about(initial="yes"),), (p.about(initial="yes", started="2025-03-01"),)),
    (P, "us.about.short-first-year", (p.about(initial="yes", started="2025-05-01"), p.asset(9_000)),
     (p.about(initial="yes", started="2025-01-02"), p.asset(9_000))),
    (C, "us.about.short-first-year", (c.about(initial="yes", incorporated="2025-05-01"), p.asset(9_000)),
     (c.about(initial="yes", incorporated="2025-05-01"), p.asset(9_000, section_179="9000"))),
    (P, "us.about.ended-other", (p.about(final="yes", ended="2024-12-31"),), (p.about(final="yes", ended="2025-12-31"),)),
    (S, "us.about.ended-early", (s.about(final="yes", ended="2025-06-30"),), (s.about(final="yes", ended="2025-12-31"),)),
    (P, "us.about.short-last-year", (p.about(final="yes", ended="2025-06-30"), KEPT), (p.about(final="yes", ended="2025-12-31"), KEPT)),
    (P, "us.books.no-receipts", (small(("Wages", "salaries", 9_000, 0)),), ()),
    (P, "us.books.inventory-no-cost", (small(("Parts", "inventory", 9, 0)),), ()),
    (P, "us.books.depreciation-no-asset", (small(("Depreciation", "depreciation", 9, 0)),), ()),
    (P, "us.books.amortization-no-asset", (p.shop(("Amortization", "amortization", 9, 0)),), (p.shop(("Amortization", "amortization", 9, 0), ("Goodwill", "intangible", 90, 0)),)),
    (P, "us.books.interest-no-debt", (small(("Interest", "interest", 9, 0)),), ()),
    (P, "us.books.wages-no-tax", (small(("Wages", "salaries", 9_000, 0)),), ()),
    (P, "us.books.meals-large", (p.shop(("Meals", "meals", 10_001, 0)),), ()),
    (P, "us.books.repairs-large", (p.shop(("Repairs", "repairs", 20_001, 0)),), (p.shop(("Repairs", "repairs", 20_000, 0)),)),
    (P, "us.books.cash-method", (p.about(method="cash"),), ()),
    (P, "us.books.lent-no-interest", (small(("Lent to Ada", "loans_to_owners", 10_001, 0)),), (p.shop(("Lent to Ada", "loans_to_owners", 10_001, 0)),)),
    (P, "us.books.borrowed-no-interest", (small(("From Ada", "loans_from_owners", -10_001, 0)),), (p.shop(("From Ada", "loans_from_owners", -10_001, 0)),)),
    (P, "us.books.own-income-tax", (p.shop(("Tax of owners", "income_tax", 9, 0)),), ()),
    (P, "us.books.gain-no-sale", (p.shop(("Gain", "asset_gain", -9, 0)),), (p.shop(("Gain", "asset_gain", -9, 0)), GONE)),
    (P, "us.books.sale-no-gain", (GONE,), (p.shop(("Gain", "asset_gain", -9, 0)), GONE)),
    (P, "us.books.register-differs", (p.asset(9_000),), (KEPT,)),
    (P, "us.entry.other-year", (dated("2023-05-01"),), (dated("2026-01-31"),)),
    (P, "us.entry.empty", (p.paper("entry", "e1", entry_kind="tax", explanation="x"),), (dated("2025-05-01"),)),
    (P, "us.about.no-1099", (), (p.about(payments_1099="yes", filed_1099="yes"),)),
    (P, "us.about.unfiled-1099", (p.about(payments_1099="yes", filed_1099="no"),), (p.about(payments_1099="yes", filed_1099="yes"),)),
    (P, "us.about.foreign-account", (p.about(foreign_account="yes"),), (p.about(foreign_account="no"),)),
    (P, "us.about.interest-limit", (p.shop(HUGE),), (p.shop(HUGE, ("Loan interest", "interest", 0, 0)),)),
    (P, "us.about.interest-limit", (p.shop(HUGE),), (p.shop(HUGE), p.paper("business", small="yes"))),
    (C, "us.about.m-3", (c.shop(("Land", "land", 10_000_000, 0), ("Loan", "long_notes", -10_000_000, 0)),), ()),
    (C, "us.about.cash-too-large", (c.shop(HUGE), c.about(method="cash")), (c.shop(HUGE),)),
    (P, "us.about.cash-too-large", (p.shop(HUGE), p.about(method="cash"), p.ada(), p.ben(sort="corporation", number="00-7654321")),
     (p.shop(HUGE), p.about(method="cash"))),
    (P, "us.k.qualified-above", (p.paper("more-items", qualified_dividends=9),), (p.paper("more-items", qualified_dividends=0),)),
    (S, "us.k.collectibles-above", (p.paper("more-items", collectibles=9),), (p.paper("more-items", collectibles=0),)),
    (P, "us.owner.is-entity", (p.ada(), p.ben(sort="corporation", number="00-4455668")), (p.ada(), p.ben(sort="corporation", number="00-7654321"))),
    (P, "us.owner.number-shape", (p.ada(), p.ben(sort="corporation")), (p.ada(), p.ben(sort="corporation", number="00-7654321"))),
    (S, "us.owner.number-shape", (s.ada(), s.ben(number="00-7654321")), ()),
    (P, "us.1065.not-general", (p.about(entity_kind="general"), p.ada(), p.ben(general="no")), (p.about(entity_kind="general"),)),
    (P, "us.1065.no-general", (p.about(entity_kind="limited"), p.ada(general="no"), p.ben(general="no")), (p.about(entity_kind="limited"), p.ada(), p.ben(general="no"))),
    (P, "us.1065.no-manager", (p.ada(general="no"), p.ben(general="no")), (p.ada(), p.ben(general="no"))),
    (P, "us.partner.health-above", (p.ada(), p.ben(health_insurance=900)), (p.ada(health_insurance=900), p.ben())),
    (P, "us.1065.debt-kinds", (p.about(nonrecourse="31002"),), (p.about(nonrecourse="31001"),)),
    (P, "us.1065.qualified-no-property", (p.about(qualified="9"), small(("Bank", "long_notes", -9, 0))), (p.about(qualified="9"), house(900))),
    (S, "us.1120s.health-above-pay", (s.ada(health_insurance=60_000), s.ben()), (s.ada(health_insurance=6_000), s.ben())),
    (S, "us.1120s.elected-before", (s.about(elected="2018-01-01"),), ()),
    (C, "us.1120.credited-above", (c.about(credited=9),), (c.about(credited=9, estimates=20_000),)),
    (C, "us.1120.credits-above", (c.about(credits=90_000),), (c.about(credits=900),)),
    (C, "us.1120.earnings-kept", (c.shop(("Sales", "sales", -600_000, 0)),), ()),
    (C, "us.1120.distributed-above", (c.shop(("Draws", "draws", 200_000, 0)),), ()),
)  # fmt: skip
CODES = {code for _, code, *_ in CASES}


def spoken(found):
    return {one.code for one in found.findings}


class DiagnosticTests(TestCase):
    def test_speaks_and_is_silent_when_mended(self):
        for result, code, with_it, without in CASES:
            with self.subTest(code):
                self.assertIn(code, spoken(result(*with_it)))
                self.assertNotIn(code, spoken(result(*without)))
