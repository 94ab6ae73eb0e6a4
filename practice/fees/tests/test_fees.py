"""Fees: the price list counts a return, drafts are changed and sent, what was sent holds, payments, who owes what."""

from datetime import date, timedelta
from decimal import Decimal
from unittest import mock

import httpx
from django.core import mail
from django.db import IntegrityError, transaction
from django.urls import reverse

from practice.clients.models import Person
from practice.dispatch.filing import CannotFile, file_return
from practice.fees import aging, billing, paying, prices
from practice.fees.models import Checkout, Hours, Invoice, Payment
from practice.fees.tasks import draw_invoice, read_invoice
from practice.firm.packs import usual_pack
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.portal.links import send_link
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_code, mail_link
from practice.returns import rounds
from practice.returns.entry import add_paper
from practice.returns.models import Return
from practice.signing import locking
from practice.signing.requesting import sign_in_office
from practice.tests.office import SIGNATURE, OfficeTestCase
from practice.track import keeping
from practice.track.steps import steps_of
from taxcore.engine import BadValue


class FeesTestCase(OfficeTestCase):
    """340 a return with two wage statements included, 45 for each more; 65 for each further authority; 180 an hour."""

    def setUp(self):
        super().setUp()
        for per, name, amount, *more in (
            ("return", "Individual return", "340"), ("authority", "State return", "65"), ("hour", "Bookkeeping", "180"),
            ("paper", "Wage statement", "45", "w2", 2), ("fixed", "Letter to a lender", "75"), ("discount", "Returning client", "10"),
        ):  # fmt: skip
            prices.add(self.signer, usual_pack(), per, name, amount, *more)

    def draft(self):
        return billing.drafted(self.preparer, self.return_.pk)

    def sent(self, **more):
        return billing.send(self.preparer, self.draft().pk, **more)

    def fresh(self, invoice):
        return Invoice.objects.for_firm(self.firm).get(pk=invoice.pk)

    def lines(self, invoice):
        return [(line.text, str(line.quantity), str(line.amount)) for line in invoice.lines.all()]

    def price(self, name):
        return prices.listed(self.firm, "us").get(name=name)

    @property
    def link(self):
        return PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm").latest("pk")


class PriceTests(FeesTestCase):
    def test_a_price_is_replaced_and_never_changed(self):
        before = self.price("Individual return")
        prices.add(self.signer, usual_pack(), "return", "Individual return", "360")
        self.assertEqual(self.price("Individual return").amount, 360)
        before.refresh_from_db()
        self.assertEqual((before.amount, before.ended_at is None), (340, False))

    def test_what_counts_nothing_or_costs_nothing_is_refused(self):
        for values, says in (
            (("form", "Schedule C", "90"), "Choose which one"), (("form", "Schedule C", "90", "us.none"), "one of the list"),
            (("return", "", "90"), "Name what"), (("return", "x", "0"), "must be from 0.01"), (("return", "x", "free"), ""),
            (("discount", "x", "101"), "to 100"), (("tip", "x", "1"), "what is counted"), (("return", "x", "1e9"), ""),
            (("paper", "x", "1", "w2", 100), "from 0 to 99"), (("return", "x", ""), "enter an amount"),
        ):  # fmt: skip
            with self.subTest(values), self.assertRaisesMessage(BadValue, says):
                prices.add(self.signer, usual_pack(), *values)

    def test_only_an_administrator_sets_prices(self):
        with self.assertRaises(Refused):
            prices.add(self.preparer, usual_pack(), "return", "x", "1")
        with self.assertRaises(NotOfThisFirm):
            prices.end(self.stranger, self.price("State return").pk)
        prices.end(self.signer, self.price("State return").pk)
        self.assertFalse(prices.listed(self.firm, "us").filter(name="State return").exists())


