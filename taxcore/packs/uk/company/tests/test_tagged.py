"""Computation and accounts as inline XBRL: valid to a processor of that standard, and read back to the figures of the page."""

import html
import tempfile
from decimal import Decimal
from pathlib import Path
from unittest import TestCase

from arelle import PluginManager
from arelle.api.Session import Session
from arelle.RuntimeOptions import RuntimeOptions

from taxcore.engine import LastYear, compute, roll_forward
from taxcore.packs.uk.company import PACK, inline, tagged
from taxcore.packs.uk.company.journal import lines
from taxcore.packs.uk.company.tests.test_worked import (
    CASES,
    SAME,
    TRIAL,
    balance,
    books,
    bought,
    group,
    loan,
    losses,
    other,
    paper,
    plant,
    result,
)

_TAXONOMY = Path(__file__).resolve().parents[5] / "authority" / "taxonomy"
FULL = (TRIAL, plant(bought(4_000, claim="first"), main_before="9000", special_before="2000"), other(interest="75", rents="900"),
        losses(trade_before="1200"), loan(2_000), group([(*SAME, 700, 600)]))  # fmt: skip


def read(*documents, footnotes=False):
    """[{(concept, member): value}] of documents, what the processor found wrong with them, and {(concept, member): note}."""
    found, wrong, notes = [], [], {}
    with tempfile.TemporaryDirectory() as folder:
        schema = inline.tagging().taxonomy.schema
        (Path(folder) / schema).write_text((_TAXONOMY / schema).read_text())
        for number, content in enumerate(documents):
            path = Path(folder) / f"{number}.xhtml"
            path.write_bytes(content)
            options = RuntimeOptions(
                entrypointFile=str(path), internetConnectivity="offline", validate=True, keepOpen=True, logFile="logToBuffer",
                disablePersistentConfig=True,
            )  # fmt: skip
            with Session() as session:
                session.run(options)
                (model,) = session.get_models()
                wrong += [one for one in model.errors if one]
                found.append(
                    {
                        (one.qname.localName, _member(one)): one.xValue
                        for one in model.facts
                        if not one.contextID.startswith("before")
                    }
                )
                linked = model.relationshipSet("XBRL-footnotes")
                for one in model.facts:
                    for relation in linked.fromModelObject(one):
                        notes[one.qname.localName, _member(one)] = html.unescape(
                            relation.toModelObject.textValue
                        )  # its content is a page
            PluginManager.close()
    return (found, wrong, notes) if footnotes else (found, wrong)


def _member(fact):
    return next((str(value.memberQname.localName) for value in fact.context.qnameDims.values()), "")


