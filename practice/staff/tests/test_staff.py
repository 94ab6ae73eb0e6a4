"""Who works here: invited, second factor at sign-in, sessions, handing over, leaving; a practice that begins; the log."""

import io
import logging
import re
from datetime import timedelta
from unittest import mock

import pyotp
from django.conf import settings
from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from practice.firm import second_factor, sessions
from practice.firm.logs import NoTokens
from practice.firm.models import Event, Factor, Firm, RecoveryCode, SignedIn, Staff
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.intake.tests.test_attaching import picture
from practice.portal.models import PortalLink
from practice.staff import beginning, inviting, managing
from practice.staff.models import Invitation
from practice.staff.tasks import mail_invitation
from practice.tests.office import PASSWORD, OfficeTestCase
from taxcore.engine import BadValue

NEW = "a long new password"


class InvitedTests(OfficeTestCase):
    def invite(self, email="robin@larkspurrow.example", initials="RV", role="preparer", name="Robin Vale"):
        return inviting.invite(self.signer, email, name, initials, role)

    def token(self, made):
        mail_invitation(invitation_id=made.pk)
        return mail.outbox[-1].body.split("/join/")[1].split()[0]

    def test_somebody_new_chooses_a_password_and_signs_in(self):
        made = self.invite()
        token = self.token(made)
        self.assertEqual(Invitation.objects.for_firm(self.firm).get().token_to_mail, "")
        page = reverse("join", args=[token])
        self.assertContains(self.client.get(page), "Robin Vale")
        self.assertContains(self.client.post(page, {"password": "short"}), "too short", status_code=422)
        self.assertRedirects(self.client.post(page, {"password": NEW}), reverse("sign-in"))
        self.assertEqual(self.client.get(page).status_code, 410)
        self.client.post(reverse("sign-in"), {"username": "robin@larkspurrow.example", "password": NEW})
        self.assertContains(self.client.get("/"), "Robin Vale")
        self.assertEqual(Staff.objects.get(initials="RV").role, "preparer")

    def test_what_does_not_fit_is_refused_at_once(self):
        for values, says in (
            ({"email": "robin"}, "email address"), ({"email": self.preparer.email.upper()}, "signs in with this address"),
            ({"initials": "R"}, "two or three"), ({"initials": "BT"}, "colleague has these"), ({"role": "owner"}, "Choose a role"),
            ({"name": " "}, "Enter the name"),
        ):  # fmt: skip
            with self.subTest(values), self.assertRaisesMessage(BadValue, says):
                self.invite(**values)
        with self.assertRaises(Refused):
            inviting.invite(self.preparer, "x@x.example", "X Y", "XY", "preparer")

    def test_an_invitation_is_replaced_withdrawn_and_expires(self):
        first, second = self.token(self.invite()), self.token(self.invite())
        with self.assertRaises(Cannot):
            inviting.look_up(first)
        row = inviting.look_up(second)
        with self.assertRaises(NotOfThisFirm):
            inviting.withdraw(self.stranger, row.pk)
        Invitation.objects.for_firm(self.firm).filter(pk=row.pk).update(expires_at=timezone.now())
        with self.assertRaises(Cannot):
            inviting.accept(second, NEW)
        inviting.withdraw(self.signer, row.pk)
        self.assertEqual(self.client.get(reverse("join", args=["nonsense"])).status_code, 410)

    def test_no_token_stands_in_a_log(self):
        said = logging.LogRecord("django", logging.WARNING, "", 1, "Gone: %s and %s", ("/join/abc-1", "/set-up/xyz"), None)
        NoTokens().filter(said)
        self.assertEqual(said.getMessage(), "Gone: /join/(token) and /set-up/(token)")

    def test_a_forgotten_password_is_set_by_a_link(self):
        token = self.token(inviting.send_password_link(self.signer, self.preparer.pk))
        inviting.accept(token, NEW)
        self.assertTrue(Staff.objects.get(pk=self.preparer.pk).check_password(NEW))
        with self.assertRaises(Cannot):
            inviting.send_password_link(self.signer, self.stranger.pk)


