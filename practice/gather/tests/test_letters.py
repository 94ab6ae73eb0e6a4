"""Letters in versions, frozen as they were sent, signed by each who must; and messages with their open points."""

import io

from django.db import connection
from django.urls import reverse
from pypdf import PdfReader

from practice.clients.models import Person
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather import lettering, messaging
from practice.gather.models import Letter, LetterText, Message
from practice.portal.drawn import NotDrawn
from practice.portal.models import PortalLink
from practice.returns import computing, rounds
from practice.returns.entry import add_spouse
from practice.returns.leaving import leave
from practice.review import gate
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.engine import BadValue


class LetterTestCase(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.text = lettering.write(self.signer, "us", "engagement", "Dear {client},\nwe prepare your {year} return. {practice}")

    def send(self, *kinds):
        return lettering.send(self.preparer, self.return_.pk, kinds or ["engagement"])

    @property
    def link(self):
        return PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm").latest("pk")

    def lacking(self):
        self.firm.lock_needs = ["engagement"]
        self.firm.save()
        return [one.says for one in gate.lacking(self.again(), computing.result_of(self.return_))]


class TextTests(LetterTestCase):
    def test_a_changed_letter_is_a_new_version_and_the_same_words_are_none(self):
        self.assertEqual(self.text.version, 1)
        self.assertEqual(lettering.write(self.signer, "us", "engagement", self.text.words).pk, self.text.pk)
        self.assertEqual(lettering.write(self.signer, "us", "engagement", "Dear {client}").version, 2)
        self.assertEqual(LetterText.objects.for_firm(self.firm).count(), 2)

    def test_fields_that_nobody_fills_and_empty_letters_are_refused(self):
        for words, says in (("Dear {name}", "{name} is no merge field"), ("  ", "Write the letter"), ("x" * 12_001, "12,000")):
            with self.subTest(words[:9]), self.assertRaisesMessage(BadValue, says):
                lettering.write(self.signer, "us", "engagement", words)
        with self.assertRaises(BadValue):
            lettering.write(self.signer, "us", "love", "Dear {client}")

    def test_only_an_administrator_writes_letters(self):
        with self.assertRaises(Refused):
            lettering.write(self.preparer, "us", "engagement", "Dear {client}")


class SentTests(LetterTestCase):
    def test_what_was_sent_is_frozen_with_its_hash(self):
        (letter,) = self.send()
        self.assertEqual(letter.words, "Dear Lorna Abernathy,\nwe prepare your 2025 return. Larkspur Row Tax")
        lettering.write(self.signer, "us", "engagement", "Other words")
        self.assertEqual(Letter.objects.for_firm(self.firm).get().words, letter.words)
        with connection.cursor() as cursor:
            cursor.execute("select words from gather_letter")
            self.assertNotIn("Abernathy", cursor.fetchone()[0])

    def test_each_of_a_couple_signs_for_themselves(self):
        _, spouse = add_spouse(self.preparer, self.return_.pk)
        spouse.person = Person.objects.create(
            firm=self.firm, household=self.household, first_name="Jules", last_name="Abernathy", email="jules@abernathy.example"
        )
        spouse.save()
        first, second = self.send()
        self.assertEqual({first.person.first_name, second.person.first_name}, {"Lorna", "Jules"})
        links = {
            one.client.first_name: one for one in PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm")
        }
        with self.assertRaisesMessage(Cannot, "newest one"):
            lettering.sign(links["Jules"], first.pk, SIGNATURE, None)
        lettering.sign(links["Lorna"], first.pk, SIGNATURE, "127.0.0.1")
        self.assertEqual([one.first_name for one in lettering.unsigned(self.return_, "engagement")], ["Jules"])

    def test_signed_once_and_by_hand_only(self):
        (letter,) = self.send()
        for image in ("", "data:image/png;base64,aGVsbG8="):
            with self.assertRaises(NotDrawn):
                lettering.sign(self.link, letter.pk, image, None)
        signed = lettering.sign(self.link, letter.pk, SIGNATURE, "127.0.0.1")
        self.assertTrue(signed.done)
        with self.assertRaisesMessage(Cannot, "signed this already"):
            lettering.sign(self.link, letter.pk, SIGNATURE, None)
        self.assertIn(letter.hash[:16], self.events("letter signed").get().says)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        answer = self.client.get(reverse("letter-pdf", args=[self.return_.pk, letter.pk]))
        words = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.content)).pages).split())
        self.assertIn("Lorna Abernathy, signed", words)
        self.assertIn(letter.hash, words.replace(" ", ""))
        session = self.client.session
        session["portal"] = self.link.pk
        session.save()
        self.assertEqual(self.client.get(reverse("portal-letter-pdf", args=[letter.pk])).content[:5], b"%PDF-")

    def test_a_letter_that_was_altered_in_the_store_is_not_signed(self):
        (letter,) = self.send()
        letter.words = "We owe you nothing"
        letter.save()
        with self.assertRaisesMessage(Cannot, "not what was sent"):
            lettering.sign(self.link, letter.pk, SIGNATURE, None)

    def test_sending_again_changes_nothing_unless_there_is_a_newer_text(self):
        self.send()
        self.assertEqual(self.send(), [])
        lettering.write(self.signer, "us", "engagement", "Newer words")
        (newer,) = self.send()
        self.assertEqual([one.words for one in lettering.letters_for(self.link)], ["Newer words"])
        lettering.sign(self.link, newer.pk, SIGNATURE, None)
        lettering.write(self.signer, "us", "engagement", "Newest words")
        self.assertEqual(self.send(), [])  # a signed one stands

    def test_nothing_goes_to_those_who_left_have_no_address_or_for_a_letter_without_text(self):
        with self.assertRaisesMessage(Cannot, "no text for this letter"):
            self.send("use")
        with self.assertRaises(NotOfThisFirm):
            lettering.send(self.stranger, self.return_.pk, ["engagement"])
        Person.objects.for_firm(self.firm).update(email="")
        with self.assertRaisesMessage(Cannot, "No email address: Lorna Abernathy"):
            self.send()
        leave(self.signer, self.household.pk)
        with self.assertRaisesMessage(Cannot, "left the practice"):
            self.send()
        self.assertEqual(Letter.objects.for_firm(self.firm).count(), 0)

    def test_a_return_without_the_letter_is_not_locked_where_the_practice_says_so(self):
        self.assertEqual(self.lacking(), ["Lorna Abernathy has not signed the engagement letter."])
        (letter,) = self.send()
        self.assertEqual(len(self.lacking()), 1)
        lettering.sign(self.link, letter.pk, SIGNATURE, None)
        self.assertEqual(self.lacking(), [])

    def test_a_consent_may_be_declined_and_nothing_else(self):
        lettering.write(self.signer, "us", "use", "May we, {client}?")
        engagement, consent = self.send("engagement", "use")
        with self.assertRaises(Cannot):
            lettering.decline(self.link, engagement.pk)
        self.assertIsNotNone(lettering.decline(self.link, consent.pk).declined_at)
        self.assertIsNone(lettering.sign(self.link, consent.pk, SIGNATURE, None).declined_at)  # and thought better of

    def test_many_get_theirs_in_one_round(self):
        says = []
        for _ in range(2):
            made = rounds.begin(self.preparer, "letters", [self.return_.pk])
            rounds.go_on(made.pk)
            says += made.items.values_list("says", flat=True)
        self.assertEqual(says, ["sent to Lorna Abernathy", "left: sent or signed already"])


