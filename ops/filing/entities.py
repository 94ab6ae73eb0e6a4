"""What returns of entities share when they meet the authority: each computed, let out, sent and answered."""

import uuid
from datetime import date, timedelta

from django.utils import timezone

from authority.models import Claim, Filing
from authority.receiving import answer, receive
from taxcore.engine import compute
from taxcore.engine.filed import filed_document
from taxcore.packs.us.tests.corrections import as_filed


class FiledEntity:
    """Beside a TestCase. `authority` of the pack, `cases` (name, papers, year, ...), `result_of` papers, and how many at `least`
    go out; the others stop by name."""

    least = 12

    def document_of(self, found):
        """What goes out; None where something stops it."""
        stops = any(one.weight == "stops" for one in found.findings)
        return None if stops else filed_document(found, self.authority, "1", "0" * 64)

    def answered(self, year, content, keep=False):
        """By the authority, as if nobody had filed before; `keep`: after what was filed."""
        if not keep:
            Claim.objects.all().delete()
        filing = receive(uuid.uuid4(), self.authority.code, year, content)
        Filing.objects.filter(pk=filing.pk).update(received_at=timezone.now() - timedelta(minutes=1))
        return answer(filing.receipt)

    def corrected(self, first, *now, **superseding):
        """(the original's answer, what comes of it with papers in place of those with their ids)."""
        heard = self.answered(2025, self.document_of(first))
        amends = as_filed(first, receipts={self.authority.code: heard.receipt}, day=date(2026, 3, 2), **superseding)
        instead = {one.id for one in now}
        kept = [one for one in first.run.everything.papers if one.id not in instead]
        return heard, compute(first.run.pack, first.run.everything.but(papers=(*kept, *now), amends=amends))

    def assert_corrected(self, first, *now, **superseding):
        """Accepted after its original."""
        heard, second = self.corrected(first, *now, **superseding)
        last = self.answered(2025, self.document_of(second), keep=True)
        self.assertEqual((heard.state, last.state, last.faults), ("accepted", "accepted", []))

    def assert_accepted(self, found, year=2025):
        """Whether it went out at all; accepted, where it did."""
        content = self.document_of(found)
        if content is None:
            return False
        heard = self.answered(year, content)
        self.assertEqual((heard.state, heard.faults), ("accepted", []))
        return True

    def test_worked_cases_are_accepted(self):
        filed = 0
        for name, papers, year, _ in self.cases:
            with self.subTest(name):
                filed += self.assert_accepted(self.result_of(*papers, year=year), year)
        self.assertGreater(filed, self.least)
