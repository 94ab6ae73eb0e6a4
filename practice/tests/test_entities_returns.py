"""Partnerships and S corporations in the application: books from a file, shares handed out, owners' tax before and after, filed."""

from datetime import date
from unittest import mock

from django.conf import settings
from lxml import etree

from practice.clients import entities, restricting
from practice.clients.models import Person
from practice.delivery import packaging, tasks
from practice.dispatch import filing
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.dispatch.tasks import settle
from practice.firm.crypto import unseal_bytes
from practice.firm.models import Firm
from practice.returns import amending, confirming, issuing, rolling
from practice.returns.changing import Settled
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, add_spouse, remove_paper, save_field
from practice.returns.models import Return, Stage
from practice.signing import requesting
from practice.tests.entities import LORNA, OTHER, PARTNERSHIP, EntityTestCase
from practice.tests.office import SIGNATURE
from practice.us import extending, waiting
from taxcore.engine import BadValue
from taxcore.packs.us.corporation.tests.making import ABOUT as PLAIN
from taxcore.packs.us.s_corporation.tests.making import ABOUT as CORPORATION

EXTENSION = settings.BASE.parent / "authority" / "schemas" / "extension.xsd"


class PartnershipTests(EntityTestCase):
    def lay_out(self):
        super().lay_out()
        self.made = self.partnership()

    def test_from_the_books_to_both_shares(self):
        made = self.made
        run = result_of(made).run
        self.assertEqual((run.form("us.1065").ordinary, self.stops(made)), (51_000, []))
        self.assertEqual([one.ordinary for one in run.every("us.sch-k-1")], [30_600, 20_400])
        page = self.client.get(f"/returns/{made.pk}/forms").content.decode()
        self.assertIn("Ordinary business income (loss)", page)
        self.assertNotIn("Net refund", page)  # nobody pays tax with it

    def test_a_field_appears_when_an_answer_calls_for_it_and_goes_with_it(self):
        made = self.made
        paper = made.papers.get(kind="about")
        field, asked = (f"f-{paper.pk}-{name}" for name in ("filed_1099", "payments_1099"))

        def saved(value, was):
            field = {"path": "payments_1099", "value": value, "was": was}
            return self.client.post(f"/returns/{made.pk}/papers/{paper.pk}/field", field).content.decode()

        yes = saved("yes", "no")
        self.assertIn(f'hx-swap-oob="afterend:#{asked}"', yes)
        self.assertIn(f'id="{field}"', yes)
        no = saved("no", "yes")
        self.assertIn(f'<div id="{field}" hx-swap-oob="delete">', no)

    def test_what_it_does_to_an_owner_is_seen_before_it_is_handed_out_and_a_change_later(self):
        made = self.made
        page = self.client.get(f"/returns/{made.pk}/issued")
        self.assertContains(page, "No client that you see has the number of Corin Vale.")
        self.assertContains(page, "What it does to their returns")
        (moved,) = issuing.moved_by(issuing.handings_of(made))
        label, before, after, change = moved.lines[0]
        self.assertEqual((moved.return_.pk, label), (self.return_.pk, "Federal: Total tax"))
        self.assertGreater(after, before)
        refused = self.client.post(f"/returns/{made.pk}/issued/out", follow=True)
        self.assertContains(refused, "Choose which papers to hand out.")
        marks = [one.mark for one in issuing.handings_of(made) if one.is_open]
        self.client.post(f"/returns/{made.pk}/issued/out", {"paper": marks})
        share = self.return_.papers.get(kind="k1-1065")
        self.assertEqual((share.values["ordinary"], share.provenance["ordinary"]["how"]), ("30600", "issued"))
        self.assertEqual(result_of(self.fresh(self.return_)).run.form("us.1040").total_tax - before, change)
        self.assertEqual(issuing.moved_by(issuing.handings_of(self.fresh(made))), [])
        books = made.papers.get(kind="books")
        rent = next(one for one in books.values["rows"] if one["account"] == "Shop rent")
        save_field(self.preparer, made.pk, books.pk, f"rows.{rent['id']}.debit", "25000", rent["debit"])
        ((source, later), *_) = issuing.differing_on(self.fresh(self.return_))
        self.assertEqual((source.pk, later.differs[0][1:]), (made.pk, ("30,600.00", "30,000.00")))

    def test_a_share_that_somebody_keyed_already_is_that_one(self):
        made = self.made
        there = {"entity": "Quarry", "entity_number": "00-4471209"}
        keyed = add_paper(self.preparer, self.return_.pk, "k1-1065", "taxpayer", there)[1]
        issuing.hand_out(self.preparer, made.pk)
        (share,) = self.return_.papers.filter(kind="k1-1065", removed_at=None)
        self.assertEqual((share.pk, share.values["ordinary"]), (keyed.pk, "30600"))
        self.assertEqual(self.return_.papers.get(kind="basis-p").values["share"], keyed.key)

    def test_a_share_of_a_spouse_is_the_spouses_beside_the_other(self):
        made = self.made
        _, spouse = add_spouse(self.preparer, self.return_.pk)
        for path, text in (("first_name", "Corin"), ("number", OTHER["number"])):
            save_field(self.preparer, self.return_.pk, spouse.pk, path, text, "")
        filing = self.return_.papers.get(kind="filing")
        save_field(self.preparer, self.return_.pk, filing.pk, "status", "joint", "single")
        issuing.hand_out(self.preparer, made.pk)
        shares = self.return_.papers.filter(kind="k1-1065", removed_at=None)
        owners = {one.values["ordinary"]: one.values.get("owner") for one in shares}
        self.assertEqual(owners, {"30600": "taxpayer", "20400": "spouse"})
        of_basis = {one.values["share"] for one in self.return_.papers.filter(kind="basis-p", removed_at=None)}
        self.assertEqual(of_basis, {one.key for one in shares})
        self.assertEqual(issuing.moved_by(issuing.handings_of(self.fresh(made))), [])

    def test_an_owners_return_says_what_it_waits_for(self):
        made = self.made
        self.assertEqual([one.pk for one in waiting.waits_for(self.return_)], [made.pk])
        page = self.client.get(f"/returns/{self.return_.pk}/papers")
        self.assertContains(page, "Schedule K-1 of Quarry Road Kayaks has not arrived.")
        issuing.hand_out(self.preparer, made.pk)
        self.assertEqual(waiting.waits_for(self.fresh(self.return_)), [])

    def test_a_share_of_a_dependent_goes_to_no_return_of_the_parents(self):
        made = self.made
        child = add_paper(self.preparer, self.return_.pk, "person")[1]
        for path, text in (("first_name", "Corin"), ("number", OTHER["number"])):
            save_field(self.preparer, self.return_.pk, child.pk, path, text, "")
        who = {"first_name": "Corin", "last_name": "Vale", "number": OTHER["number"]}
        Person.objects.create(firm=self.firm, household=self.return_.household, **who)
        says = {one.says for one in issuing.handings_of(made) if one.issued.named == "Corin Vale"}
        self.assertEqual(says, {"Corin Vale is a dependent there: it needs another return."})

    def test_a_partner_signs_it_is_filed_delivered_and_rolled_forward(self):
        made = self.filed(self.made, "us-1065")
        self.assertEqual(made.stage, Stage.DELIVER)
        package = packaging.make_package(self.signer, made.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        self.assertEqual(package.state, "ready")
        after = rolling.roll(self.preparer, made.pk).return_
        begins = {one["account"]: one.get("before") for one in after.papers.get(kind="books").values["rows"]}
        self.assertEqual((float(begins["Checking"]), float(begins["Members' capital"])), (55_000, -61_000))

    def test_an_amended_return_goes_again_and_its_shares_are_handed_out_anew(self):
        made = self.made
        issuing.hand_out(self.preparer, made.pk)
        made = self.filed(made, "us-1065")
        again = amending.amend(self.preparer, made.pk)
        self.move(again, ("Wages", "58000"), ("Checking", "57000"))
        why = again.papers.get(kind="amendment")
        save_field(self.preparer, again.pk, why.pk, "explanation", "A wage was booked twice.", "")
        self.assertEqual(self.stops(self.fresh(again)), [])
        issuing.hand_out(self.preparer, again.pk)
        self.assertEqual(self.return_.papers.get(kind="k1-1065").values["ordinary"], "31800")
        self.assertEqual(self.filed(self.fresh(again), "us-1065").stage, Stage.DELIVER)

    def test_a_partner_that_is_a_corporation_has_it_in_its_own_return(self):
        made = self.made
        partner = next(one for one in made.papers.filter(kind="partner") if one.values["called"] == "Corin Vale")
        remove_paper(self.preparer, made.pk, partner.pk)
        boats = OTHER | {"called": "Vale Boats Inc", "number": "00-5566771", "sort": "corporation", "general": "no"}
        add_paper(self.preparer, made.pk, "partner", "", boats | {"distributed": "8000", "stakes": [{"profit": "40"}]})
        owner = entities.add(self.preparer, name="Vale Boats Inc", form="company", number="00-5566771")
        self.client.post(f"/households/{owner.pk}/returns", {"pack": "us-1120", "year": "2025"})
        theirs = Return.objects.for_firm(self.firm).get(household=owner)
        page = self.client.get(f"/returns/{made.pk}/issued").content.decode()
        self.assertIn("Vale Boats Inc", page)
        self.assertIn("4,284", page)  # 21% of 20,400: seen before it is handed out
        self.assertEqual(issuing.hand_out(self.preparer, made.pk), 3)  # with Lorna's share and its basis
        share = theirs.papers.get(kind="k1-1065")
        self.assertEqual((share.values["ordinary"], share.provenance["ordinary"]["how"]), ("20400", issuing.ISSUED))
        self.assertEqual(result_of(self.fresh(theirs)).run.form("us.1120").other_income, 20_400)
        self.move(made, ("Shop rent", "25000"), ("Checking", "54000"))
        self.assertEqual([one.return_ for _, one in issuing.differing_on(self.fresh(theirs))], [theirs])
        issuing.take(self.preparer, theirs.pk)
        self.assertEqual(theirs.papers.get(kind="k1-1065").values["ordinary"], "20000")

    def test_a_restricted_owner_is_nobody_to_others(self):
        """Neither their return nor their tax is on the page, and nothing is handed out to it, but by whoever may see the client."""
        restricting.restrict(self.administrator, self.return_.household_id, [self.preparer.pk])
        page = self.client.get(f"/returns/{self.made.pk}/issued").content.decode()
        self.assertIn("No client that you see has the number of Lorna Abernathy.", page)
        self.assertNotIn("What it does to their returns", page)
        with self.assertRaises(issuing.NotIssued):
            issuing.hand_out(self.signer, self.made.pk)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(f"/returns/{self.made.pk}/issued"), "What it does to their returns")
        self.assertEqual(issuing.hand_out(self.preparer, self.made.pk), 2)

    def test_the_books_leave_as_they_came_and_entries_as_a_journal(self):
        rows = [{"account": "Wages", "debit": "5"}, {"account": "Checking", "credit": "5"}]
        entry = {"entry_kind": "adjusting", "explanation": "A late slip", "made_on": "2025-12-31", "rows": rows}
        add_paper(self.preparer, self.made.pk, "entry", "", entry)
        books, journal = (
            b"".join(self.client.get(f"/returns/{self.made.pk}/papers/table/{kind}/rows/rows", {"as": "csv"}))
            .decode()
            .splitlines()
            for kind in ("books", "entry")
        )
        self.assertEqual(books[0], "Account,Number,Tax line,Beginning,Debit,Credit")
        self.assertEqual((books[1], len(books)), ("Checking,1000,Cash,25000.00,55000.00,0.00", 11))
        self.assertEqual(len({line.count(",") for line in journal}), 1)
        self.assertIn("Adjusting", journal[1])
        self.assertIn("A late slip", journal[2])
        file = self.client.get(f"/returns/{self.made.pk}/papers/table/books/rows/rows", {"as": "xlsx"})
        self.assertIn("spreadsheetml", file["Content-Type"])
        self.assertEqual(self.client.get(f"/returns/{self.made.pk}/papers/table/books/rows/account").status_code, 404)
        page = self.client.get(f"/returns/{self.made.pk}/papers/{self.made.papers.get(kind='books').pk}")
        self.assertContains(page, "/papers/table/books/rows/rows?as=csv")
        made = self.made.papers.get(kind="entry")
        self.assertContains(self.client.get(f"/returns/{self.made.pk}/papers/{made.pk}"), "/papers/table/entry/rows/rows?as=csv")
        partner = self.made.papers.filter(kind="partner").first()
        self.assertNotContains(self.client.get(f"/returns/{self.made.pk}/papers/{partner.pk}"), "?as=csv")

    def test_a_return_that_waits_for_a_restricted_client_does_not_name_it(self):
        self.assertIn("Quarry Road Kayaks", str(list(waiting.notices(self.return_))))
        restricting.restrict(self.administrator, self.household.pk, [self.preparer.pk])
        said = str(list(waiting.notices(self.return_)))
        self.assertIn("Schedule K-1 of a restricted client has not arrived.", said)
        self.assertNotIn("Quarry Road Kayaks", said)

    def test_a_paper_of_the_very_name_is_found_first(self):
        page = self.client.get("/find", {"q": "partner", "in": self.made.pk}).content.decode()
        self.assertLess(page.index("Add: Partner<"), page.index("Add: Partnership K-1"))

    def test_shares_are_documents_for_whoever_is_no_client(self):
        made = self.made
        names = [one.name for one in result_of(made).run.pack.outgoing.statements(result_of(made))]
        self.assertEqual(names, ["Schedule K-1, Lorna Abernathy", "Schedule K-1, Corin Vale"])