class DraftTests(FeesTestCase):
    def test_a_draft_counts_what_the_return_has(self):
        draft = self.draft()
        self.assertEqual(self.lines(draft), [("Individual return", "1.00", "340.00"), ("State return", "1.00", "65.00")])
        self.assertEqual(self.fresh(draft).total, Decimal("405.00"))
        self.assertEqual(self.draft().pk, draft.pk)

    def test_papers_beyond_those_included_and_hours_count(self):
        for _ in range(3):  # four wage statements in all, two of them included
            add_paper(self.preparer, self.return_.pk, "w2", "taxpayer", {"employer": "Another"})
        billing.add_hours(self.preparer, self.return_.pk, "1.5", "Sorted the shoebox")
        self.assertEqual(self.lines(self.draft())[2:], [("Wage statement", "2.00", "90.00"), ("Bookkeeping", "1.50", "270.00")])

    def test_forms_count_as_often_as_they_go_with_the_return(self):
        prices.add(self.signer, usual_pack(), "form", "Business", "120", "us.sch-c")
        for name in ("Ferns", "Moss"):
            add_paper(self.preparer, self.return_.pk, "business", "taxpayer", {"business_name": name, "receipts": "900.00"})
        self.assertIn(("Business", "2.00", "240.00"), self.lines(self.draft()))

    def test_the_return_moves_and_the_draft_says_so(self):
        draft = self.draft()
        billing.change_line(self.preparer, draft.pk, draft.lines.get(text="Individual return").pk, "1", "300")
        self.assertFalse(billing.moved(self.fresh(draft)))
        for _ in range(2):
            add_paper(self.preparer, self.return_.pk, "w2", "taxpayer", {"employer": "Another"})
        self.assertTrue(billing.moved(self.fresh(draft)))
        billing.count_again(self.preparer, draft.pk)
        lines = self.lines(self.fresh(draft))
        self.assertEqual(sorted(lines), [("Individual return", "1.00", "300.00"), ("State return", "1.00", "65.00"),
                                         ("Wage statement", "1.00", "45.00")])  # fmt: skip

    def test_lines_by_hand_and_a_discount_of_all_others(self):
        draft = self.draft()
        billing.add_line(self.preparer, draft.pk, self.price("Returning client").pk)
        billing.add_line(self.preparer, draft.pk, None, "Copies", "3", "1.15")
        self.assertEqual(self.fresh(draft).total, Decimal("367.60"))  # 408.45 less 40.85, half a cent up
        with self.assertRaises(BadValue):
            billing.add_line(self.preparer, draft.pk, self.price("State return").pk)  # counted, not chosen
        for text, quantity, price in (("", "1", "1"), ("x", "0", "1"), ("x", "1", ""), ("x", "1", "1e6"), ("x" * 121, "1", "1")):
            with self.subTest(text[:3], quantity=quantity, price=price), self.assertRaises(BadValue):
                billing.add_line(self.preparer, draft.pk, None, text, quantity, price)

    def test_hours_are_worked_today_or_before_and_billed_once(self):
        for hours, day in (("0", None), ("25", None), ("1", date(2030, 1, 1)), ("one", None)):
            with self.subTest(hours), self.assertRaises(BadValue):
                billing.add_hours(self.preparer, self.return_.pk, hours, "x", day)
        made = billing.add_hours(self.preparer, self.return_.pk, "2", "Sorted")
        first = self.sent()
        with self.assertRaisesMessage(Cannot, "were invoiced"):
            billing.remove_hours(self.preparer, self.return_.pk, made.pk)
        billing.add_hours(self.preparer, self.return_.pk, "0.25", "A call")
        again = self.draft()
        self.assertEqual(self.lines(again), [("Bookkeeping", "0.25", "45.00")])  # the rest was invoiced
        billing.void(self.preparer, first.pk, "Twice")
        self.assertEqual(Hours.objects.for_firm(self.firm).filter(invoice=None).count(), 2)


