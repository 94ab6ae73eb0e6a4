"""Passkeys: added, enough to sign in, refused where anything of the answer is not as it should be."""

import hashlib
import json
import os

from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from django.urls import reverse
from fido2.cose import ES256
from fido2.utils import websafe_decode, websafe_encode
from fido2.webauthn import AttestationObject, AttestedCredentialData, AuthenticatorData, CollectedClientData

from practice.firm import passkeys
from practice.firm.models import Passkey
from practice.tests.office import OfficeTestCase

FLAGS = AuthenticatorData.FLAG


class Device:
    """A software authenticator with one passkey."""

    def __init__(self, host="localhost"):
        self.host, self.counter = host, 0
        self.key, self.id = ec.generate_private_key(ec.SECP256R1()), os.urandom(16)

    def _client_data(self, kind, challenge, origin=None):
        return CollectedClientData.create(kind, websafe_decode(challenge), origin or f"http://{self.host}:8010")

    def _rp(self):
        return hashlib.sha256(self.host.encode()).digest()

    def make(self, options):
        data = self._client_data("webauthn.create", options["publicKey"]["challenge"])
        credential = AttestedCredentialData.create(bytes(16), self.id, ES256.from_cryptography_key(self.key.public_key()))
        made = AuthenticatorData.create(self._rp(), FLAGS.UP | FLAGS.UV | FLAGS.AT, self.counter, bytes(credential))
        response = {"clientDataJSON": websafe_encode(data),
                    "attestationObject": websafe_encode(bytes(AttestationObject.create("none", made, {})))}  # fmt: skip
        return self._answer(response)

    def open(self, options, verified=True, origin=None, counter=None):
        self.counter += 1
        data = self._client_data("webauthn.get", options["publicKey"]["challenge"], origin)
        flags = FLAGS.UP | FLAGS.UV if verified else FLAGS.UP
        made = bytes(AuthenticatorData.create(self._rp(), flags, self.counter if counter is None else counter))
        signature = self.key.sign(made + data.hash, ec.ECDSA(hashes.SHA256()))
        response = {"clientDataJSON": websafe_encode(data), "authenticatorData": websafe_encode(made),
                    "signature": websafe_encode(signature), "userHandle": None}  # fmt: skip
        return self._answer(response)

    def _answer(self, response):
        return {"id": websafe_encode(self.id), "rawId": websafe_encode(self.id), "type": "public-key", "response": response,
                "clientExtensionResults": {}}  # fmt: skip


class PasskeyTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.device = Device()
        self.client.defaults["HTTP_HOST"] = "localhost:8010"

    def post(self, name, body, client=None):
        return (client or self.client).post(reverse(name), json.dumps(body), content_type="application/json")

    def add(self, name="My phone"):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        options = self.post("add-passkey", {}).json()
        return self.post("add-passkey-answer", {"name": name, "answer": self.device.make(options)})

    def stranger_client(self):
        made = self.client_class()
        made.defaults["HTTP_HOST"] = "localhost:8010"
        return made

    def sign_in(self, client=None, **more):
        client = client or self.stranger_client()
        options = self.post("sign-in-passkey", {}, client).json()
        return client, self.post("sign-in-passkey-answer", self.device.open(options, **more), client)

    def test_added_it_signs_in_without_a_password_or_code(self):
        self.firm.factor_roles = ["preparer"]
        self.firm.save()
        self.assertEqual(self.add().status_code, 200)
        client, answer = self.sign_in()
        self.assertEqual(answer.json(), {"next": "/"})
        self.assertEqual(client.get(reverse("papers", args=[self.return_.pk])).status_code, 200)  # no second factor is asked for
        self.assertEqual(self.events("passkey added").get().says, "My phone")
        self.assertEqual(self.events("signed in").latest("pk").staff, self.preparer)
        self.assertContains(client.get(reverse("account")), "My phone")

    def test_what_is_not_as_it_should_be_opens_nothing(self):
        self.add()
        for wrong in ({"verified": False}, {"origin": "http://localhost.example:8010"}, {"origin": "https://evil.example"}):
            with self.subTest(wrong):
                client, answer = self.sign_in(**wrong)
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(client.get("/").status_code, 302)
        self.assertEqual(self.events("passkey refused").count(), 3)
        other = Device()
        other.id = self.device.id  # another key under the same name
        self.device = other
        self.assertEqual(self.sign_in()[1].status_code, 422)
        self.device = Device()
        self.assertContains(self.sign_in()[1], "not known here", status_code=422)

    def test_an_answer_counts_once_and_a_copy_is_noticed(self):
        self.add()
        client = self.stranger_client()
        options = self.post("sign-in-passkey", {}, client).json()
        answer = self.device.open(options)
        self.assertEqual(self.post("sign-in-passkey-answer", answer, client).status_code, 200)
        self.assertEqual(self.post("sign-in-passkey-answer", answer, self.stranger_client()).status_code, 422)
        self.assertContains(self.sign_in(counter=1)[1], "copied", status_code=422)

    def test_nonsense_is_refused(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        for body in ({}, [], {"answer": 7}, {"answer": {"id": "x"}}, "x", None):
            for name in ("add-passkey", "sign-in-passkey"):
                with self.subTest((name, body)):
                    self.post(name, {})
                    self.assertEqual(self.post(f"{name}-answer", body).status_code, 422)
        self.assertEqual(
            self.client.post(reverse("sign-in-passkey-answer"), b"\xff", content_type="application/json").status_code, 422
        )
        self.assertEqual(self.add(" ").status_code, 422)

    def test_one_device_once_and_removed(self):
        self.add()
        self.assertContains(self.add(), "known already", status_code=422)
        row = Passkey.objects.get()
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.client.post(reverse("remove-passkey", args=[row.pk]))
        self.assertTrue(Passkey.objects.exists())
        passkeys.reset(self.administrator, self.preparer)
        self.assertFalse(Passkey.objects.exists())
        self.assertEqual(self.sign_in()[1].status_code, 422)

    def test_who_left_does_not_come_in(self):
        self.add()
        type(self.preparer).objects.filter(pk=self.preparer.pk).update(is_active=False)
        self.assertContains(self.sign_in()[1], "not known here", status_code=422)

    def test_under_a_number_there_are_none(self):
        self.assertFalse(passkeys.possible_at("127.0.0.1"))
        self.assertFalse(passkeys.possible_at("[::1]"))
        self.assertTrue(passkeys.possible_at("localhost"))
        client = self.client_class()
        client.defaults["HTTP_HOST"] = "127.0.0.1"
        self.assertNotContains(client.get("/sign-in"), "passkey")
        self.assertContains(self.stranger_client().get("/sign-in"), "passkey.mjs")