class TaggedTests(TestCase):
    def test_both_documents_are_valid_and_read_back_to_the_figures(self):
        run = result(*FULL).run
        (computed, accounts), wrong = read(tagged.computation(run), tagged.accounts(run))
        self.assertEqual(wrong, [])
        lines = 0
        for section in inline.tagging().computation:
            form = run.form(section["form"])
            for name, concept in inline.concepts_of(section):
                key, _, member = (part.strip() for part in concept.partition("|"))
                with self.subTest(name):
                    self.assertEqual(computed[key, member], Decimal(getattr(form, name)))
                lines += 1
        self.assertGreater(lines, 60)
        self.assertEqual(accounts["NetAssets", ""], accounts["CapitalAndReserves", ""])
        self.assertEqual(accounts["ProfitLossForPeriod", ""], run.form("uk.accounts").profit)
        self.assertEqual((accounts["EntityName", ""], accounts["PeriodEnd", ""]), ("Larch Joinery Ltd", "2025-03-31"))

    def test_the_tax_goes_back_into_the_books(self):
        """80,500 bear 20,125 less 2,542.50 of relief: 17,582.50 are charged and owed, and next year begins with the rest of 74,500."""
        rows = TRIAL.values["rows"]
        found = result(paper("accounts", posted="yes", rows=rows))
        self.assertEqual(found.run.form("uk.ct600").chargeable, Decimal("17582.50"))
        self.assertEqual(
            [(one[1], one[2], one[3]) for one in lines(found.run)],
            [("tax", Decimal("17582.50"), None), ("creditors", None, Decimal("17582.50"))],
        )
        (accounts,), wrong = read(tagged.accounts(found.run))
        self.assertEqual(
            (wrong, accounts["NetAssets", ""], accounts["CapitalAndReserves", ""]), ([], Decimal("56917.50"), Decimal("56917.50"))
        )
        rolled = next(one for one in roll_forward(found).data.papers if one.kind == "accounts")
        self.assertEqual(Decimal(rolled.values["reserves_before"]), Decimal("56917.50"))

    def test_the_period_before_stands_beside_it(self):
        """A year with nothing but sales of 900 in the bank, less the 171 that were posted."""
        rows = balance(("Sales", "turnover", -900), ("Bank", "cash", 900)).values["rows"]
        before = LastYear(2023, (paper("accounts", rows=rows, posted="yes"),), {"uk.ct600:chargeable": Decimal(171)})
        data = result(TRIAL).run.everything.but(last_year=before)
        content = tagged.accounts(compute(PACK, data).run)
        (found,), wrong = read(content)
        self.assertEqual((wrong, found["NetAssets", ""]), ([], 74_500))
        self.assertIn(b'contextRef="before-instant" unitRef="GBP" decimals="0" format="ixt:num-dot-decimal">729<', content)
        self.assertIn(b"<xbrli:instant>2024-03-31</xbrli:instant>", content)

    def test_items_and_notes_stand_on_the_computation(self):
        """Each account that is left out and each adjustment by name; the note is a fact of its own."""
        rows = [
            {"id": "1", "what": "Late invoice", "by": "add", "amount": "700", "rule": "CTA 2009 s. 46", "note": "Dated 30 March"}
        ]
        values = dict(TRIAL.values) | {"adjustments": rows, "notes": "Drawn up on <30 May> & agreed."}
        content = tagged.computation(result(paper("accounts", **values)).run)
        for text in (
            b"Entertaining clients",
            b"1,000.00",
            b"Late invoice",
            b"CTA 2009 s. 46 \xc2\xb7 Dated 30 March",
            b"-500.00",
        ):
            self.assertIn(text, content)
        (found,), wrong = read(content)
        self.assertEqual((wrong, found["NotesToComputation", ""]), ([], "Drawn up on <30 May> & agreed."))

    def test_a_note_to_a_line_is_linked_with_its_figure(self):
        """As a footnote of the fact: a program finds the note by the figure, and a person below the line."""
        rows = [{"id": "1", "at": "uk.plant:main_written", "says": "Less is claimed than <could> be."}]
        run = result(*FULL, paper("notes", lines=rows)).run
        content = tagged.computation(run)
        self.assertIn(b"Less is claimed than &lt;could&gt; be.", content)
        (_,), wrong, notes = read(content, footnotes=True)
        self.assertEqual((wrong, notes), ([], {("WritingDownAllowance", "MainPool"): "Less is claimed than <could> be."}))

    def test_small_companies_have_a_note_of_their_fixed_assets(self):
        """50,000 and 15,000 bought less 3,000 sold; 4,000, 5,000 and 1,000 of depreciation: 54,000 are left."""
        note = [{"id": "1", "what": "Plant", "cost_before": "50000", "bought": "15000", "sold": "3000", "written_before": "4000",
                 "charged": "5000", "released": "1000"}]  # fmt: skip
        values = dict(TRIAL.values) | {
            "size": "small",
            "employees": "4",
            "policies": "Plant is written off over ten years.",
            "fixed": note,
        }
        run = result(paper("accounts", **values)).run
        content = tagged.accounts(run)
        (found,), wrong = read(content)
        self.assertEqual((wrong, found["NetBookValue", ""], found["FixedAssetsCostAtEnd", ""]), ([], 54_000, 62_000))
        self.assertEqual(
            (found["AverageNumberOfEmployees", ""], found["AccountingPolicies", ""]),
            ("4", "Plant is written off over ten years."),
        )
        self.assertIn(b"section 1A", content)
        self.assertNotIn(b"FRS 105", content)
        self.assertIn(b"54,000", content)

    def test_a_loss_has_a_sign(self):
        run = result(books(-9_000)).run
        (found,), wrong = read(tagged.computation(run))
        self.assertEqual((wrong, found["AdjustedProfitLossOfPeriod", ""], found["TradingLoss", ""]), ([], -9_000, 9_000))

    def test_every_amount_of_the_forms_is_tagged(self):
        run = result(*FULL).run
        for section in inline.tagging().computation:
            form = run.form(section["form"])
            amounts = {cell.spec.name for cell in form.lines() if cell.is_amount}
            self.assertEqual(amounts - {name for name, _ in inline.concepts_of(section)}, set())

    def test_the_schema_that_ships_is_made_from_the_present_tags(self):
        self.assertEqual((_TAXONOMY / inline.tagging().taxonomy.schema).read_text(), inline.taxonomy())

    def test_names_with_signs_of_their_own(self):
        company = result(books(9)).run.everything.papers[0]
        odd = type(company)(company.id, company.kind, dict(company.values) | {"company": 'Fell & <Beck> "Ltd"'})
        (found,), wrong = read(tagged.computation(result(odd, books(9)).run))
        self.assertEqual((wrong, found["EntityName", ""]), ([], 'Fell & <Beck> "Ltd"'))

    def test_every_worked_case_makes_a_page(self):
        import xml.etree.ElementTree as ET

        for catches, papers, options, _ in CASES:
            with self.subTest(catches):
                run = result(*papers, **options).run
                ET.fromstring(tagged.computation(run))  # noqa: S314 - our own
                ET.fromstring(tagged.accounts(run))  # noqa: S314
