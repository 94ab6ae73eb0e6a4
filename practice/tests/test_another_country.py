"""The application with a made-up country: two kinds of return, of people and of an entity that issues to its members. Nothing that is
American may show."""

import io
import re
from datetime import date
from decimal import Decimal
from unittest import mock

import openpyxl
from django.test import override_settings

from practice.clients import entities, roles
from practice.clients.models import Person
from practice.delivery import packaging, tasks
from practice.demo.building import build_firm
from practice.dispatch import filing
from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.firm.models import Staff
from practice.returns import amending, computing, issuing, planning, rolling
from practice.returns.computing import data_of, result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.frozen import document_of, drawn_of
from practice.returns.models import Return, Stage
from practice.returns.opening import open_household, open_return
from practice.returns.undoing import undo_last
from practice.returns.workbook import workbook_of
from practice.signing import requesting
from practice.signing.needed import CannotSign
from practice.tests.kept import KeptTestCase
from practice.tests.office import SIGNATURE, Reader
from taxcore.engine.tests.tinyland import TINYLAND
from taxcore.engine.tests.tinyland_guild import GUILD
from taxcore.packs import KNOWN

# What no page of another country may say; the practice's own address and the words of its trade aside
AMERICAN = re.compile(
    r"\b(1040|W-2|1099|IRS|SSN|Social Security|Illinois return|[Dd]ependent|[Ss]pouse|[Ff]iling status|Due diligence|Places|"
    r"[Ff]ederal|[Ss]tate return|perjury|Treasury|EFIN|ERO|authorization)\b|\$\d"
)
PAGES = ("papers", "forms", "flow", "review", "review/since", "review/last-year", "advice", "review/print", "sign", "guide",
         "changes", "carried", "import", "lines", "return.json", "return.xlsx", "issued")  # fmt: skip


def nothing_american(test, pages):
    """Every page opens, and none says a word of the American trade."""
    for page in pages:
        answer = test.client.get(f"/{page}", follow=True)
        with test.subTest(page):
            test.assertEqual(answer.status_code, 200)
            if "html" in answer["Content-Type"]:
                text = re.sub(r"<[^>]+>", " ", answer.content.decode())
                test.assertIsNone(AMERICAN.search(text), AMERICAN.search(text))


@override_settings(PACK="ti", PACKS=["ti", "ti-guild"])
class Tinyland(KeptTestCase):
    """Ann and Bo pick berries, and hold a guild together: 60 and 40 in a hundred."""

    client_class = Reader

    def setUp(self):
        self.enterContext(mock.patch.dict(KNOWN, {"ti": lambda: TINYLAND, "ti-guild": lambda: GUILD}))
        computing.forget()
        self.firm, _ = build_firm("a password for tests")
        self.firm.lock_needs, self.firm.season = [], 2003
        self.firm.save()
        self.preparer, self.signer, self.administrator = (
            Staff.objects.filter(firm=self.firm, role=role).first() for role in ("preparer", "signer", "administrator")
        )
        self.ann, self.bo = (self.picker(*one) for one in (("Ann", "111"), ("Bo", "222")))

    def picker(self, name, number):
        household = open_household(
            self.preparer, name, [{"first_name": name, "last_name": "Hedge", "number": number, "birth_date": date(1980, 1, 2)}]
        )
        person = household.people.get()
        return open_return(self.preparer, household.pk, 2003, [(person.pk, "taxpayer")])

    def guild(self, berries="3650"):
        household = entities.add(self.preparer, name="Hedge Guild", form="partnership", number="900")
        for name, share in (("Ann Hedge", 60), ("Bo Hedge", 40)):
            roles.give(self.preparer, household.pk, name, "member", Decimal(share), signs=name == "Ann Hedge")
        return_ = open_return(self.preparer, household.pk, 2003, [])
        add_paper(self.preparer, return_.pk, "books", "", {"berries": berries})
        for name, number, part in (("Ann", "111", "60"), ("Bo", "222", "40")):
            add_paper(self.preparer, return_.pk, "member", "", {"called": name, "number": number, "part": part})
        return self.fresh(return_)

    def fresh(self, return_):
        return Return.objects.for_firm(self.firm).get(pk=return_.pk)

    def pick(self, return_, berries="300", tithe="30"):
        _, paper = add_paper(
            self.preparer, return_.pk, "basket", "taxpayer", {"of": "North hedge", "berries": berries, "tithe": tithe}
        )
        return paper

    def sign_and_file(self, return_, who):
        requesting.ask_for_signature(self.signer, return_.pk)
        from practice.clients.identity import record_identity

        person = Person.objects.for_firm(self.firm).get(first_name=who)
        record_identity(self.administrator, person.pk, "known", "", "", "")
        requesting.sign_in_office(self.administrator, return_.pk, person.pk, "ti", SIGNATURE, None, "41706")
        filing.file_return(self.signer, return_.pk)
        sent = return_.submissions.get()
        sent.state, sent.receipt = State.SENT, "H-1"
        sent.save()
        settle(sent.pk, Answer("accepted"))
        return self.fresh(return_)


