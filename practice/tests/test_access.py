"""Who may do what; other firms' objects; portal links. Refused, and written down."""

import logging
from datetime import timedelta

from django.conf import settings
from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, RequestFactory, override_settings
from django.urls import reverse
from django.utils import timezone

from practice.clients.models import Household
from practice.demo.building import build_firm, build_household
from practice.demo.scenario import HOUSEHOLDS
from practice.dispatch.filing import file_return
from practice.dispatch.models import State, Submission
from practice.firm.models import Event
from practice.firm.permissions import MAY, NotOfThisFirm, Refused, may
from practice.firm.scope import Unscoped
from practice.portal import links
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_code, mail_link
from practice.returns import entry, overriding
from practice.returns.computing import in_one_go
from practice.returns.models import Paper, Return
from practice.signing.locking import lock_figures
from practice.signing.requesting import ask_for_signature, sign_in_office
from practice.tests.office import PASSWORD, SIGNATURE, OfficeTestCase
from taxcore.engine import BadValue


class RoleTests(OfficeTestCase):
    def test_each_role_may_do_what_the_table_says_and_nothing_else(self):
        tries = {
            "key": lambda actor: entry.save_field(actor, self.return_.pk, self.paper.pk, "control_number", "1", ""),
            "override": lambda actor: overriding.release_override(actor, self.return_.pk, "us.1040.16"),
            "lock": lambda actor: lock_figures(actor, self.return_.pk),
            "request e-signatures": lambda actor: ask_for_signature(actor, self.return_.pk),
            "file": lambda actor: file_return(actor, self.return_.pk),
        }
        for action, attempt in tries.items():
            for role, actor in self.staff.items():
                if may(actor, action):
                    continue
                with self.subTest(f"{role}: {action}"), self.assertRaises(Refused):
                    attempt(actor)

    def test_somebody_who_left_may_nothing(self):
        self.signer.is_active = False
        self.assertFalse(any(may(self.signer, action) for action in MAY))

    def test_a_refusal_is_a_page_and_an_event(self):
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        url = reverse("save-field", args=[self.return_.pk, self.paper.pk])
        answer = self.client.post(url, {"path": "wages", "value": "1", "was": "61480.00"})
        self.assertEqual(answer.status_code, 403)
        self.assertContains(answer, "cannot enter amounts", status_code=403)
        self.assertEqual(self.events("refused").count(), 1)


