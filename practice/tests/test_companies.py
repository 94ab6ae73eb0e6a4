"""A company's return in the application: its period, a trial balance from a file, signed by a director, filed, rolled forward."""

import io
import re
from datetime import date

import openpyxl
from django.test import override_settings
from pypdf import PdfReader

from practice.clients import entities, roles
from practice.delivery import tasks
from practice.intake import attaching, enclosing, importing
from practice.intake.confined import opened
from practice.intake.drawn import enclosed_in
from practice.intake.models import Import
from practice.intake.tasks import draw_pages
from practice.intake.tests.pages import text_pdf
from practice.returns import amending, rolling
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, save_field
from practice.returns.frozen import document_of, drawn_of
from practice.returns.models import Return, Stage
from practice.returns.undoing import undo_last
from practice.signing import requesting
from practice.tests.test_another_country import PAGES, nothing_american
from practice.tests.test_british import BritishPractice
from taxcore.engine import BadValue
from taxcore.packs.uk.company import tagged

TRIAL = b"""Nominal code,Account name,Heading,Dr,Cr
4000,Sales,Turnover,,212000.00
5000,Timber,Cost of sales,81400.00,
7000,Wages,Expenses,52300.00,
7400,Entertaining clients,Expenses,1150.00,
8000,Depreciation,Expenses,6200.00,
4900,Bank interest received,Other income,,310.00
0030,Workshop plant,Fixed assets,41000.00,
1200,Bank,Cash at bank,40260.00,
2100,Creditors,Creditors within a year,,9900.00
3000,Share capital,Share capital,,100.00
"""


@override_settings(PACK="uk", PACKS=["uk", "uk-home", "uk-ct"])
class CompanyPractice(BritishPractice):
    """Larch Joinery Ltd, of which Isla Weir is the director. Twelve months to 31 March 2025."""

    def lay_out(self):
        super().lay_out()
        self.household = entities.add(self.preparer, name="Larch Joinery Ltd", form="company", number="1234567895")
        roles.give(self.preparer, self.household.pk, "Isla Weir", "director", signs=True)

    def open(self, begins, ends):
        self.client.force_login(self.signer)
        given = {"pack": "uk-ct", "begins": begins, "ends": ends}
        return self.client.post(f"/households/{self.household.pk}/returns", given)

    def opened(self):
        self.open("1/4/2024", "31/3/2025")
        made = Return.objects.for_firm(self.firm).get(pack="uk-ct")
        company = made.papers.get(kind="person")
        save_field(self.preparer, made.pk, company.pk, "registration", "01234567", "")
        about = made.papers.filter(kind="about").first() or add_paper(self.preparer, made.pk, "about", "", {})[1]
        for name, value in (("associates", "0"), ("director", "Isla Weir"), ("close", "yes")):
            save_field(self.preparer, made.pk, about.pk, name, value, "")
        return self.now(made)

    def now(self, made):
        return Return.objects.for_firm(self.firm).get(pk=made.pk)

    def with_books(self):
        made = self.opened()
        accounts = made.papers.get(kind="accounts")
        row = importing.bring(self.preparer, made.pk, "trial.csv", TRIAL, "accounts.rows", accounts.pk)
        row = importing.read(row)
        columns = {int(at): name for at, name in row.columns["columns"].items()}
        row = importing.read(importing.choose_columns(self.preparer, made.pk, row.pk, columns, row.columns["fixed"]))
        self.assertEqual(row.errors, [])
        row.state = Import.State.TAKING
        row.save()
        importing.take_in(row)
        return self.now(made)