class FactorTests(OfficeTestCase):
    def at(self, seconds=0):
        """The code that an authenticator shows so many seconds from now."""
        secret = Factor.objects.get(staff=self.preparer).secret
        return pyotp.TOTP(secret).at(timezone.now() + timedelta(seconds=seconds))

    def in_force(self):
        second_factor.begin(self.preparer)
        return second_factor.confirm(self.preparer, self.at(-30))

    def sign_in(self):
        return self.client.post(reverse("sign-in"), {"username": self.preparer.email, "password": PASSWORD})

    def test_the_password_alone_opens_nothing(self):
        self.in_force()
        self.assertRedirects(self.sign_in(), reverse("sign-in-code"))
        self.assertEqual(self.client.get("/").status_code, 302)
        answer = self.client.post(reverse("sign-in-code"), {"code": "000000"})
        self.assertContains(answer, "Wrong code", status_code=422)
        self.assertRedirects(self.client.post(reverse("sign-in-code"), {"code": self.at()}), "/")
        self.assertEqual(SignedIn.objects.filter(staff=self.preparer).count(), 1)

    def test_a_code_counts_once_and_none_before_it(self):
        self.in_force()
        code = self.at()
        second_factor.check(self.preparer, f" {code[:3]} {code[3:]} ")
        for again in (code, self.at(-30)):
            with self.assertRaises(second_factor.WrongCode):
                second_factor.check(self.preparer, again)
        second_factor.check(self.preparer, self.at(30))

    def test_five_wrong_codes_wait(self):
        self.in_force()
        for _ in range(5):
            with self.assertRaises(second_factor.WrongCode):
                second_factor.check(self.preparer, "nope")
        with self.assertRaisesMessage(second_factor.WrongCode, "Wait 15 minutes"):
            second_factor.check(self.preparer, self.at())
        later = timezone.now() + timedelta(minutes=16)
        with mock.patch.object(second_factor.timezone, "now", return_value=later):
            second_factor.check(self.preparer, pyotp.TOTP(Factor.objects.get(staff=self.preparer).secret).at(later))

    def test_a_recovery_code_opens_once(self):
        codes = self.in_force()
        self.assertEqual((len(codes), len(set(codes))), (10, 10))
        self.assertFalse(RecoveryCode.objects.filter(digest__icontains=codes[0].replace("-", "")).exists())
        second_factor.check(self.preparer, codes[0].upper())
        with self.assertRaises(second_factor.WrongCode):
            second_factor.check(self.preparer, codes[0])
        self.assertEqual(second_factor.codes_left(self.preparer), 9)
        fresh = second_factor.new_codes(self.preparer, self.at())
        with self.assertRaises(second_factor.WrongCode):
            second_factor.check(self.preparer, codes[1])
        second_factor.check(self.preparer, fresh[1])

    def test_who_must_have_one_sets_it_up_before_anything_else(self):
        second_factor.ask_of(self.signer, ["preparer", "nonsense"])
        self.assertEqual(Firm.objects.get(pk=self.firm.pk).factor_roles, ["preparer"])
        self.sign_in()
        page = reverse("second-factor")
        self.assertRedirects(self.client.get(reverse("papers", args=[self.return_.pk])), page)
        self.assertContains(self.client.get(page), "<svg")
        self.assertContains(self.client.post(page, {"code": "1"}), "Wrong code", status_code=422)
        self.assertContains(self.client.post(page, {"code": self.at()}), "Recovery codes")
        self.assertEqual(self.client.get(reverse("papers", args=[self.return_.pk])).status_code, 200)
        self.assertContains(self.client.get(reverse("account")), "In force")
        self.assertContains(self.client.post(reverse("new-codes"), {"code": "1"}), "Wrong code", status_code=422)
        self.assertRedirects(self.client.post(reverse("remove-factor"), {"code": self.at(30)}), page)

    def test_an_administrator_resets_it_and_nobody_else(self):
        self.in_force()
        for who in (self.reviewer, self.stranger):
            with self.assertRaises(Refused):
                second_factor.reset(who, self.preparer)
        second_factor.reset(self.administrator, self.preparer)
        self.assertFalse(second_factor.in_force(self.preparer))
        with self.assertRaises(Refused):
            second_factor.ask_of(self.preparer, [])

    def test_the_secret_is_sealed_and_a_practice_that_begins_asks_everybody(self):
        from django.db import connection

        self.in_force()
        with connection.cursor() as cursor:
            cursor.execute("select secret from firm_factor")
            self.assertNotIn(Factor.objects.get().secret, cursor.fetchone()[0])
        self.assertEqual(len(Firm(name="x", season=2025).factor_roles), 4)

    def test_the_step_after_the_password_does_not_stay_open(self):
        self.in_force()
        self.sign_in()
        session = self.client.session
        session["second"] = session["second"] | {"at": 0}
        session.save()
        self.assertRedirects(self.client.post(reverse("sign-in-code"), {"code": self.at()}), reverse("sign-in"))