class CorporationTests(EntityTestCase):
    def test_a_corporation_whose_owner_takes_more_than_the_basis(self):
        made = self.opened("us-1120s", "s-corp", CORPORATION, adjustments_before="30000")
        for holder, shares, paid in ((LORNA, "60", "12000"), (OTHER, "40", "8000")):
            add_paper(self.preparer, made.pk, "shareholder", "", holder | {"distributed": paid, "stakes": [{"shares": shares}]})
        made = self.fresh(made)
        self.assertEqual((result_of(made).run.form("us.1120-s").ordinary, self.stops(made)), (51_000, []))
        issuing.hand_out(self.preparer, made.pk)
        basis = self.return_.papers.get(kind="basis-s")
        save_field(self.preparer, self.return_.pk, basis.pk, "distributed", "40000", basis.values["distributed"])
        found = result_of(self.fresh(self.return_)).run
        self.assertEqual(found.form("us.7203", basis.key).above_basis, 9_400)  # 40,000 of 30,600
        self.assertEqual(self.filed(made, "us-1120s").stage, Stage.DELIVER)

    def test_a_trust_has_no_return_here(self):
        trust = entities.add(self.preparer, name="Wren Trust", form="trust", number="00-4471211")
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(f"/households/{trust.pk}").content.decode()
        self.assertNotIn("Partnership return", page)


