"""No value in any field of any paper, and none sent to any address, breaks anything: a sample here, all with --search."""

import os
import random
import re
from pathlib import Path
from urllib.parse import urlencode

from django.db import transaction
from django.urls import NoReverseMatch, get_resolver, reverse

import practice
from practice.firm.crypto import is_sealed
from practice.returns.computing import alone_with, data_of, forget, pack_of, result_of
from practice.returns.entry import Conflict, FieldGone, add_paper, add_row, save_field
from practice.returns.models import Return
from practice.tests.committed import tried
from practice.tests.hostile import VALUES
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue, Rows, compute

ALL = os.environ.get("IMPUESTO_SEARCH") == "1"
_NAMES = sorted(
    {
        found
        for path in Path(practice.__file__).parent.glob("*/templates/**/*.html")
        for found in re.findall(r'name="([a-z_]{1,30})"', path.read_text())
    }
)


class _Undone(Exception):
    pass


class HostileTestCase(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.client.raise_request_exception = False
        self.chance = random.Random(0 if not ALL else None)

    def send(self, url, given, method="post", headers=None):
        """As a browser would, but with what no browser lets through: halves of characters too."""
        body = urlencode(given, encoding="utf-8", errors="surrogatepass")
        if method == "get":
            return self.client.get(f"{url}?{body}")
        return self.client.post(url, body, content_type="application/x-www-form-urlencoded", headers=headers)

    def sample(self, values, count):
        return list(values) if ALL else self.chance.sample(list(values), min(count, len(values)))


class FieldTests(HostileTestCase):
    """Of half of the kinds of papers; the other half is a class of its own, so that both processors search."""

    half = 0

    def test_any_value_in_any_field_is_taken_or_refused_and_the_return_still_opens(self):
        pack = pack_of(self.return_)
        for kind in self.sample(list(pack.papers)[self.half :: 2], 18):
            try:
                # With results kept as between requests, so that what is computed by need meets these values too
                with tried(), alone_with(self.return_.pk):
                    self._fill(kind)
                    raise _Undone  # the next kind starts from the same return
            except _Undone:
                forget()

    def _fill(self, kind):
        _, paper = add_paper(self.signer, self.return_.pk, kind.kind, "taxpayer" if kind.owned else "")
        places = []
        for name, field in kind.fields().items():
            if isinstance(field, Rows):
                add_row(self.signer, self.return_.pk, paper.pk, name)
                places += [(f"{name}.1.{inner}", spec) for inner, spec in field.row.fields().items()]
            else:
                places.append((name, field))
        for path, _ in self.sample(places, 2):
            for value in self.chance.sample(list(VALUES), 6 if ALL else 2):
                self._send(paper, path, value)
            for value in VALUES if ALL else ():
                self._save(paper, path, value)
        page = self.client.get(reverse("paper", args=[self.return_.pk, paper.pk]))
        self.assertEqual(page.status_code, 200, kind.kind)
        return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        full = compute(pack_of(return_), data_of(return_))
        self.assertEqual(
            [(cell.address, str(cell.value)) for cell in result_of(return_).lines()],
            [(cell.address, str(cell.value)) for cell in full.lines()],
        )

    def _stored(self, paper, path):
        paper.refresh_from_db()
        rows, _, inner = path.partition(".1.")
        return paper.values.get(rows, "") if not inner else paper.values[rows][0].get(inner, "")

    def _save(self, paper, path, value):
        """Without the page: every value of every field takes its time."""
        stored = self._stored(paper, path)
        with self.subTest(path, value=value[:20]), self.captureOnCommitCallbacks(execute=True):
            try:
                save_field(self.signer, self.return_.pk, paper.pk, path, value, stored if isinstance(stored, str) else "")
            except (BadValue, Conflict, FieldGone):
                self.assertEqual(self._stored(paper, path), stored)

    def _send(self, paper, path, value):
        stored = self._stored(paper, path)
        url = reverse("save-field", args=[self.return_.pk, paper.pk])
        with self.subTest(path, value=value[:20]), self.captureOnCommitCallbacks(execute=True), tried():
            given = {"path": path, "value": value, "was": stored if isinstance(stored, str) else ""}
            answer = self.send(url, given, headers={"HX-Request": "true"})
            self.assertIn(answer.status_code, (200, 409, 410, 422))
            if answer.status_code == 422:
                self.assertIn('role="alert"', answer.content.decode())


class OtherFieldTests(FieldTests):
    half = 1


class SealedTests(HostileTestCase):
    def test_a_text_that_begins_like_a_sealed_value_is_a_text(self):
        for text in ("enc:", "enc:abc", "sealed", '{"sealed": "abc"}'):
            with self.subTest(text):
                self.key("employer", text)
                self.paper.refresh_from_db()
                self.assertEqual(self.paper.values["employer"], text)
                forget()
                self.assertContains(self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk])), "W-2")
        self.assertTrue(is_sealed(self.return_.papers.get(kind="person").values["number"]))