class SessionTests(OfficeTestCase):
    def signed_in(self):
        client = Client(headers={"user-agent": "Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0"})
        client.post(reverse("sign-in"), {"username": self.preparer.email, "password": PASSWORD})
        return client

    def test_sessions_are_seen_and_ended(self):
        one, other = self.signed_in(), self.signed_in()
        self.assertContains(one.get(reverse("account")), "Firefox on Linux", 2)
        one.post(reverse("end-sessions"))
        self.assertEqual((one.get("/").status_code, other.get("/").status_code), (200, 302))
        (left,) = sessions.open_of(self.preparer)
        with self.assertRaises(Refused):
            sessions.end(self.reviewer, [left])
        sessions.end(self.administrator, [left])
        self.assertEqual(one.get("/").status_code, 302)

    def test_another_password_ends_all_other_sessions(self):
        one, other = self.signed_in(), self.signed_in()
        wrong = one.post(reverse("account-password"), {"now": "no", "new": NEW})
        self.assertContains(wrong, "not your password", status_code=422)
        self.assertContains(one.post(reverse("account-password"), {"now": PASSWORD, "new": "x"}), "too short", status_code=422)
        one.post(reverse("account-password"), {"now": PASSWORD, "new": NEW})
        self.assertEqual((one.get("/").status_code, other.get("/").status_code), (200, 302))
        self.assertEqual(len(sessions.open_of(self.preparer)), 1)