class SentTests(FeesTestCase):
    def test_what_was_sent_has_a_number_and_does_not_change(self):
        sent = self.sent(words="Thank you.")
        self.assertEqual((sent.number, sent.due), ("2026-0001", self.firm.today() + timedelta(days=14)))
        for do in (
            lambda: billing.change_line(self.preparer, sent.pk, sent.lines.first().pk, "1", "1"),
            lambda: billing.add_line(self.preparer, sent.pk, None, "x", "1", "1"),
            lambda: billing.count_again(self.preparer, sent.pk),
            lambda: billing.send(self.preparer, sent.pk),
        ):
            with self.assertRaisesMessage(Cannot, "was sent and cannot be changed"):
                do()
        prices.add(self.signer, usual_pack(), "return", "Individual return", "999")
        self.assertEqual(self.fresh(sent).total, Decimal("405.00"))
        mail_link(link_id=self.link.pk)
        self.assertNotIn("405", mail.outbox[-1].body)

    def test_numbers_have_no_gaps(self):
        first = self.sent()
        billing.void(self.preparer, first.pk, "Wrong client")
        self.assertEqual(self.sent().number, "2026-0002")
        with self.assertRaises(IntegrityError), transaction.atomic():
            Invoice.objects.for_firm(self.firm).filter(pk=first.pk).update(number="2026-0002")

    def test_what_cannot_be_sent_says_why(self):
        draft = self.draft()
        with self.assertRaisesMessage(Cannot, "That day is over"):
            billing.send(self.preparer, draft.pk, due=date(2020, 1, 1))
        billing.add_line(self.preparer, draft.pk, None, "Goodwill", "1", "-500")
        with self.assertRaisesMessage(Cannot, "less than zero"):
            billing.send(self.preparer, draft.pk)
        for line in draft.lines.all():
            billing.change_line(self.preparer, draft.pk, line.pk, remove=True)
        with self.assertRaisesMessage(Cannot, "no line on it"):
            billing.send(self.preparer, draft.pk)
        billing.add_line(self.preparer, draft.pk, None, "x", "1", "5")
        Person.objects.for_firm(self.firm).update(email="")
        Invoice.objects.for_firm(self.firm).update(to=None)
        with self.assertRaisesMessage(Cannot, "email address"):
            billing.send(self.preparer, draft.pk)

    def test_no_charge_is_kept_and_not_mailed(self):
        draft = self.draft()
        billing.add_line(self.preparer, draft.pk, None, "A favor", "1", "-405")
        sent = billing.send(self.preparer, draft.pk)
        self.assertEqual((sent.total, billing.is_settled(self.return_)), (0, True))
        self.assertFalse(PortalLink.objects.for_firm(self.firm).exists())

    def test_a_voided_one_leaves_a_draft_with_its_lines(self):
        sent = self.sent()
        with self.assertRaisesMessage(BadValue, "Say why"):
            billing.void(self.preparer, sent.pk, "")
        again = billing.void(self.preparer, sent.pk, "A line was missing", again=True)
        self.assertEqual((again.number, self.lines(again)), ("", self.lines(sent)))
        self.assertEqual(self.fresh(sent).void_why, "A line was missing")

    def test_the_pdf_is_kept_as_it_was_sent(self):
        sent = self.sent(words="Thank <you>.")
        draw_invoice(invoice_id=sent.pk)
        sent = self.fresh(sent)
        first = read_invoice(sent)
        self.assertTrue(first.startswith(b"%PDF-"))
        draw_invoice(invoice_id=sent.pk)
        self.assertEqual(self.fresh(sent).file, sent.file)

    def test_who_may_not_bill_and_strangers_are_refused(self):
        with self.assertRaises(Refused):
            billing.drafted(self.reviewer, self.return_.pk)
        sent = self.sent()
        for do in (
            lambda: billing.drafted(self.stranger, self.return_.pk), lambda: billing.void(self.stranger, sent.pk, "x"),
            lambda: billing.pay(self.stranger, sent.pk, "1", "cash"), lambda: billing.remind(self.stranger, sent.pk),
        ):  # fmt: skip
            with self.assertRaises(NotOfThisFirm):
                do()