class OtherFirmTests(OfficeTestCase):
    PAGES = ["papers", "forms", "review", "sign", "download-return", "download-workbook", "download-lines", "presence", "lineage",
             "most-moving", "ripple", "flow", "guide", "changes", "import-file", "filing", "going-along", "pages",
             "print-sets"]  # fmt: skip

    def setUp(self):
        super().setUp()
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")

    def test_pages_of_another_firm_are_not_there(self):
        for name in self.PAGES:
            with self.subTest(name):
                self.assertEqual(self.client.get(reverse(name, args=[self.return_.pk])).status_code, 404)
        self.assertEqual(self.client.get(reverse("household", args=[self.household.pk])).status_code, 404)

    def test_asking_for_another_firms_things_is_written_down(self):
        self.client.get(reverse("papers", args=[self.return_.pk]))
        self.assertEqual(Event.objects.for_firm(self.stranger.firm).filter(what="refused").count(), 1)

    def test_changes_from_another_firm_are_refused(self):
        posts = [
            (reverse("copy-paper", args=[self.return_.pk, self.paper.pk]), {}),
            (reverse("repeat-paper", args=[self.return_.pk, self.paper.pk]), {}),
            (reverse("reorder-paper", args=[self.return_.pk, self.paper.pk]), {"by": "1"}),
            (reverse("take-party", args=[self.return_.pk, self.paper.pk]), {}),
            (reverse("control", args=[self.return_.pk]), {"kind": "w2", "count": "1"}),
            (reverse("grid-paste", args=[self.return_.pk, "w2"]), {"rows": "a\tb"}),
            (reverse("grid-add", args=[self.return_.pk, "w2"]), {}),
            (reverse("undo", args=[self.return_.pk]), {}),
            (reverse("guide", args=[self.return_.pk]), {"key": "wages", "answer": "no"}),
            (reverse("set-initials", args=[self.return_.pk]), {"at": "us.1040.24"}),
            (reverse("add-note", args=[self.return_.pk]), {"at": "us.1040.24", "text": "x"}),
            (reverse("attach", args=[self.return_.pk, self.paper.pk]), {"file": SimpleUploadedFile("a.png", b"x")}),
            (reverse("import-file", args=[self.return_.pk]), {"file": SimpleUploadedFile("a.csv", b"a,b")}),
            (reverse("save-field", args=[self.return_.pk, self.paper.pk]), {"path": "wages", "value": "1", "was": ""}),
            (reverse("add-paper", args=[self.return_.pk]), {"kind": "w2"}),
            (reverse("remove-paper", args=[self.return_.pk, self.paper.pk]), {}),
            (reverse("reveal", args=[self.return_.pk, self.paper.pk]), {"path": "employee_number"}),
            (reverse("reveal-person", args=[self.client_person.pk]), {}),
            (reverse("override", args=[self.return_.pk]), {"at": "us.1040.16", "amount": "1", "reason": "x"}),
            (reverse("lock", args=[self.return_.pk]), {}),
            (reverse("ask-signature", args=[self.return_.pk]), {}),
            (reverse("file", args=[self.return_.pk]), {}),
            (reverse("make-package", args=[self.return_.pk]), {}),
            (reverse("filing-way", args=[self.return_.pk, "us"]), {"way": "held", "note": "x"}),
            (reverse("print-paper", args=[self.return_.pk, "us"]), {}),
            (reverse("going-along-add", args=[self.return_.pk]), {"file": SimpleUploadedFile("a.pdf", b"%PDF-")}),
            (reverse("represent", args=[self.return_.pk, self.client_person.pk]), {"capacity": "parent"}),
            (reverse("represent-end", args=[self.return_.pk, self.client_person.pk]), {}),
            (reverse("sign-paper", args=[self.return_.pk, self.client_person.pk, "us"]), {"day": "2/10/2026"}),
            (reverse("take-back-signature", args=[self.return_.pk, 1]), {"why": "x"}),
            (reverse("sign-as-preparer", args=[self.return_.pk]), {"place": "preparer"}),
            (reverse("pages", args=[self.return_.pk]), {"page": ["x.1"], "name": "x"}),
            (reverse("make-set", args=[self.return_.pk]), {"set": "1"}),
        ]
        for url, body in posts:
            with self.subTest(url):
                self.assertEqual(self.client.post(url, body).status_code, 404)

    def test_lists_show_only_ones_own(self):
        for name in ("desk", "households", "dispatch"):
            self.assertNotContains(self.client.get(reverse(name)), "Abernathy")
        self.assertNotContains(self.client.get(reverse("find"), {"q": "abernathy"}), "lock keeper")

    def test_a_service_called_directly_refuses_too(self):
        with self.assertRaises(NotOfThisFirm):
            entry.save_field(self.stranger, self.return_.pk, self.paper.pk, "wages", "1", "61480.00")


class ScopeTests(OfficeTestCase):
    def test_a_query_without_its_firm_is_an_error(self):
        for query in (
            lambda: list(Return.objects.all()), lambda: Paper.objects.count(), lambda: Household.objects.filter(name="x").exists(),
            lambda: Paper.objects.update(position=1), lambda: Paper.objects.filter(pk=1).delete(), lambda: Return.objects.first(),
        ):  # fmt: skip
            with self.assertRaises(Unscoped):
                query()

    def test_what_hangs_on_a_scoped_row_needs_no_second_filter(self):
        self.assertEqual(self.return_.papers.count(), 3)


