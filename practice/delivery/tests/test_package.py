"""The package: made once everything is accepted, complete, encrypted, its download recorded."""

import io
from unittest import mock

from pypdf import PdfReader

from practice.delivery import packaging, tasks
from practice.delivery.chart import summary_chart
from practice.dispatch.models import Asked, State
from practice.returns.computing import result_of
from practice.signing import requesting
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.engine.frozen import Drawn, drawn


class PackageTests(OfficeTestCase):
    def accepted(self):
        from practice.dispatch import filing

        requesting.ask_for_signature(self.signer, self.return_.pk)
        for authority in ("us", "us-il"):
            requesting.sign_in_office(
                self.administrator, self.return_.pk, self.client_person.pk, authority, SIGNATURE, None, "41706"
            )
        filing.file_return(self.signer, self.return_.pk)
        for submission in self.return_.submissions.all():
            submission.state, submission.receipt = State.ACCEPTED, f"R-{submission.authority}"
            submission.save()

    def test_not_before_everything_is_accepted(self):
        with self.assertRaisesRegex(packaging.CannotDeliver, "accepted"):
            packaging.make_package(self.signer, self.return_.pk)

    def test_it_holds_letter_summary_forms_receipts_and_authorisations(self):
        self.accepted()
        package = packaging.make_package(self.signer, self.return_.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        self.assertEqual(package.state, "ready")
        reader = PdfReader(io.BytesIO(tasks.read_package(package)))
        text = "\n".join(page.extract_text() for page in reader.pages)
        self.assertEqual(package.pages, len(reader.pages))
        for wanted in (
            "Dear Lorna",
            "Summary",
            "1040",
            "IL-1040",
            "R-us-il",
            "Authorization to e-file",
            package.snapshot.hash[:16],
        ):
            self.assertIn(wanted, text)
        self.assertNotIn("921-17-5580", text)

    def test_after_more_time_what_is_owed_is_still_due_on_the_first_day(self):
        from practice.us import extending

        self.key("federal_withheld", "100")
        extending.ask(self.signer, self.return_.pk, ["us"])
        request = self.return_.extensions.get()
        request.state, request.receipt, request.form = Asked.ACCEPTED, "R-more", "4868"
        request.save()
        self.return_.due = "2026-10-15"
        self.return_.save()
        self.accepted()
        package = packaging.make_package(self.signer, self.return_.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        text = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(tasks.read_package(package))).pages)
        self.assertIn("due April 15, 2026", text)
        self.assertIn("R-more", text)

    def test_making_it_twice_is_one_package_and_what_goes_wrong_is_shown(self):
        self.accepted()
        one, other = (packaging.make_package(self.signer, self.return_.pk) for _ in range(2))
        self.assertEqual(one.pk, other.pk)
        with mock.patch.object(tasks, "assemble", side_effect=RuntimeError("no paper")), self.assertLogs("practice.firm.jobs"):
            tasks.build.run(mock.Mock(job=mock.Mock(attempts=tasks.build.tries)), package_id=one.pk)
        one.refresh_from_db()
        self.assertEqual((one.state, "RuntimeError" in one.trouble), ("failed", True))
        self.assertNotEqual(packaging.make_package(self.signer, self.return_.pk).pk, one.pk)

    def test_the_chart_adds_up_to_income(self):
        result = result_of(self.return_)
        parts = summary_chart(Drawn(drawn(result)))
        self.assertEqual(sum(part.amount for part in parts), result["us.1040.9"].amount)
        taxes = parts[:-1]
        self.assertEqual(len({(part.color, part.key) for part in taxes}), len(taxes))