class PaymentTests(FeesTestCase):
    def test_payments_by_hand_add_up_and_are_taken_back(self):
        sent = self.sent()
        billing.pay(self.preparer, sent.pk, "100", "check", reference="1207")
        self.assertEqual(self.fresh(sent).open, Decimal("305.00"))
        for amount, manner, day in (
            ("305.01", "check", None),
            ("1", "gold", None),
            ("1", "gateway", None),
            ("1", "cash", date(2030, 1, 1)),
        ):
            with self.subTest(amount, manner=manner), self.assertRaises(BadValue):
                billing.pay(self.preparer, sent.pk, amount, manner, day)
        with self.assertRaisesMessage(Cannot, "Take the payment back first"):
            billing.void(self.preparer, sent.pk, "x")
        last = billing.pay(self.preparer, sent.pk, "305", "cash")
        self.assertTrue(billing.is_settled(self.return_))
        billing.take_back(self.preparer, last.pk, "The bill was false")
        self.assertEqual(self.fresh(sent).open, Decimal("305.00"))
        with self.assertRaises(NotOfThisFirm):
            billing.take_back(self.preparer, last.pk, "Twice")

    def test_a_return_waits_for_its_fee_where_the_practice_says_so(self):
        self.firm.pay_first = True
        self.firm.save()
        locking.lock_figures(self.signer, self.return_.pk)
        for line in self.again().snapshot.bottom_lines:
            sign_in_office(
                self.administrator, self.return_.pk, self.client_person.pk, line["code"], SIGNATURE, "127.0.0.1", "41706"
            )
        with self.assertRaisesMessage(CannotFile, "The fee is not paid"):
            file_return(self.signer, self.return_.pk)
        sent = self.sent()
        with self.assertRaises(CannotFile):
            file_return(self.signer, self.return_.pk)
        billing.pay(self.preparer, sent.pk, "405", "check")
        self.assertEqual(len(file_return(self.signer, self.return_.pk)), 2)

    def test_a_client_whose_fee_is_left_out_does_not_wait(self):
        self.firm.pay_first = True
        self.firm.save()
        locking.lock_figures(self.signer, self.return_.pk)
        for line in self.again().snapshot.bottom_lines:
            sign_in_office(
                self.administrator, self.return_.pk, self.client_person.pk, line["code"], SIGNATURE, "127.0.0.1", "41706"
            )
        keeping.leave_out(self.preparer, self.return_.pk, "fee", "A colleague’s mother")
        self.assertEqual(len(file_return(self.signer, self.return_.pk)), 2)

    def test_the_track_says_where_the_fee_stands(self):
        def step():
            return next((one.state, one.says) for one in steps_of(self.again()) if one.code == "fee")

        self.assertEqual(step(), ("open", ""))
        sent = self.sent()
        self.assertEqual(step(), ("part", "405.00 due Feb 24"))
        billing.pay(self.preparer, sent.pk, "405", "check")
        self.assertEqual(step(), ("done", "paid"))


class Gateway:
    """The payment service as the practice reaches it: one payment for a key, however often it is asked."""

    def __init__(self):
        self.known, self.away, self.opened = {}, False, 0

    def __call__(self, method, url, json=None, headers=None, **how):
        if self.away:
            raise httpx.ConnectError("away")
        if method == "POST":
            self.opened += json["key"] not in self.known
            found = self.known.setdefault(json["key"], {"state": "open", "amount": json["amount"], "reference": ""})
            return self._reply({"id": json["key"], "url": f"http://pay.example/{json['key']}"} | found)
        found = self.known.get(url.rsplit("/", 1)[1])
        return self._reply(found or {}, 200 if found else 404)

    def _reply(self, body, status=200):
        return httpx.Response(status, json=body, request=httpx.Request("GET", "http://pay.example"))

    def set(self, state):
        for found in self.known.values():
            found |= {"state": state, "reference": "PS-1"}


