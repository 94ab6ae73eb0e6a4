"""After any edits a British result is what a computation in full gives."""

import random
from dataclasses import replace
from unittest import TestCase

from taxcore.engine import compute
from taxcore.packs.uk.individual import PACK
from taxcore.packs.uk.individual.tests.test_allowance import saved
from taxcore.packs.uk.individual.tests.test_foreign import abroad
from taxcore.packs.uk.individual.tests.test_gains import LIVED, SHARES, home
from taxcore.packs.uk.individual.tests.test_losses import BAD_SHARES, lost
from taxcore.packs.uk.individual.tests.test_trades import CAR, owning, partner
from taxcore.packs.uk.individual.tests.test_worked import paper, pay, result, savings, sold

_EDITS = {
    "employment": ("pay", "tax", "loan_ended"), "trade": ("turnover", "goods", "miles", "main_before", "transition_before", "loss_before"),
    "partnership": ("share", "property", "dividends", "class_4_before", "end_before"), "foreign": ("amount", "tax", "limit_percent", "kept_before"), "interest": ("untaxed",),
    "home": ("proceeds", "percent", "tax_paid"), "gains": ("losses_before", "deferred_back"), "pension-savings": ("input", "own"),
    "pension": ("lump_sum", "amount"), "reliefs": ("eis", "seis", "gifts"),
}  # fmt: skip


class ChangeTests(TestCase):
    def test_by_need_equals_in_full(self):
        """Amounts changed and emptied, papers that come and go."""
        for number in range(12):
            chance = random.Random(f"changed {number}")
            papers = [pay(60_000, "11432"), owning(CAR), partner(9_000), abroad(3_000, 600), abroad(2_000, 500, "f2", "ITA"),
                      savings(900), home(*LIVED), sold(SHARES, BAD_SHARES), saved(70_000), paper("reliefs", vct="900"),
                      lost(9_000, "t2", (2024, 8_000, 0, 900, 0), loss_use=chance.choice(("both", "back_first", "income"))),
                      paper("pension", payer="Fund", lump_sum="900", lump_kind="uncrystallised")]  # fmt: skip
            found = result(*papers)
            for _ in range(8):
                wanted = self.edited(chance, found.run.everything)
                found = found.changed(wanted) or compute(PACK, wanted)
                whole = compute(PACK, wanted)
                mine, theirs = ({cell.address: (cell.value, cell.how) for cell in one.lines()} for one in (found, whole))
                self.assertEqual(mine, theirs, number)
                self.assertEqual(found.findings, whole.findings, number)

    def edited(self, chance, data):
        place = chance.randrange(2, len(data.papers))
        one = data.papers[place]
        if chance.random() < 0.15:
            return data.but(papers=tuple(paper for paper in data.papers if paper is not one))
        if one.kind not in _EDITS:
            return data
        value = chance.choice(("", "0", str(chance.randrange(100)), str(chance.randrange(100, 90_000))))
        other = replace(one, values={**one.values, chance.choice(_EDITS[one.kind]): value})
        return data.but(papers=tuple(other if paper is one else paper for paper in data.papers))