class SignInTests(OfficeTestCase):
    def test_pages_want_somebody_signed_in(self):
        for url in ("/", "/households/", "/dispatch", reverse("papers", args=[self.return_.pk])):
            self.assertRedirects(self.client.get(url), f"/sign-in?next={url}", fetch_redirect_response=False)

    def test_the_right_password_opens_and_a_wrong_one_says_so(self):
        wrong = self.client.post("/sign-in", {"username": self.preparer.email, "password": "no"})
        self.assertContains(wrong, "Wrong email or password")
        right = self.client.post("/sign-in", {"username": self.preparer.email.upper(), "password": PASSWORD})
        self.assertEqual(right.status_code, 302)

    def test_guessing_is_locked_out(self):
        for _ in range(6):
            answer = self.client.post("/sign-in", {"username": self.preparer.email, "password": "guess"})
        self.assertEqual(answer.status_code, 429)
        right = self.client.post("/sign-in", {"username": self.preparer.email, "password": PASSWORD})
        self.assertEqual(right.status_code, 429)

    def test_forms_want_a_token(self):
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(strict.post(reverse("add-paper", args=[self.return_.pk]), {"kind": "w2"}).status_code, 403)

    def test_nothing_inline_may_run(self):
        policy = self.client.get("/sign-in")["Content-Security-Policy"]
        self.assertNotIn("unsafe", policy)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("papers", args=[self.return_.pk])).content.decode()
        self.assertNotRegex(page, r"<script(?![^>]*\bsrc=)|\sstyle=|\son\w+=|javascript:")

    def test_numbers_are_masked_until_asked_for_and_asking_is_an_event(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        person = self.return_.papers.get(kind="person")
        page = self.client.get(reverse("paper", args=[self.return_.pk, person.pk])).content.decode()
        self.assertNotIn("17-5580", page)
        self.assertIn("•••-••-5580", page)
        shown = self.client.post(reverse("reveal", args=[self.return_.pk, person.pk]), {"path": "number"})
        self.assertContains(shown, "921-17-5580")
        self.assertEqual(self.events("number shown").count(), 1)


class AddressTests(OfficeTestCase):
    def test_many_names_from_one_address_wait(self):
        for number in range(26):
            answer = self.client.post("/sign-in", {"username": f"n{number}@x.example", "password": "wrong wrong wrong"})
        self.assertEqual(answer.status_code, 429)
        elsewhere = self.client.post(
            "/sign-in", {"username": "bea@larkspurrow.example", "password": PASSWORD}, REMOTE_ADDR="10.0.0.9"
        )
        self.assertEqual(elsewhere.status_code, 302)

    def test_only_a_declared_proxy_says_whose_request_it_is(self):
        from practice.web.middleware import real_address

        seen = []
        said = {"HTTP_X_FORWARDED_FOR": "6.6.6.6, 203.0.113.7, 10.0.0.2"}
        with override_settings(PROXIES=["10.0.0.1", "10.0.0.2"]):
            for sender in ("10.0.0.1", "198.51.100.4"):
                request = RequestFactory().get("/", REMOTE_ADDR=sender, **said)
                real_address(lambda one: seen.append(one.META["REMOTE_ADDR"]))(request)
        self.assertEqual(seen, ["203.0.113.7", "198.51.100.4"])

    def test_who_may_not_reveal_numbers_gets_no_original_that_shows_them(self):
        self.client.force_login(self.administrator, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("download-return", args=[self.return_.pk])).status_code, 403)

    def test_large_uploads_are_refused_before_they_are_read(self):
        for who, most in ((None, 600_000), (self.preparer, 25_000_000)):
            client = Client()
            if who:
                client.force_login(who, "django.contrib.auth.backends.ModelBackend")
            answer = client.post("/sign-in", b"x", content_type="application/x-www-form-urlencoded", CONTENT_LENGTH=str(most + 1))
            self.assertEqual(answer.status_code, 413)

    def test_an_owner_is_one_of_the_returns_people(self):
        for owner in ("spouse", "joint"):
            with self.subTest(owner), self.assertRaisesRegex(BadValue, "someone on this return"):
                self.key("owner", owner)


class PortalLinkTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        ask_for_signature(self.signer, self.return_.pk)
        self.link = PortalLink.objects.for_firm(self.firm).get()
        self.token = self.fresh_token()

    def fresh_token(self):
        """The token goes out by mail only; here the link is given a known one."""
        token = "t" * 40
        self.link.token_digest = links._digest(token)
        self.link.save()
        return token

    def open(self, client=None):
        return (client or self.client).post(reverse("portal-enter", args=[self.token]))

    def code(self, code="123456"):
        self.link.refresh_from_db()
        self.link.code_digest = links._digest(f"{self.link.pk}:{code}")
        self.link.save()
        return code

    def test_link_and_code_open_the_summary(self):
        self.assertRedirects(self.open(), reverse("portal-code"))
        answer = self.client.post(reverse("portal-code"), {"code": self.code()})
        self.assertRedirects(answer, reverse("portal"))
        self.assertContains(self.client.get(reverse("portal")), "Your 2025 tax return")

    def test_looking_at_a_link_does_not_use_it_up(self):
        self.assertEqual(self.client.get(reverse("portal-enter", args=[self.token])).status_code, 200)
        self.assertEqual(self.client.get(reverse("portal-enter", args=[self.token])).status_code, 200)

    def test_a_link_works_once(self):
        self.open()
        again = self.open(Client())
        self.assertContains(again, "used before", status_code=410)
        self.assertEqual(self.events("portal link refused").count(), 1)

    def test_an_expired_link_is_refused_and_logged(self):
        self.link.expires_at = timezone.now() - timedelta(seconds=1)
        self.link.save()
        self.assertContains(self.open(), "expired", status_code=410)
        self.assertEqual(self.events("portal link refused").count(), 1)

    def test_an_altered_link_opens_nothing(self):
        self.token = "u" * 40
        with self.assertLogs("practice.portal.links", "WARNING") as logged:
            self.assertEqual(self.open().status_code, 410)
        self.assertNotIn(self.token, logged.output[0])

    def test_a_newer_link_closes_the_older_one(self):
        ask_for_signature(self.signer, self.return_.pk)
        self.assertContains(self.open(), "replaced by a newer one", status_code=410)

    def test_who_is_in_the_portal_stays_until_links_to_sign_are_sent_anew(self):
        from practice.gather import messaging

        self.open()
        self.client.post(reverse("portal-code"), {"code": self.code()})
        messaging.write(self.signer, self.return_.pk, "One more thing")
        self.assertEqual(self.client.get("/portal/").status_code, 200)
        ask_for_signature(self.signer, self.return_.pk)
        self.assertEqual(self.client.get("/portal/").status_code, 403)

    def test_wrong_codes_are_counted_and_end(self):
        self.open()
        self.code()
        for left in (7, 6, 5, 4, 3, 2, 1, 0):
            if left == 4:  # a new code does not begin the count anew
                PortalLink.objects.for_firm(self.firm).update(code_sent_at=timezone.now() - timedelta(minutes=1))
                links.send_code_again(self.link.pk)
            answer = self.client.post(reverse("portal-code"), {"code": "000000"})
            self.assertContains(answer, f"{left} tries", status_code=422)
        with self.assertRaisesRegex(links.LinkRefused, "No more codes"):
            links.send_code_again(self.link.pk)
        right = self.client.post(reverse("portal-code"), {"code": "123456"})
        self.assertContains(right, "does not work any more", status_code=422)
        self.assertEqual(self.events("portal code wrong").count(), 8)

    def test_the_client_reads_that_it_was_sent_when_it_was(self):
        self.open()
        self.client.post(reverse("portal-code"), {"code": self.code()})
        for code in ("us", "us-il"):
            sign_in_office(self.administrator, self.return_.pk, self.client_person.pk, code, SIGNATURE, None, "41706")
        self.assertContains(self.client.get(reverse("portal")), "We will file the return next")
        made = file_return(self.signer, self.return_.pk)[0]
        self.assertContains(self.client.get(reverse("portal")), "We will file the return next")
        rows = Submission.objects.for_firm(self.firm).filter(pk=made.pk)
        rows.update(state=State.SENT, sent_at=timezone.now())
        self.assertContains(self.client.get(reverse("portal")), "We filed the return on")
        rows.update(state=State.REJECTED, receipt="R-1")
        self.assertContains(self.client.get(reverse("portal")), "We will file the return next")

    def test_a_session_ends_when_its_link_does(self):
        self.open()
        self.client.post(reverse("portal-code"), {"code": self.code()})
        self.assertEqual(self.client.get(reverse("portal")).status_code, 200)
        PortalLink.objects.for_firm(self.firm).update(expires_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.client.get(reverse("portal")).status_code, 403)

    def test_no_token_stands_in_a_log(self):
        from practice.firm.logs import NoTokens

        said = logging.LogRecord(
            "django", logging.WARNING, "", 1, "Forbidden (%s): %s", ("CSRF", f"/portal/enter/{self.token}"), None
        )
        self.assertTrue(NoTokens().filter(said))
        self.assertEqual(said.getMessage(), "Forbidden (CSRF): /portal/enter/(token)")
        self.assertIn("no_tokens", settings.LOGGING["handlers"]["console"]["filters"])

    def test_an_old_code_is_refused(self):
        self.open()
        code = self.code()
        PortalLink.objects.for_firm(self.firm).update(code_sent_at=timezone.now() - timedelta(minutes=11))
        self.assertContains(self.client.post(reverse("portal-code"), {"code": code}), "has expired", status_code=422)

    def test_nothing_in_the_portal_opens_without_it(self):
        for name in ("portal", "portal-identity", "portal-sign", "portal-download", "portal-code"):
            self.assertEqual(self.client.get(reverse(name)).status_code, 403)

    def test_staff_pages_stay_closed_to_clients(self):
        self.open()
        self.client.post(reverse("portal-code"), {"code": self.code()})
        self.assertEqual(self.client.get("/").status_code, 302)

    def test_mails_carry_link_and_code(self):
        self.open()
        link = PortalLink.objects.for_firm(self.firm).get(pk=self.link.pk)
        token, code = link.token_to_mail, link.code_to_mail
        mail_link(link_id=link.pk)
        mail_code(link_id=link.pk)
        self.assertIn(f"/portal/enter/{token}", mail.outbox[0].body)
        self.assertIn(code, mail.outbox[1].body)
        self.assertEqual(mail.outbox[0].to, ["lorna@abernathy.example"])
        link.refresh_from_db()
        self.assertEqual((link.token_to_mail, link.code_to_mail, link.mailed_at is not None), ("", "", True))


class DemoTests(OfficeTestCase):
    def test_every_household_of_the_scenario_can_be_built(self):
        firm, _ = build_firm(PASSWORD, domain="demo.example")
        with in_one_go():
            for entry_ in HOUSEHOLDS:
                self.assertEqual(build_household(firm, entry_).stage, entry_["stage"], entry_["name"])