class PeopleTests(Tinyland):
    def test_a_return_opens_with_what_its_pack_asks(self):
        papers = {paper.kind: paper.values for paper in self.ann.papers.all()}
        self.assertEqual(set(papers), {"person"})
        self.assertEqual(set(papers["person"]), {"role", "first_name"})
        self.assertEqual((self.ann.pack, self.ann.due), ("ti", date(2004, 5, 3)))

    def test_a_field_moves_its_lines_and_can_be_undone(self):
        """300 berries: a hundredth band free, a tenth of 100, a half of 100; what is given for jam circles."""
        paper = self.pick(self.ann)
        before = result_of(self.fresh(self.ann))["ti.harvest.4"].value
        saved = save_field(self.preparer, self.ann.pk, paper.pk, "berries", "400", "300")
        self.assertGreater(saved.after["ti.harvest.4"].value, before)
        undo_last(self.preparer, self.ann.pk)
        self.assertEqual(result_of(self.fresh(self.ann))["ti.harvest.4"].value, before)

    def test_no_page_says_what_is_american(self):
        self.pick(self.ann)
        self.client.force_login(self.signer)
        nothing_american(
            self, ("", *(f"returns/{self.ann.pk}/{name}" for name in PAGES), f"households/{self.ann.household_id}", "households/",
                   "households/new", "households/company", "dispatch", "practice/answers", "practice/diagnostics"),
        )  # fmt: skip

    def test_the_whole_way(self):
        self.pick(self.ann)
        done = self.sign_and_file(self.ann, "Ann")
        self.assertEqual(done.stage, Stage.DELIVER)
        self.assertIn(b'returnType="H"', document_of(done.snapshot, "ti"))
        self.assertEqual(drawn_of(done.snapshot).bottom_lines[0].name, "Tinyland")
        package = packaging.make_package(self.signer, done.pk)
        tasks.build(package.pk)
        package.refresh_from_db()
        self.assertEqual(package.state, "ready")
        with self.assertRaisesRegex(amending.NotAmended, "not corrected here"):
            amending.amend(self.preparer, done.pk)

    def test_planned_and_rolled_forward(self):
        self.pick(self.ann)
        plan = planning.plan(self.preparer, self.ann.pk)
        self.assertEqual(plan.pack, "ti")
        with self.assertRaises(rolling.NotRolled):  # there is no law of 2004
            rolling.roll(self.preparer, self.ann.pk)

    def test_the_workbook_and_the_document(self):
        self.pick(self.ann)
        fresh = self.fresh(self.ann)
        book = openpyxl.load_workbook(io.BytesIO(workbook_of(result_of(fresh), "Ann")))
        self.assertTrue(any("Harvest" in name for name in book.sheetnames), book.sheetnames)
        self.assertEqual(data_of(fresh).pack, "ti")


