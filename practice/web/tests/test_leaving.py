"""A client leaves: kept and readable, closed and off the lists; handed over whole; taken back."""

import io
import json
import zipfile

from practice.firm.permissions import Refused
from practice.firm.refusals import Cannot
from practice.intake.attaching import attach
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import pdf
from practice.returns import leaving, planning, rolling
from practice.returns.changing import Settled
from practice.returns.opening import open_return
from practice.tests.office import OfficeTestCase
from taxcore.engine import document


class LeavingTests(OfficeTestCase):
    def leave(self):
        return leaving.leave(self.signer, self.household.pk)

    def test_nothing_is_entered_opened_planned_or_rolled_any_more(self):
        self.leave()
        with self.assertRaisesRegex(Settled, "left the practice on February 10, 2026"):
            self.key("wages", "70000")
        for act, arguments in (
            (rolling.roll, (self.return_.pk,)),
            (planning.plan, (self.return_.pk,)),
            (open_return, (self.household.pk, 2024, [])),
        ):
            with self.assertRaisesRegex(Cannot, "left the practice"):
                act(self.preparer, *arguments)

    def test_pages_can_be_read_and_say_so_and_the_desk_does_not_count_it(self):
        self.client.force_login(self.signer)
        self.assertContains(self.client.get("/?of=everyone"), "Abernathy, Lorna")
        self.client.post(f"/households/{self.household.pk}/left")
        self.assertContains(self.client.get(f"/households/{self.household.pk}"), "Left the practice on")
        self.assertContains(self.client.get(f"/returns/{self.return_.pk}/papers"), "left the practice")
        for page in ("/?of=everyone", "/next-year?year=2025", "/more-time"):
            self.assertNotContains(self.client.get(page), "Abernathy, Lorna")
        self.client.post(f"/households/{self.household.pk}/left", {"back": "yes"})
        self.assertContains(self.client.get("/?of=everyone"), "Abernathy, Lorna")

    def test_who_may(self):
        for actor in (self.preparer, self.reviewer):
            with self.assertRaises(Refused):
                leaving.leave(actor, self.household.pk)

    def test_handed_over_whole(self):
        row = attach(self.preparer, self.return_.pk, self.paper.pk, "W-2 of Lorna.pdf", pdf(1))
        draw_pages(attachment_id=row.pk)
        self.client.force_login(self.signer)
        answer = self.client.post(f"/households/{self.household.pk}/all.zip")
        self.assertEqual(answer["Content-Disposition"], 'attachment; filename="Abernathy-Lorna.zip"')
        with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as packed:
            about = json.loads(packed.read("contents.json"))
            folder = about["returns"][0]["folder"]
            data = document.read(json.loads(packed.read(f"{folder}/return.json")))
            page = packed.read(f"{folder}/{about['returns'][0]['files'][0]}")
        self.assertEqual((about["people"], data.year, page[:5]), (["Lorna Abernathy"], 2025, b"%PDF-"))
        self.assertIn("921-17-5580", [one.values.get("number") for one in data.papers])
        self.assertEqual(self.events("client handed over").count(), 1)

    def test_whoever_may_not_see_numbers_may_not_hand_over(self):
        self.client.force_login(self.administrator)
        self.assertEqual(self.client.post(f"/households/{self.household.pk}/all.zip").status_code, 403)