class LetterPageTests(LetterTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")

    def test_letters_are_written_previewed_sent_and_read_by_the_office(self):
        url = reverse("write-letter", args=["privacy"])
        self.assertContains(self.client.post(url, {"words": "Dear {nobody}"}), "is no merge field", status_code=422)
        self.client.post(url, {"words": "Dear <b>{client}</b>"})
        self.assertFalse(lettering.texts(self.firm, "us")["privacy"].signed)
        self.assertContains(
            self.client.get(reverse("preview-letter", args=["privacy"])), "Dear &lt;b&gt;Lorna Abernathy&lt;/b&gt;"
        )
        self.assertRedirects(self.client.get(reverse("preview-letter", args=["use"])), reverse("gather-practice"))
        answer = self.client.post(reverse("send-letters", args=[self.return_.pk]), {"kind": ["privacy", "engagement"]})
        self.assertEqual(answer.status_code, 302)
        letter = Letter.objects.for_firm(self.firm).filter(text__kind="engagement").get()
        page = self.client.get(reverse("letter", args=[self.return_.pk, letter.pk]))
        self.assertContains(page, "Dear Lorna Abernathy")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("letter", args=[self.return_.pk, letter.pk])).status_code, 404)


class MessageTests(LetterTestCase):
    def test_a_message_mails_a_link_and_none_of_its_words(self):
        from django.core import mail

        from practice.portal.tasks import mail_link

        messaging.write(self.preparer, self.return_.pk, "Your refund is 1,234")
        mail_link(link_id=self.link.pk)
        self.assertNotIn("1,234", mail.outbox[-1].body)
        self.assertIn("/portal/enter/", mail.outbox[-1].body)

    def test_both_sides_read_one_thread_and_what_was_read_is_known(self):
        messaging.write(self.preparer, self.return_.pk, "Did you get the form?")
        messaging.note_read(self.household, by_client=True)
        made = messaging.write_back(self.link, "Which form?")
        self.assertEqual([one.writer for one in messaging.thread(self.household)], ["Bea Thorne", "Lorna Abernathy"])
        self.assertIsNone(made.read_at)
        messaging.note_read(self.household, by_client=False)
        self.assertFalse(messaging.thread(self.household).filter(read_at=None).exists())

    def test_a_clients_message_is_made_an_open_point_and_closed(self):
        ours = messaging.write(self.preparer, self.return_.pk, "Hello")
        made = messaging.write_back(self.link, "Can you call me?")
        with self.assertRaises(Cannot):
            messaging.make_point(self.preparer, ours.pk, self.reviewer.pk)
        with self.assertRaises(BadValue):
            messaging.make_point(self.preparer, made.pk, self.stranger.pk)
        messaging.make_point(self.preparer, made.pk, self.reviewer.pk)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("all-requests"), {"which": "points"}), "Abernathy, Lorna")
        self.client.post(reverse("message-point", args=[made.pk]), {"close": "1"})
        self.assertIsNotNone(Message.objects.for_firm(self.firm).get(pk=made.pk).closed_at)

    def test_empty_long_and_strangers_messages_are_refused(self):
        for words in ("", "   ", "x" * 4001):
            with self.assertRaises(BadValue):
                messaging.write(self.preparer, self.return_.pk, words)
        with self.assertRaises(NotOfThisFirm):
            messaging.write(self.stranger, self.return_.pk, "Hello")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        messaging.write(self.preparer, self.return_.pk, "Hello")
        made = messaging.write_back(self.link, "Back")
        self.assertEqual(self.client.post(reverse("message-point", args=[made.pk]), {"close": "1"}).status_code, 404)