class OnlineTests(FeesTestCase):
    def setUp(self):
        super().setUp()
        self.invoice = self.sent()
        self.gateway = Gateway()
        patched = mock.patch.object(httpx, "request", self.gateway)
        patched.start()
        self.addCleanup(patched.stop)

    def begin(self):
        return paying.begin(self.link, self.invoice.pk, "http://127.0.0.1/back")

    def test_a_payment_counts_once_whoever_asks(self):
        checkout = self.begin()
        self.assertEqual(self.begin().pk, checkout.pk)
        self.assertEqual(self.gateway.opened, 1)
        self.gateway.set("paid")
        self.assertEqual([paying.ask(checkout.pk).state, paying.ask(checkout.pk).state, paying.ask_all()], ["paid", "paid", 0])
        self.assertEqual((self.fresh(self.invoice).open, Payment.objects.for_firm(self.firm).count()), (0, 1))
        with self.assertRaisesMessage(Cannot, "is paid"):
            self.begin()

    def test_who_never_comes_back_is_found_by_the_worker(self):
        self.begin()
        self.gateway.set("paid")
        self.assertEqual(paying.ask_all(), 1)
        self.assertEqual(self.events("invoice paid").get().by, "Lorna Abernathy")

    def test_declined_is_said_and_tried_again(self):
        first = self.begin()
        self.gateway.set("declined")
        self.assertEqual(paying.ask(first.pk).state, "declined")
        self.assertNotEqual(self.begin().pk, first.pk)
        self.assertEqual(self.fresh(self.invoice).paid, 0)

    def test_the_service_is_away_and_nothing_is_lost(self):
        self.gateway.away = True
        with self.assertRaisesMessage(Cannot, "not available"):
            self.begin()
        self.assertEqual(Checkout.objects.for_firm(self.firm).count(), 1)
        self.gateway.away = False
        self.assertTrue(self.begin().url)
        self.assertEqual((Checkout.objects.for_firm(self.firm).count(), self.gateway.opened), (1, 1))
        self.gateway.away = True
        self.assertEqual(paying.ask_all(), 0)

    def test_one_that_nobody_finished_ends(self):
        made = self.begin()
        Checkout.objects.for_firm(self.firm).filter(pk=made.pk).update(made_at=made.made_at - timedelta(days=2))
        self.assertEqual(paying.ask(made.pk).state, "ended")

    def test_an_invoice_that_is_being_paid_is_not_voided(self):
        self.begin()
        with self.assertRaisesMessage(Cannot, "began to pay"):
            billing.void(self.preparer, self.invoice.pk, "x")

    def test_the_client_pays_in_the_portal_and_no_other_client_sees_it(self):
        mail_link(link_id=self.link.pk)
        client = self.client_class()
        client.post(f"/portal/enter/{mail.outbox[-1].body.split('/portal/enter/')[1].split()[0]}")
        mail_code(link_id=self.link.pk)
        client.post("/portal/code", {"code": "".join(one for one in mail.outbox[-1].body if one.isdigit())[:6]})
        page = reverse("portal-invoice", args=[self.invoice.pk])
        self.assertContains(client.get("/portal/"), "Invoice 2026-0001, $405.00")
        self.assertContains(client.get(page), "$405.00")
        self.gateway.away = True
        pay = reverse("portal-pay", args=[self.invoice.pk])
        self.assertContains(client.post(pay), "not available", status_code=409)
        self.gateway.away = False
        self.assertRedirects(client.post(pay), page)
        self.assertContains(client.get(page), "http://pay.example/")
        self.gateway.set("paid")
        self.assertContains(client.get(reverse("portal-paid", args=[self.invoice.pk]), follow=True), "Your payment was received")
        from practice.demo.building import build_household
        from practice.demo.scenario import HOUSEHOLDS

        other = build_household(self.firm, HOUSEHOLDS[2])
        theirs = billing.send(self.preparer, billing.drafted(self.preparer, other.pk).pk)
        self.assertEqual(client.get(reverse("portal-invoice", args=[theirs.pk])).status_code, 404)
        self.assertEqual(client.get(reverse("portal-invoice-pdf", args=[theirs.pk])).status_code, 404)
        strange = send_link(self.return_, self.client_person, "invoice")
        with self.assertRaisesMessage(Cannot, "no such invoice"):
            paying.begin(strange, theirs.pk, "http://127.0.0.1/back")