class GuildTests(Tinyland):
    def test_an_entity_files_and_who_signs_for_it_signs(self):
        guild = self.guild()
        self.assertEqual((guild.pack, Decimal(guild.summary["lines"][0]["amount"])), ("ti-guild", -365))
        done = self.sign_and_file(guild, "Ann")
        self.assertEqual(done.stage, Stage.DELIVER)

    def test_nobody_signs_who_was_not_named(self):
        guild = self.guild()
        guild.household.roles.all().update(signs=False)
        with self.assertRaisesRegex(CannotSign, "Nobody signs for Hedge Guild"):
            requesting.ask_for_signature(self.signer, guild.pk)

    def test_what_it_issues_stands_on_its_members_returns(self):
        """3,650 berries, a tenth given: 60 in a hundred are 2,190 and 219, 40 are 1,460 and 146."""
        guild = self.guild()
        self.assertEqual([(one.issued.named, one.new, one.is_open) for one in issuing.handings_of(guild)],
                         [("Ann", True, True), ("Bo", True, True)])  # fmt: skip
        self.assertEqual(issuing.hand_out(self.preparer, guild.pk), 2)
        shares = {one.of.household.name: one for one in self._shares()}
        self.assertEqual({name: (one.values["berries"], one.values["given"]) for name, one in shares.items()},
                         {"Ann": ("2190", "219"), "Bo": ("1460", "146")})  # fmt: skip
        mark = shares["Ann"].provenance["berries"]
        self.assertEqual((mark["how"], mark["return"], mark["at"]), ("issued", guild.pk, f"ti.guild-slip[{self._key(guild)}].1"))
        self.assertEqual(result_of(self.fresh(self.bo))["ti.harvest.1"].value, 1_460)
        with self.assertRaises(issuing.NotIssued):
            issuing.hand_out(self.preparer, guild.pk)

    def _shares(self):
        papers = (one.papers.filter(kind="guild-share") for one in (self.fresh(self.ann), self.fresh(self.bo)))
        return [paper for rows in papers for paper in rows.select_related("of__household")]

    def _key(self, guild):
        return next(paper.key for paper in guild.papers.filter(kind="member") if paper.values["called"] == "Ann")

    def test_what_changes_later_is_said_on_both_and_taken_over_by_somebody(self):
        guild = self.guild()
        issuing.hand_out(self.preparer, guild.pk)
        books = guild.papers.get(kind="books")
        save_field(self.preparer, guild.pk, books.pk, "berries", "7300", "3650")
        ann = self.fresh(self.ann)
        self.assertEqual(result_of(ann)["ti.harvest.1"].value, 2_190)
        (_, one), *_ = issuing.differing_on(ann)
        self.assertEqual(one.differs[0][1:], ("2,190.00", "4,380.00"))
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get(f"/returns/{ann.pk}/papers"), "on its return by now")
        self.assertContains(self.client.get(f"/returns/{guild.pk}/issued"), "2,190.00 there, 4,380.00 here")
        paper = ann.papers.get(kind="guild-share")
        page = self.client.get(f"/returns/{ann.pk}/papers/{paper.pk}")
        self.assertContains(page, f"/returns/{guild.pk}/at?at=ti.guild-slip")
        self.client.post(f"/returns/{ann.pk}/issued/take")
        self.assertEqual(result_of(self.fresh(self.ann))["ti.harvest.1"].value, 4_380)
        self.assertEqual(result_of(self.fresh(self.bo))["ti.harvest.1"].value, 1_460)
        self.assertEqual(issuing.hand_out(self.preparer, guild.pk), 1)  # to Bo
        undo_last(self.preparer, self.bo.pk)
        self.assertEqual(result_of(self.fresh(self.bo))["ti.harvest.1"].value, 1_460)

    def test_whoever_has_no_return_or_is_no_client_is_said(self):
        guild = self.guild()
        add_paper(self.preparer, guild.pk, "member", "", {"called": "Cy", "number": "333", "part": "0"})
        self.bo.given_up_at = "2004-01-01T00:00:00Z"
        self.bo.save()
        says = {one.issued.named: one.says for one in issuing.handings_of(self.fresh(guild))}
        self.assertEqual(
            says, {"Ann": "", "Bo": "There is no return of 2003.", "Cy": "No client that you see has the number of Cy."}
        )

    def test_a_signed_return_is_not_changed_unasked(self):
        guild = self.guild()
        self.pick(self.ann)
        self.sign_and_file(self.ann, "Ann")
        one = issuing.handings_of(guild)[0]
        self.assertFalse(one.is_open)
        self.assertIn("accepted", one.says)

    def test_its_pages(self):
        guild = self.guild()
        self.client.force_login(self.preparer)
        for name in PAGES:
            self.assertEqual(self.client.get(f"/returns/{guild.pk}/{name}", follow=True).status_code, 200, name)
        self.assertContains(self.client.get(f"/returns/{guild.pk}/papers"), "Owners")
        self.assertNotContains(self.client.get(f"/returns/{self.ann.pk}/papers"), "Owners")
        self.assertContains(self.client.get(f"/households/{guild.household_id}"), "Add 2001")
        marks = [one.mark for one in issuing.handings_of(guild) if one.is_open]
        self.client.post(f"/returns/{guild.pk}/issued/out", {"paper": marks})
        self.assertEqual(len(self._shares()), 2)
