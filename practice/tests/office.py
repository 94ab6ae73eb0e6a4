"""A small office for tests: two firms, people of each role, one return ready to key."""

import hashlib
import re
from datetime import date
from unittest import mock

from django.test import Client

from practice.clients.identity import record_identity
from practice.clients.models import Person
from practice.demo.building import build_firm, drawn_name
from practice.firm.models import Event, Firm, Staff
from practice.intake import confined
from practice.returns import computing
from practice.returns.entry import add_paper, save_field
from practice.returns.models import Return
from practice.returns.opening import open_household, open_return
from practice.tests.kept import Kept, KeptTestCase

PASSWORD = "a password for tests"
WAGES = {
    "employer": "Kittiwake Boatworks LLC", "employer_number": "00-7140362", "employer_street": "4 Slipway",
    "employer_city": "Savanna", "employer_state": "IL", "employer_zip": "61074", "wages": "61480.00", "federal_withheld": "5812.00",
    "states": [{"state": "IL", "state_number": "0071-4036", "wages": "61480.00", "withheld": "3043.26"}],
}  # fmt: skip
SIGNATURE = drawn_name("Lorna Abernathy")


class Reader(Client):
    """Pages as they are read: where a template breaks its lines is nobody's business."""

    def request(self, **request):
        response = super().request(**request)
        if not response.streaming and response.get("Content-Type", "").startswith("text/html"):
            response.content = re.sub(rb"\s+", b" ", response.content)
        return response


class Opened:
    """Stands before the process that opens files: the same file opened in the same way is opened once in a run of the tests."""

    def __init__(self):
        self.run, self.answers = confined._run, {}

    def __call__(self, do, content, seconds, arguments):
        asked = (do, hashlib.sha256(content).digest(), seconds, repr(arguments))
        if asked not in self.answers:
            self.answers[asked] = self.run(do, content, seconds, arguments)
        return self.answers[asked]


_OPENED = Opened()


def office():
    """{name: what a test finds on itself}: two firms, people of each role, a return that can be filed."""
    firm, _ = build_firm(PASSWORD)
    firm.lock_needs = []  # what a practice wants done before locking has tests of its own
    firm.save()
    staff = {person.role: person for person in Staff.objects.filter(firm=firm).order_by("-pk")}
    preparer, administrator = staff["preparer"], staff["administrator"]
    other = Firm.objects.create(name="Other House", season=2025, training=True)
    stranger = Staff.objects.create(firm=other, email="who@other.example", name="Who", initials="WH", role="signer")
    household = open_household(
        preparer, "Abernathy, Lorna",
        [{"first_name": "Lorna", "last_name": "Abernathy", "number": "921-17-5580", "birth_date": date(1979, 3, 8),
          "email": "lorna@abernathy.example"}],
        street="6 Quarry Road", city="Galena", state="IL", zip="61036",
    )  # fmt: skip
    client_person = Person.objects.for_firm(firm).get()
    record_identity(administrator, client_person.pk, "licence", "4417", "2029-06-30", "Illinois")
    return_ = open_return(preparer, household.pk, 2025, [(client_person.pk, "taxpayer")])
    filing = return_.papers.get(kind="filing")
    save_field(preparer, return_.pk, filing.pk, "residence", "IL", "")
    save_field(preparer, return_.pk, filing.pk, "digital_assets", "no", "")
    _, paper = add_paper(preparer, return_.pk, "w2", "taxpayer", WAGES)
    return {"firm": firm, "staff": staff, "preparer": preparer, "signer": staff["signer"], "reviewer": staff["reviewer"],
            "administrator": administrator, "stranger": stranger, "household": household, "client_person": client_person,
            "return_": return_, "paper": paper}  # fmt: skip


_OFFICE = Kept(office)


class OfficeTestCase(KeptTestCase):
    """`self.return_` has one taxpayer and a W-2; nothing stops it from being filed."""

    client_class = Reader

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.enterClassContext(mock.patch.object(confined, "_run", _OPENED))

    def lay_out(self):
        super().lay_out()
        vars(self).update(_OFFICE.put_back())

    def setUp(self):
        computing.forget()
        self.return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        self.paper = self.return_.papers.get(pk=self.paper.pk)

    def key(self, path, text, was=None, actor=None, paper=None):
        paper = paper or self.paper
        paper.refresh_from_db()
        was = str(paper.values.get(path, "")) if was is None else was
        return save_field(actor or self.preparer, self.return_.pk, paper.pk, path, text, was)

    def events(self, what):
        return Event.objects.for_firm(self.firm).filter(what=what)

    def again(self):
        self.return_.refresh_from_db()
        return self.return_
