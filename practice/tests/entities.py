"""An entity's return in the application for tests: its books from a file, its owners, filed."""

from practice.clients import entities, roles
from practice.dispatch import filing
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.dispatch.tasks import settle
from practice.intake import importing
from practice.intake.models import Import
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.models import Return
from practice.signing import requesting
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.packs.us.partnership.tests.making import ABOUT as PARTNERSHIP

TRIAL = b"""Account number,Account,Tax line,Beginning balance,Debit,Credit
1000,Checking,Cash,25000,55000.00,
1500,Equipment,Depreciable,50000,50000.00,
1590,Accumulated depreciation,Accum. deprec.,-15000,,20000.00
2500,Bank loan,"Notes, long",-30000,,24000.00
3000,Members' capital,Capital,-30000,,30000.00
3100,Draws,Distributions,,20000.00,
4000,Sales,Gross receipts,,,140000.00
6000,Wages,"Salaries, wages",,60000.00,
6100,Shop rent,Rent,,24000.00,
6800,Depreciation,Depreciation,,5000.00,
"""
OTHER = {
    "called": "Corin Vale",
    "number": "900-00-0104",
    "sort": "individual",
    "street": "1 Quay",
    "city": "Galena",
    "state": "IL",
    "zip": "61036",
}
LORNA = OTHER | {"called": "Lorna Abernathy", "number": "921-17-5580"}


class EntityTestCase(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")

    def opened(self, code, form, about, **given):
        """An entity of which Lorna is an owner, with its books from a file."""
        self.household = entities.add(self.preparer, name="Quarry Road Kayaks", form=form, number="00-4471209")
        roles.give(self.preparer, self.household.pk, "Lorna Abernathy", "partner", signs=True)
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.client.post(f"/households/{self.household.pk}/returns", {"pack": code, "year": "2025"})
        made = Return.objects.for_firm(self.firm).get(pack=code)
        paper = made.papers.get(kind="about")
        for name, value in (about | given).items():
            day = "/".join((value[5:7], value[8:], value[:4])) if value[4:5] == "-" and name != "zip" else value
            save_field(self.preparer, made.pk, paper.pk, name, day, str(paper.values.get(name, "")))
        books = made.papers.get(kind="books")
        row = importing.read(importing.bring(self.preparer, made.pk, "trial.csv", TRIAL, "books.rows", books.pk))
        row = importing.read(row)
        columns = {int(at): name for at, name in row.columns["columns"].items()}
        row = importing.read(importing.choose_columns(self.preparer, made.pk, row.pk, columns, row.columns["fixed"]))
        self.assertEqual(row.errors, [])
        row.state = Import.State.TAKING
        row.save()
        importing.take_in(row)
        return self.fresh(made)

    def move(self, made, *accounts):
        """Debits of accounts in the books, by their names."""
        books = made.papers.get(kind="books")
        for account, debit in accounts:
            row = next(one for one in books.values["rows"] if one["account"] == account)
            save_field(self.signer, made.pk, books.pk, f"rows.{row['id']}.debit", debit, row["debit"])

    def fresh(self, made):
        return Return.objects.for_firm(self.firm).get(pk=made.pk)

    def stops(self, made):
        return [one.code for one in result_of(made).findings if one.weight == "stops"]

    def filed(self, made, *authorities):
        """Signed for each, sent, accepted one after the other."""
        requesting.ask_for_signature(self.signer, made.pk)
        for one in authorities:
            requesting.sign_in_office(self.administrator, made.pk, self.client_person.pk, one, SIGNATURE, None, "41706")
        filing.file_return(self.signer, made.pk)
        for one in authorities:
            sent = made.submissions.get(authority=one)
            sent.state, sent.receipt = State.SENT, f"H-{one}"
            sent.save()
            settle(sent.pk, Answer("accepted"))
        return self.fresh(made)

    def partnership(self):
        made = self.opened("us-1065", "partnership", PARTNERSHIP)
        for partner in (
            LORNA | {"distributed": "12000", "capital_before": "18000"},
            OTHER | {"distributed": "8000", "capital_before": "12000"},
        ):
            stakes = [{"profit": "60" if partner["called"].startswith("Lorna") else "40"}]
            add_paper(self.preparer, made.pk, "partner", "", partner | {"general": "yes", "stakes": stakes})
        return self.fresh(made)