class PlainCorporationTests(EntityTestCase):
    def test_a_corporation_with_a_loss_carried_forward(self):
        made = self.opened("us-1120", "company", PLAIN)
        waiting = {"losses": [{"from_year": "2022", "amount": "60000"}]}
        add_paper(self.preparer, made.pk, "carryovers", "", waiting)
        made = self.fresh(made)
        page = result_of(made).run.form("us.1120")
        self.assertEqual((page.before_losses, page.operating_loss, page.tax), (51_000, 40_800, 2_142))
        self.assertEqual(self.stops(made), [])
        self.assertContains(self.client.get(f"/returns/{made.pk}/forms"), "Net refund (due)")
        made = self.filed(made, "us-1120")
        self.assertEqual(made.stage, Stage.DELIVER)
        after = rolling.roll(self.preparer, made.pk).return_
        (left,) = after.papers.get(kind="carryovers").values["losses"]
        self.assertEqual((left["from_year"], left["amount"]), ("2022", "19200"))

    def test_its_amended_return_is_settled_filed_and_delivered(self):
        made = self.filed(self.opened("us-1120", "company", PLAIN), "us-1120")
        # Until the due date it would take the first one's place
        self.enterContext(mock.patch.object(Firm, "today", lambda firm: date(2026, 6, 1)))
        again = amending.amend(self.preparer, made.pk)
        why = again.papers.get(kind="amendment")
        self.assertEqual(why.values["paid"], "10710")  # 21% of 51,000, taken as paid
        save_field(self.preparer, again.pk, why.pk, "explanation", "A wage was booked twice.", "")
        self.move(again, ("Wages", "58000"), ("Checking", "57000"))
        run = result_of(self.fresh(again)).run
        lines = [getattr(run.form("us.1120-x"), name) for name in ("tax_filed", "tax_change", "tax", "paid", "owed")]
        self.assertEqual(lines, [10_710, 420, 11_130, 10_710, 420])
        self.assertEqual(self.stops(self.fresh(again)), ["us-1120.unconfirmed-tax"])  # what was taken as paid
        confirming.confirm(self.preparer, again.pk, why.pk)
        self.assertEqual(self.stops(self.fresh(again)), [])
        again = self.filed(self.fresh(again), "us-1120")
        self.assertEqual((again.stage, again.snapshot.bottom_lines[0]["amount"]), (Stage.DELIVER, "-420"))
        package = packaging.make_package(self.signer, again.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        self.assertEqual(package.state, "ready")


class IllinoisTests(EntityTestCase):
    """The state's return beside the federal one, and what it means to the owner's own."""

    HERE = {"state": "IL", "city": "Galena", "zip": "61036"}

    def asked(self, made, **values):
        add_paper(self.preparer, made.pk, "il-entity", "", {"business_only": "yes", "more": "no", "own_tax": "0"} | values)
        return self.fresh(made)

    def test_a_partnership_pays_entity_tax_and_its_partner_has_the_credit(self):
        made = self.opened("us-1065", "partnership", PARTNERSHIP | self.HERE)
        for partner, part in ((LORNA, "60"), (OTHER, "40")):
            add_paper(self.preparer, made.pk, "partner", "", partner | {"general": "yes", "stakes": [{"profit": part}]})
        made = self.asked(made, personal_service="30000", entity_tax="yes", estimates="2600", credited="100")
        self.assertEqual(self.stops(made), [])
        self.assertContains(self.client.get(f"/returns/{made.pk}/forms"), "Partnership replacement tax return")
        issuing.hand_out(self.preparer, made.pk)
        (row,) = self.return_.papers.get(kind="k1-1065").values["states"]
        self.assertEqual((row["state"], row["income"], row["entity_tax"]), ("IL", "30600", "1515"))
        self.assertEqual(result_of(self.fresh(self.return_)).run.form("us-il.il-1040").entity_tax, 1_515)
        self.assertEqual(issuing.moved_by(issuing.handings_of(made)), [])
        questions = made.papers.get(kind="il-entity")
        save_field(self.preparer, made.pk, questions.pk, "entity_tax", "no", "yes")
        ((_, later), *_) = issuing.differing_on(self.fresh(self.return_))
        self.assertEqual(later.differs[0][0], "States")
        save_field(self.preparer, made.pk, questions.pk, "entity_tax", "yes", "no")
        made = self.filed(self.fresh(made), "us-1065", "us-il-1065")
        self.assertEqual(made.stage, Stage.DELIVER)
        package = packaging.make_package(self.signer, made.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        self.assertEqual(package.state, "ready")

    def test_what_the_irs_accepted_stays_while_illinois_is_corrected(self):
        made = self.asked(self.opened("us-1120", "company", PLAIN | self.HERE))
        requesting.ask_for_signature(self.signer, made.pk)
        for one in ("us-1120", "us-il-1120"):
            requesting.sign_in_office(self.administrator, made.pk, self.client_person.pk, one, SIGNATURE, None, "41706")
        filing.file_return(self.signer, made.pk)
        for one, answer in (
            ("us-1120", Answer("accepted")),
            ("us-il-1120", Answer("rejected", [{"rule": "T-1", "message": "no"}])),
        ):
            sent = made.submissions.get(authority=one)
            sent.state, sent.receipt = State.SENT, f"H-{one}"
            sent.save()
            settle(sent.pk, answer)
        questions, books = (made.papers.get(kind=kind) for kind in ("il-entity", "books"))
        save_field(self.preparer, made.pk, questions.pk, "other_additions", "100", "")
        wages = next(one for one in books.values["rows"] if one["account"] == "Wages")
        with self.assertRaisesRegex(Settled, "was accepted and would change"):
            save_field(self.preparer, made.pk, books.pk, f"rows.{wages['id']}.debit", "1", wages["debit"])

    def test_a_corporation_with_an_illinois_loss(self):
        made = self.opened("us-1120", "company", PLAIN | self.HERE)
        made = self.asked(made, losses=[{"from_year": "2022", "amount": "60000"}], estimates="100", credited="100")
        page = result_of(made).run.form("us-il.il-1120")
        self.assertEqual((page.base_income, page.loss_deduction, page.total_tax, page.refund), (51_000, 51_000, 0, 0))
        made = self.filed(made, "us-1120", "us-il-1120")
        after = rolling.roll(self.preparer, made.pk).return_.papers.get(kind="il-entity").values
        self.assertEqual((after["losses"][0]["amount"], after["credited_before"], after["business_only"]), ("9000", "100", "yes"))


class MoreTimeTests(EntityTestCase):
    """Form 7004, and what goes to Illinois, from the same page as everybody's."""

    def lines(self, made):
        made = self.fresh(made)
        return {line.one.code: line for line in extending.lines_of(made, result_of(made))}

    def test_a_partnership_of_illinois(self):
        made = self.opened("us-1065", "partnership", PARTNERSHIP | IllinoisTests.HERE)
        lines = self.lines(made)
        self.assertEqual([(one.one.form, one.one.until.isoformat()) for one in lines.values()],
                         [("7004", "2026-09-15"), ("IL-505-B", "2026-10-15")])  # fmt: skip
        extending.ask(self.preparer, made.pk)
        extending.make_ready(self.preparer, made.pk)
        self.assertContains(self.client.get(f"/returns/{made.pk}/more-time"), "Automatic, no form needed")
        extending.send_ready(self.signer, made.pk)
        federal, state = made.extensions.order_by("pk")
        self.assertEqual((federal.state, state.state), ("queued", "unneeded"))
        document = etree.fromstring(unseal_bytes(federal.document))
        etree.XMLSchema(etree.parse(EXTENSION)).assertValid(document)
        federal.state = "sent"
        federal.save()
        extending.settle(federal.pk, Answer("accepted"))
        self.assertEqual(self.fresh(made).due.isoformat(), "2026-09-15")

    def test_a_corporation_pays_with_it_and_the_return_knows(self):
        made = self.opened("us-1120", "company", PLAIN | IllinoisTests.HERE)
        extending.ask(self.preparer, made.pk)
        for code, paid in (("us-1120", "9000"), ("us-il-1120", "4000")):
            extending.pay(self.preparer, made.pk, code, paid)
        lines = self.lines(made)
        self.assertEqual([(one.one.balance, one.one.paying) for one in lines.values()], [(10_710, 9_000), (4_845, 4_000)])
        self.assertEqual([one.one.sends for one in lines.values()], ["form", "payment"])
        extension = made.papers.get(kind="extension")
        save_field(self.preparer, made.pk, extension.pk, "paid", "yes", "")
        self.assertEqual(result_of(self.fresh(made)).run.form("us.1120").owed, 1_710)

    def test_texas_wants_a_return_of_a_partnership(self):
        made = self.opened("us-1065", "partnership", PARTNERSHIP)
        extending.ask(self.preparer, made.pk, state="TX")
        with self.assertRaisesRegex(BadValue, "no extension is needed"):
            extending.ask(self.preparer, made.pk, state="NV")
        self.assertEqual([line.one.name for line in self.lines(made).values()], ["Federal", "Texas"])