class CompanyTests(CompanyPractice):
    def test_a_period_of_more_than_twelve_months_is_refused_with_what_to_do(self):
        answer = self.open("1/4/2024", "30/9/2025")
        self.assertContains(answer, "A period has no more than twelve months.", status_code=422)
        self.assertContains(answer, 'value="30/9/2025"', status_code=422)
        self.assertContains(self.open("1/4/2025", "31/3/2024"), "The period ends before it begins.", status_code=422)

    def test_brought_in_again_it_shows_what_changes_and_keeps_what_was_chosen(self):
        made = self.with_books()
        accounts = made.papers.get(kind="accounts")
        chosen = next(one for one in accounts.values["rows"] if one["account"] == "Wages")["id"]
        save_field(self.preparer, made.pk, accounts.pk, f"rows.{chosen}.treatment", "disallowed", "")
        file = TRIAL.replace(b"52300.00", b"53300.00").replace(b"9900.00", b"10900.00")
        row = importing.read(importing.bring(self.preparer, made.pk, "later.csv", file, "accounts.rows", accounts.pk))
        row = importing.read(row)
        self.assertEqual(
            row.outcome["changes"], ["Wages, Debit: 52300.00, now 53300.00", "Creditors, Credit: 9900.00, now 10900.00"]
        )
        self.assertEqual((row.outcome["new"], row.outcome["there"]), (0, 8))
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get(f"/returns/{made.pk}/import/{row.pk}"), "Wages, Debit: 52300.00, now 53300.00")
        row.state = Import.State.TAKING
        row.save()
        importing.take_in(row)
        wages = next(one for one in made.papers.get(kind="accounts").values["rows"] if one["account"] == "Wages")
        self.assertEqual((wages["debit"], wages["treatment"]), ("53300.00", "disallowed"))
        undo_last(self.preparer, made.pk)
        wages = next(one for one in made.papers.get(kind="accounts").values["rows"] if one["account"] == "Wages")
        self.assertEqual(wages["debit"], "52300.00")

    def test_accounts_that_are_tagged_are_read_by_a_program(self):
        """Those that it makes itself give the same balance sheet and profit again; a page without tags is refused with its reason."""
        made = self.with_books()
        page = tagged.accounts(result_of(made).run)
        self.open("1/4/2023", "31/3/2024")
        other = Return.objects.for_firm(self.firm).get(pack="uk-ct", ends="2024-03-31")
        accounts = other.papers.get(kind="accounts")
        row = importing.read(importing.bring(self.preparer, other.pk, "last.xhtml", page, "accounts.rows", accounts.pk))
        columns = {int(at): name for at, name in row.columns["columns"].items()}
        row = importing.read(importing.choose_columns(self.preparer, other.pk, row.pk, columns, row.columns["fixed"]))
        self.assertEqual((row.errors, row.outcome["new"]), ([], 8))
        row.state = Import.State.TAKING
        row.save()
        importing.take_in(row)
        form = result_of(self.now(other)).run.form("uk.accounts")
        self.assertEqual((form.turnover, form.profit, form.difference), (212_000, 71_260, 0))
        bad = importing.read(
            importing.bring(self.preparer, other.pk, "x.xhtml", b"<html><p>Accounts</p></html>", "accounts.rows", accounts.pk)
        )
        self.assertEqual(
            (bad.state, bad.errors[0]["says"]), ("failed", "The file has no tagged amounts that this return can take.")
        )

    def test_due_twelve_months_after_its_end(self):
        made = self.opened()
        self.assertEqual((made.due, made.tax_year), (date(2026, 3, 31), "period to 31 Mar 2025"))

    def test_a_trial_balance_from_a_file_becomes_a_taxable_profit(self):
        """71,260 before tax; 1,150 and 6,200 come back, 310 of interest stand apart: 78,300 and 310."""
        made = self.with_books()
        form = result_of(made).run.form("uk.ct600")
        self.assertEqual((form.turnover, form.trading, form.interest, form.taxable), (212_000, 78_300, 310, 78_610))
        says = {one.code for one in result_of(made).findings}
        self.assertIn("uk.ct-suggested", says)
        self.assertFalse({one.code for one in result_of(made).findings if one.weight == "stops"})

    def test_no_page_says_what_is_american(self):
        made = self.with_books()
        pages = [one for one in PAGES if one != "issued"]
        nothing_american(self, (*(f"returns/{made.pk}/{name}" for name in pages), f"households/{made.household_id}"))

    def test_the_director_signs_and_it_is_filed_and_delivered(self):
        made = self.sent_and_accepted(self.with_books(), "uk-ct")
        self.assertEqual(made.stage, Stage.DELIVER)
        self.assertEqual(drawn_of(made.snapshot).bottom_line("uk-ct").due, date(2026, 1, 1))  # nine months and a day
        self.assertIn(b'returnType="CT600"', document_of(made.snapshot, "uk-ct"))
        self.assertEqual(self.packed(made), "ready")
        pages = PdfReader(io.BytesIO(tasks.read_package(made.packages.get()))).pages
        words = "".join(page.extract_text() for page in pages)
        for text in ("Corporation tax computation", "Micro-entity accounts", "Net assets"):
            self.assertIn(text, words)

    def test_amended_after_it_was_accepted(self):
        """1,000 of sales were forgotten: 26.5% of them are owed besides."""
        first = self.sent_and_accepted(self.with_books(), "uk-ct")
        again = amending.amend(self.signer, first.pk)
        self.assertEqual((again.begins, again.ends), (first.begins, first.ends))
        accounts = again.papers.get(kind="accounts")
        for name, field, was, now in (("Sales", "credit", "212000.00", "213000"), ("Bank", "debit", "40260.00", "41260")):
            row = next(one for one in accounts.values["rows"] if one["account"] == name)["id"]
            save_field(self.preparer, again.pk, accounts.pk, f"rows.{row}.{field}", now, was)
        save_field(self.preparer, again.pk, again.papers.get(kind="amendment").pk, "explanation", "Sales were forgotten.", "")
        found = result_of(self.now(again))
        self.assertEqual(found.run.form("uk.ct600").owed, 265)
        self.assertFalse([one.says for one in found.findings if one.weight == "stops"])
        self.assertEqual(self.sent_and_accepted(self.now(again), "uk-ct").stage, Stage.DELIVER)

    def test_computation_and_accounts_go_along_as_tagged_pages(self):
        made = self.with_books()
        self.client.force_login(self.signer)
        page = self.client.get(f"/returns/{made.pk}/sign/attachments")
        self.assertContains(page, "Tax computation")
        seen = self.client.get(f"/returns/{made.pk}/sign/attachments/drawn/computation")
        words = "".join(one.extract_text() for one in PdfReader(io.BytesIO(seen.content)).pages)
        for text in ("Larch Joinery Ltd", "Profits chargeable to Corporation Tax", "78,610"):
            self.assertIn(text, words)
        requesting.ask_for_signature(self.signer, made.pk)
        along = dict(enclosed_in(document_of(self.now(made).snapshot, "uk-ct")))
        self.assertEqual(sorted(along), ["Accounts", "Tax computation"])
        self.assertIn(b"ct:ProfitsChargeable", along["Tax computation"])
        self.assertIn(b"ct:NetAssets", along["Accounts"])

    def test_accounts_made_elsewhere_go_along_as_they_are(self):
        """In the place of those that would be made here, to the byte; a PDF cannot be accounts, and a tagged page nothing else."""
        made = self.with_books()
        content = tagged.accounts(result_of(made).run).replace(b"Micro-entity accounts", b"Accounts by Fell &amp; Beck")
        accounts = made.papers.get(kind="accounts")
        row = attaching.attach(self.preparer, made.pk, accounts.pk, "accounts.xhtml", content)
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.kind, row.pages), ("ready", "xbrl", 1))
        self.assertIn("Fell & Beck", PdfReader(io.BytesIO(attaching.as_pdf(row))).pages[0].extract_text())
        with self.assertRaisesMessage(BadValue, "A tagged page goes as accounts or computation."):
            enclosing.choose(self.preparer, made.pk, row.token, "other", "Accounts")
        scan = attaching.attach(self.preparer, made.pk, accounts.pk, "accounts.pdf", text_pdf("Accounts"))
        draw_pages(attachment_id=scan.pk)
        with self.assertRaisesMessage(BadValue, "It must be a page with tags"):
            enclosing.choose(self.preparer, made.pk, scan.token, "accounts", "Accounts")
        enclosing.choose(self.preparer, made.pk, row.token, "accounts", "Accounts")
        self.client.force_login(self.signer)
        self.assertContains(self.client.get(f"/returns/{made.pk}/sign/attachments"), "accounts.xhtml goes in its place")
        made = self.sent_and_accepted(self.now(made), "uk-ct")
        along = dict(enclosed_in(document_of(made.snapshot, "uk-ct")))
        self.assertEqual((sorted(along), along["Accounts"]), (["Accounts", "Tax computation"], content))
        self.assertEqual(self.packed(made), "ready")
        words = "".join(page.extract_text() for page in PdfReader(io.BytesIO(tasks.read_package(made.packages.get()))).pages)
        self.assertIn("Accounts by Fell & Beck", words)
        self.assertEqual(
            self.client.get(f"/returns/{made.pk}/attachments/{row.token}/original")["Content-Type"], "application/octet-stream"
        )

    def test_pages_that_are_no_accounts_are_refused(self):
        made = self.opened()
        accounts = made.papers.get(kind="accounts")
        with self.assertRaisesMessage(BadValue, "tagged page (iXBRL); this file is none of them"):
            attaching.attach(self.preparer, made.pk, accounts.pk, "a.xhtml", b"<html><p>Accounts</p></html>")
        space = b'xmlns:ix="http://www.xbrl.org/2013/inlineXBRL"'
        for content, says in (
            (b"<html " + space + b"><p>", "The file is no XHTML page with tags (inline XBRL)."),
            (b"<html " + space + b"><p>Accounts</p></html>", "The page has no tagged amounts."),
        ):
            row = attaching.attach(self.preparer, made.pk, accounts.pk, "a.xhtml", content)
            draw_pages(attachment_id=row.pk)
            row.refresh_from_db()
            self.assertEqual((row.state, row.says), ("refused", says))

    def test_nothing_outside_a_tagged_page_is_fetched(self):
        page = tagged.accounts(result_of(self.with_books()).run)
        asks = b'<img src="file:///etc/passwd" alt="x"/><img src="http://127.0.0.1:1/x.png" alt="y"/><link rel="stylesheet" href="file:///etc/passwd"/></body>'
        drawn = opened("paged", page.replace(b"</body>", asks), seconds=20)
        self.assertTrue(drawn.startswith(b"%PDF-"))
        self.assertNotIn("root:", "".join(one.extract_text() for one in PdfReader(io.BytesIO(drawn)).pages))

    def test_the_tax_as_a_journal_for_the_books(self):
        """78,610: 19,652.50 less 2,570.85 of relief."""
        made = self.with_books()
        self.client.force_login(self.signer)
        file = self.client.get(f"/returns/{made.pk}/sign/attachments/drawn/tax-journal?as=csv")
        text = b"".join(file.streaming_content).decode()
        self.assertIn("Corporation tax of the period,Tax on profit,17081.65,", text)
        self.assertIn("Corporation tax owed,Creditors within a year,,17081.65", text)
        book = self.client.get(f"/returns/{made.pk}/sign/attachments/drawn/tax-journal?as=xlsx")
        sheet = openpyxl.load_workbook(io.BytesIO(book.content)).active
        self.assertEqual([cell.value for cell in sheet[2]][:2], ["Corporation tax of the period", "Tax on profit"])
        self.assertContains(self.client.get(f"/returns/{made.pk}/sign"), "Tax journal for the books")

    def test_pools_stand_as_a_grid_in_which_less_can_be_claimed(self):
        """18% of 20,000 are 3,600; 1,000 are claimed instead, and 19,000 are left: the save answers with what moved in the grid."""
        made = self.with_books()
        paper = add_paper(self.preparer, made.pk, "plant", "", {"main_before": "20000.00"})[1]
        self.client.force_login(self.preparer)
        page = self.client.get(f"/returns/{made.pk}/papers/{paper.pk}").content.decode()
        for text in ("Claim less", f'id="g-{paper.pk}-main_after"', "16,400.00", f'id="f-{paper.pk}-main_claim-in"'):
            self.assertIn(text, page)
        self.assertEqual(page.count(f'id="f-{paper.pk}-main_before"'), 1)  # in the grid alone
        was = re.search(rf'id="f-{paper.pk}-main_claim-form".*?name="was" value="([^"]*)"', page, re.S)[1]
        save = f"/returns/{made.pk}/papers/{paper.pk}/field"
        answer = self.client.post(save, {"path": "main_claim", "value": "1000", "was": was}).content.decode()
        self.assertRegex(answer, rf'<td id="f-{paper.pk}-main_claim" data-field')
        self.assertRegex(answer, rf'(?s)id="g-{paper.pk}-main_after" hx-swap-oob="outerHTML">.*?19,000.00')
        self.assertNotIn(f'id="g-{paper.pk}-main_added"', answer)
        answer = self.client.post(save, {"path": "main_claim", "value": "much", "was": was})
        self.assertContains(answer, f'<td id="f-{paper.pk}-main_claim" data-field', status_code=422)

    def test_the_next_period_follows_on(self):
        made = self.with_books()
        add_paper(self.preparer, made.pk, "plant", "", {"main_before": "20000.00"})
        after = rolling.roll(self.signer, made.pk).return_
        self.assertEqual((after.begins, after.ends, after.year), (date(2025, 4, 1), date(2026, 3, 31), 2025))
        self.assertEqual(after.papers.get(kind="plant").values["main_before"], "16400")
        self.assertEqual(rolling.roll(self.signer, made.pk).says, "left: there is a return of period to 31 Mar 2026 already")
        self.client.force_login(self.signer)
        self.assertContains(self.client.get(f"/returns/{after.pk}/review/last-year"), "Trading profits")

    def test_several_periods_in_one_financial_year(self):
        self.open("1/4/2024", "30/9/2024")
        self.open("1/10/2024", "31/3/2025")
        found = Return.objects.for_firm(self.firm).filter(pack="uk-ct").order_by("ends")
        self.assertEqual([one.tax_year for one in found], ["period to 30 Sep 2024", "period to 31 Mar 2025"])
        self.assertEqual({one.year for one in found}, {2024})