class ManagingTests(OfficeTestCase):
    def test_all_work_is_handed_over_before_somebody_leaves(self):
        with self.assertRaisesMessage(Cannot, "Reassign first"):
            managing.let_go(self.signer, self.preparer.pk)
        moved = managing.hand_over(self.signer, self.preparer.pk, self.reviewer.pk)
        self.assertEqual((moved["returns prepared"], moved["clients"]), (1, 1))
        self.assertEqual(self.again().preparer, self.reviewer)
        managing.let_go(self.signer, self.preparer.pk)
        answer = self.client.post(reverse("sign-in"), {"username": self.preparer.email, "password": PASSWORD})
        self.assertContains(answer, "Wrong email or password")
        self.assertFalse(Staff.objects.get(pk=self.preparer.pk).is_active)
        managing.take_back(self.signer, self.preparer.pk)
        self.assertTrue(Staff.objects.get(pk=self.preparer.pk).is_active)
        for to in (self.stranger.pk, self.preparer.pk, None):
            with self.assertRaises(BadValue):
                managing.hand_over(self.signer, self.preparer.pk, to)

    def test_somebody_who_administers_stays(self):
        managing.change_role(self.signer, self.administrator.pk, "preparer")
        with self.assertRaisesMessage(Cannot, "Somebody must be left"):
            managing.change_role(self.signer, self.signer.pk, "reviewer")
        with self.assertRaisesMessage(Cannot, "nobody removes themselves"):
            managing.let_go(self.signer, self.signer.pk)
        with self.assertRaises(BadValue):
            managing.change_role(self.signer, self.preparer.pk, "owner")

    def test_who_may_not_and_strangers_are_refused(self):
        for do in (
            lambda who: managing.change_role(who, self.reviewer.pk, "signer"), lambda who: managing.let_go(who, self.reviewer.pk),
            lambda who: managing.hand_over(who, self.reviewer.pk, self.signer.pk), lambda who: managing.set_away(who, self.reviewer.pk, None),
        ):  # fmt: skip
            with self.assertRaises(Refused):
                do(self.preparer)
        self.stranger.role = "administrator"
        with self.assertRaises(Cannot):
            managing.change_role(self.stranger, self.reviewer.pk, "signer")

    def test_somebody_says_that_they_are_away(self):
        managing.set_away(self.preparer, self.preparer.pk, self.firm.today() + timedelta(days=3))
        with self.assertRaises(BadValue):
            managing.set_away(self.preparer, self.preparer.pk, self.firm.today() - timedelta(days=3))
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("staff")), "away until Feb 13")

    def test_pages_do_all_of_it(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page, change = reverse("colleague", args=[self.preparer.pk]), reverse("change-colleague", args=[self.preparer.pk])
        self.assertContains(self.client.get(page), "Returns prepared")
        for body, says in (
            ({"does": "hand-over", "to": self.reviewer.pk}, "1 returns prepared"), ({"does": "password"}, "gets a link"),
            ({"does": "role", "role": "reviewer"}, "Reviewer"), ({"does": "away", "until": "3/1/2026"}, "3/1/2026"),
            ({"does": "end"}, "0 ended"), ({"does": "reset"}, "sets up another one"), ({"does": "leave"}, "Left"), ({"does": "back"}, "has left"),
        ):  # fmt: skip
            with self.subTest(body["does"]):
                self.assertContains(self.client.post(change, body, follow=True), says)
        for body in ({"does": "burn"}, {"does": "role", "role": "x"}, {"does": "away", "until": "soon"}):
            self.assertEqual(self.client.post(change, body).status_code, 422)
        body = {"email": "robin@larkspurrow.example", "name": "Robin Vale", "initials": "RV", "role": "preparer"}
        self.assertContains(self.client.post(reverse("invite"), body, follow=True), "Robin Vale gets a link")
        self.assertContains(self.client.post(reverse("invite"), body | {"email": "x"}), "Robin Vale", status_code=422)
        made = Invitation.objects.for_firm(self.firm).get(staff=None, withdrawn_at=None)
        self.client.post(reverse("withdraw-invitation", args=[made.pk]))
        self.client.post(reverse("factor-roles"), {"role": ["signer"]})
        self.assertEqual(Firm.objects.get(pk=self.firm.pk).factor_roles, ["signer"])
        self.assertEqual(self.client.get(reverse("colleague", args=[self.stranger.pk])).status_code, 302)
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual((self.client.get(page).status_code, self.client.post(change, {"does": "leave"}).status_code), (403, 403))


class CalendarTests(OfficeTestCase):
    def test_due_dates_are_read_under_a_secret_address_until_it_ends(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.post(reverse("account-calendar"), {})
        path = re.search(r"/calendar/[\w-]+\.ics", page.content.decode())[0]
        reader = Client()
        read = reader.get(path).content.decode()
        self.assertIn("DTSTART;VALUE=DATE:20260415", read)
        self.assertIn("SUMMARY:One return due", read)
        self.assertNotIn("Abernathy", read)
        named = self.client.post(reverse("account-calendar"), {"named": "on"})
        self.assertEqual(reader.get(path).status_code, 404)  # replaced
        path = re.search(r"/calendar/[\w-]+\.ics", named.content.decode())[0]
        self.assertIn("Due: Abernathy\\, Lorna", reader.get(path).content.decode())
        self.client.post(reverse("account-calendar"), {"end": "1"})
        self.assertEqual(reader.get(path).status_code, 404)


class LogTests(OfficeTestCase):
    def test_the_log_filters_leaves_as_a_file_and_shows_only_ones_own(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("log")
        self.assertContains(self.client.get(page), "Paper added")
        self.assertNotContains(self.client.get(page, {"kind": "access"}), "Paper added")
        self.assertNotContains(self.client.get(page, {"who": self.reviewer.pk}), "Paper added")
        self.assertContains(self.client.get(page, {"q": "wage"}), "Paper added")
        table = b"".join(self.client.get(page, {"as": "csv", "q": "wage"}).streaming_content)
        self.assertIn(b"Bea Thorne,paper added", table)
        Event.objects.bulk_create(
            Event(firm=self.firm, by="Somebody", what=f"made up {number}") for number in range(120)
        )  # an older page exists
        self.assertContains(self.client.get(page), "Earlier")
        before = Event.objects.for_firm(self.firm).order_by("-pk")[99].pk
        self.assertContains(self.client.get(page, {"before": before}), "Paper added")
        Event.objects.create(firm=self.stranger.firm, by="Who", what="secret of others")
        self.assertNotContains(self.client.get(page), "secret of others")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 403)


class BeginningTests(OfficeTestCase):
    GIVEN = {"name": "Alder Tax", "address": "1 Alder Way", "town": "Elizabeth", "telephone": "815-555-0188", "person": "Una Alder",
             "initials": "ua", "email": "una@alder.example"}  # fmt: skip

    def test_a_practice_is_set_up_once_with_the_key(self):
        from django.db import connection

        page = reverse("set-up", args=[settings.SET_UP_KEY])
        self.assertRedirects(self.client.get(page), reverse("sign-in"))  # there is a practice
        with mock.patch.object(beginning.Firm.objects, "exists", return_value=False):
            self.assertRedirects(self.client.get(reverse("set-up", args=["guess"])), reverse("sign-in"))
            self.assertContains(self.client.get(page), "Set up your practice")
            bad = self.client.post(page, self.GIVEN | {"password": "short"})
            self.assertContains(bad, "too short", status_code=422)
            self.assertContains(bad, "Alder Tax", status_code=422)
            self.assertContains(self.client.post(page, self.GIVEN | {"name": "", "password": NEW}), "enter it", status_code=422)
            self.assertRedirects(self.client.post(page, self.GIVEN | {"password": NEW}), reverse("sign-in"))
        made = Staff.objects.get(email="una@alder.example")
        self.assertEqual((made.role, made.initials, made.firm.name, made.firm.training), ("signer", "UA", "Alder Tax", False))
        self.client.post(reverse("sign-in"), {"username": made.email, "password": NEW})
        self.assertRedirects(self.client.get("/"), reverse("second-factor"))
        self.assertTrue(connection.is_usable())

    def test_what_is_to_be_set_up_says_what_is_done(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("begin")), "of 11 done")
        done = {one.name: one.done for one in beginning.to_do(self.signer)}
        self.assertEqual((done["Clients"], done["Prices"], done["Colleagues"]), (True, False, True))
        self.client.post(reverse("letterhead"), {"name": "Larkspur Row Tax & Co", "town": "", "address": "", "telephone": ""})
        self.signer.firm.refresh_from_db()
        self.assertEqual(self.signer.firm.name, "Larkspur Row Tax & Co")
        self.assertFalse({one.name: one.done for one in beginning.to_do(self.signer)}["Letterhead"])
        self.assertContains(self.client.post(reverse("letterhead"), {"name": " "}), "enter it", status_code=422)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("letterhead")).status_code, 403)


class LookTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")

    def test_a_picture_and_a_color_stand_on_what_clients_see(self):
        file = SimpleUploadedFile("a.png", picture(size=(900, 300)))
        self.client.post(reverse("set-look"), {"color": "#235A72", "picture": file})
        self.firm.refresh_from_db()
        self.assertEqual(self.firm.color, "#235a72")
        shown = self.client_class().get(reverse("look-picture", args=[self.firm.pk]))
        with Image.open(io.BytesIO(shown.content)) as image:
            self.assertEqual((image.format, image.size), ("PNG", (480, 160)))
        self.assertContains(self.client_class().get(reverse("look-style", args=[self.firm.pk])), "#235a72")
        link = PortalLink.objects.create(
            firm=self.firm, of=self.return_, client=self.client_person, token_digest="x", expires_at="2090-01-01T00:00Z"
        )
        phone = self.client_class()
        session = phone.session
        session["portal"] = link.pk
        session.save()
        page = phone.get(reverse("portal"))
        self.assertContains(page, reverse("look-picture", args=[self.firm.pk]))
        self.assertContains(page, reverse("look-style", args=[self.firm.pk]))
        self.client.post(reverse("set-look"), {"color": "", "remove": "on"})
        self.firm.refresh_from_db()
        self.assertEqual((self.firm.color, self.firm.picture), ("", ""))
        self.assertEqual(phone.get(reverse("look-picture", args=[self.firm.pk])).status_code, 404)

    def test_what_cannot_be_read_or_drawn_is_refused(self):
        cases = [
            ({"color": "#ffee00"}, "too light"), ({"color": "red"}, "written as"),
            ({"color": "", "picture": SimpleUploadedFile("a.png", b"\x89PNG\r\n\x1a\nxx")}, "damaged"),
            ({"color": "", "picture": SimpleUploadedFile("a.svg", b"<svg/>")}, "PNG or JPEG"),
            ({"color": "", "picture": SimpleUploadedFile("a.png", b"\x89PNG\r\n\x1a\n" + b"x" * 2_000_001)}, "MB"),
        ]  # fmt: skip
        for given, says in cases:
            with self.subTest(says):
                self.assertContains(self.client.post(reverse("set-look"), given), says, status_code=422)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.post(reverse("set-look"), {"color": ""}).status_code, 403)