class ListTests(FeesTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def on_day(self, days):
        self.firm.training_day = self.firm.today() + timedelta(days=days)
        self.firm.save()
        self.preparer.firm = self.firm

    def test_ages_are_counted_from_the_due_date(self):
        sent = self.sent()
        self.assertEqual([aging.age(sent, sent.due + timedelta(days=days)) for days in (-9, 0, 1, 30, 31, 60, 61, 90, 91)],
                         [0, 0, 1, 1, 2, 2, 3, 3, 4])  # fmt: skip
        rows, sums = aging.columns([sent], sent.due + timedelta(days=45))
        self.assertEqual(rows[0][1], [None, None, Decimal("405.00"), None, None])
        self.assertEqual(sum(sums), Decimal("405.00"))

    def test_every_list_opens_filters_and_is_saved(self):
        self.sent()
        for which, there in (
            ("open", True),
            ("late", False),
            ("paid", False),
            ("none", False),
            ("drafts", False),
            ("void", False),
        ):
            with self.subTest(which):
                page = self.client.get(reverse("fees"), {"which": which})
                (self.assertContains if there else self.assertNotContains)(page, "2026-0001")
        self.assertNotContains(self.client.get(reverse("fees"), {"q": "nobody"}), "2026-0001")
        table = b"".join(self.client.get(reverse("fees"), {"as": "csv"}).streaming_content)
        self.assertIn(b'2026-0001,"Abernathy, Lorna",2025', table)
        self.on_day(20)
        self.assertContains(self.client.get(reverse("fees"), {"which": "late"}), "405.00")

    def test_many_are_invoiced_and_reminded_in_rounds(self):
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(stage="sign")
        self.assertContains(self.client.get(reverse("fees"), {"which": "none"}), "Abernathy, Lorna")
        says = []
        for act in ("dun", "invoice", "invoice", "dun"):
            made = rounds.begin(self.preparer, act, [self.return_.pk])
            rounds.go_on(made.pk)
            says += made.items.values_list("says", flat=True)
        self.assertEqual(says, ["left: nothing is owed", "2026-0001, 405.00, sent to Lorna Abernathy",
                                "left: invoice 2026-0001 of Feb 10 already", "reminded Lorna Abernathy of 2026-0001"])  # fmt: skip
        answer = self.client.post(reverse("fees"), {"act": "invoice", "of": [self.return_.pk]})
        self.assertEqual(answer.status_code, 302)
        self.assertContains(self.client.post(reverse("fees"), {"act": "x"}), "Choose what to send", status_code=422)

    def test_the_page_of_a_return_does_all_of_it(self):
        page = reverse("invoice", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "Nothing was invoiced")
        self.client.post(reverse("start-invoice", args=[self.return_.pk]))
        draft = self.draft()
        bad = self.client.post(reverse("add-invoice-line", args=[draft.pk]), {"text": "Kept <words>", "price": "x"})
        self.assertContains(bad, "Kept &lt;words&gt;", status_code=422)
        self.client.post(reverse("add-hours", args=[self.return_.pk]), {"hours": "0:30", "done": "Half an hour"})
        self.client.post(reverse("add-hours", args=[self.return_.pk]), {"hours": "1/2", "done": "Half an hour"})
        self.client.post(reverse("count-invoice", args=[draft.pk]))
        self.assertContains(self.client.get(page), "495.00")
        late = self.client.post(reverse("send-invoice", args=[draft.pk]), {"due": "1/1/2020", "words": "Hello"})
        self.assertContains(late, "That day is over", status_code=422)
        self.assertContains(late, "Hello", status_code=422)
        self.assertContains(
            self.client.post(reverse("send-invoice", args=[draft.pk]), {"due": "3/1/2026"}, follow=True), "2026-0001 sent"
        )
        self.client.post(reverse("pay-invoice", args=[draft.pk]), {"amount": "95", "manner": "check", "reference": "77"})
        self.assertContains(self.client.get(page), "400.00")
        paid = Payment.objects.for_firm(self.firm).get()
        self.client.post(reverse("take-payment-back", args=[draft.pk, paid.pk]), {"why": "No cover"})
        self.assertContains(self.client.get(page), "No cover")
        self.client.post(reverse("remind-invoice", args=[draft.pk]))
        self.client.post(reverse("void-invoice", args=[draft.pk]), {"why": "All wrong", "again": "on"})
        self.assertContains(self.client.get(page), "All wrong")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        for url in (reverse("start-invoice", args=[self.return_.pk]), reverse("send-invoice", args=[draft.pk]),
                    reverse("pay-invoice", args=[draft.pk]), reverse("void-invoice", args=[draft.pk])):  # fmt: skip
            self.assertEqual(self.client.post(url, {"why": "x"}).status_code, 404, url)
        for url in (page, reverse("invoice-pdf", args=[draft.pk])):
            self.assertEqual(self.client.get(url).status_code, 404, url)

    def test_the_price_list_is_kept_by_administrators(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        body = {"per": "form", "name": "Business", "amount": "120", "code": "us.sch-c", "included": "1"}
        self.assertRedirects(self.client.post(reverse("add-price"), body), reverse("prices"))
        self.assertContains(self.client.get(reverse("prices")), "120.00")
        self.assertContains(self.client.post(reverse("add-price"), body | {"amount": "no"}), "Business", status_code=422)
        self.client.post(reverse("end-price", args=[self.price("Business").pk]))
        self.client.post(reverse("pay-first"), {"first": "on"})
        self.firm.refresh_from_db()
        self.assertTrue(self.firm.pay_first)
        self.assertFalse(prices.listed(self.firm, "us").filter(name="Business").exists())
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.post(reverse("add-price"), body).status_code, 403)