class AddressTests(HostileTestCase):
    def test_nothing_sent_to_any_address_is_our_fault(self):
        for name in self.sample(_addresses(), 40):
            url = self._url(name)
            for value in self.sample(VALUES, 2):
                given = dict.fromkeys(_NAMES, value)
                for method in ("get", "post"):
                    with self.subTest(name, method=method, value=value[:20]):
                        try:
                            with transaction.atomic():
                                answer = self.send(url, given, method)
                                content = b"".join(answer) if answer.streaming else answer.content
                                self.assertLess(answer.status_code, 500, content[-500:])
                                raise _Undone
                        except _Undone:
                            forget()
                            self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")

    def _url(self, name):
        known = {"return_id": self.return_.pk, "paper_id": self.paper.pk, "person_id": self.client_person.pk,
                 "household_id": self.household.pk, "client_id": self.client_person.pk, "authority": "us", "code": "us-il",
                 "kind": "w2", "token": "x" * 40}  # fmt: skip
        for _, params in get_resolver().reverse_dict.getlist(name)[0][0]:
            for other in (999_999, "x"):
                try:
                    return reverse(name, kwargs={one: known.get(one, other) for one in params})
                except NoReverseMatch:
                    continue
        return "/"

    def test_addresses_themselves(self):
        for path in ("/returns/99999999999999999999/papers", "/returns/1/papers/table/\0", "/find?q=%00", "/?q=%00", "/households?q=a%00",
                     "/portal/enter/%00", "/dispatch?q=%ED%A0%80", "/returns/%C2%B2/papers", "/?page=%C2%B2&sort=x&stage=%00"):  # fmt: skip
            with self.subTest(path):
                self.assertLess(self.client.get(path).status_code, 500)


def _addresses():
    return sorted(name for name in get_resolver().reverse_dict if isinstance(name, str))


class StoredTests(HostileTestCase):
    def test_what_an_earlier_program_stored_is_found_and_put_right(self):
        from io import StringIO

        from django.core.management import call_command

        from practice.firm.crypto import seal_text

        person = self.return_.papers.get(kind="person")
        person.values["number"] = "enc:" + seal_text("921-17-5580")
        person.values["first_name"] = "enc:typed"
        person.save()
        said = StringIO()
        call_command("check_values", stdout=said)
        self.assertIn("number: a secret that is not sealed; can be put right with --fix", said.getvalue())
        call_command("check_values", "--fix", stdout=StringIO())
        person.refresh_from_db()
        self.assertTrue(is_sealed(person.values["number"]))
        self.assertEqual(person.values["first_name"], "enc:typed")
        said = StringIO()
        call_command("check_values", stdout=said)
        self.assertIn(" 0 values not as they should be", said.getvalue())

    def test_a_value_that_no_key_opens_closes_only_its_own_field(self):
        person = self.return_.papers.get(kind="person")
        person.values["number"] = {"sealed": "gAAAAA"}
        person.save()
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(version=77)
        page = self.client.get(reverse("papers", args=[self.return_.pk]))
        self.assertEqual(page.status_code, 200)
        self.key("number", "921-17-5580", was="", paper=person)
        person.refresh_from_db()
        self.assertTrue(is_sealed(person.values["number"]))
