"""The open format, the filed document, and the law files' manners."""

import json
import tempfile
from decimal import Decimal
from pathlib import Path
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as some
from lxml import etree

from taxcore.engine import Override, PaperValues, ReturnData, compute, document, law
from taxcore.engine.filed import address_at, element_path, filed_document, filed_schema
from taxcore.engine.tests.tinyland import TINYLAND

amounts = some.decimals(0, 10**9, places=2).map(lambda value: f"{value:.2f}")
baskets = some.builds(
    lambda key, berries, eaten: PaperValues(f"p{key}", "basket", {"berries": berries, "eaten": eaten, "of": "Wim"}),
    some.integers(0, 10**6), amounts, amounts,
)  # fmt: skip
returns = some.builds(
    lambda papers, amount: ReturnData("ti", 2003, tuple({p.id: p for p in papers}.values()), {"ti.harvest.5": Override(amount, "so")}),
    some.lists(baskets, max_size=5), some.decimals(0, 1000, places=2),
)  # fmt: skip


class DocumentTests(TestCase):
    @given(returns)
    @settings(max_examples=60, deadline=None)
    def test_written_and_read_it_computes_alike(self, data):
        again = document.read(json.loads(json.dumps(document.write(data))))
        one, other = compute(TINYLAND, data), compute(TINYLAND, again)
        self.assertEqual(document.write_result(one), document.write_result(other))

    REFUSED = [  # why                          document                                                      word of the message
        ("another format",                      {"format": "x"},                                              "format"),
        ("a version of the future",             {"format": "impuesto-return", "version": 9},                  "Version"),
        ("a year that is no number",            {"format": "impuesto-return", "version": 1, "year": "2001"},  "year"),
        ("papers that are no list",             {"format": "impuesto-return", "version": 1, "year": 1, "papers": {}}, "list"),
        ("a paper without an id",               {"format": "impuesto-return", "version": 1, "year": 1, "papers": [{}]}, "id"),
        ("two papers with one id",              {"format": "impuesto-return", "version": 1, "year": 1,
                                                 "papers": [{"id": "a", "kind": "b"}] * 2},                   "same id"),
        ("an override without a reason",        {"format": "impuesto-return", "version": 1, "year": 1,
                                                 "overrides": [{"address": "a", "amount": "1", "reason": " "}]}, "reason"),
    ]  # fmt: skip

    def test_what_is_no_return_is_refused_in_words(self):
        for why, given_, word in self.REFUSED:
            with self.subTest(why), self.assertRaises(document.DocumentError) as caught:
                document.read(given_)
            self.assertIn(word, caught.exception.says)

    def test_the_schema_lists_every_field_of_every_paper(self):
        schema = document.schema(TINYLAND)["properties"]["papers"]["items"]["anyOf"][0]
        self.assertEqual(
            set(schema["properties"]),
            {"id", "kind", "attached", "carried", "owner", "of", "berries", "eaten", "ripe", "tithe", "places"},
        )


class FiledDocumentTests(TestCase):
    def setUp(self):
        person = PaperValues("taxpayer", "person", {"role": "taxpayer", "first_name": "Wim"})
        places = [{"id": "1", "glade": "N", "berries": "4"}]
        paper = PaperValues("a", "basket", {"berries": "10", "ripe": "yes", "places": places})
        self.result = compute(TINYLAND, ReturnData("ti", 2003, (person, paper)))
        self.authority = TINYLAND.authorities[0]
        self.schema = etree.XMLSchema(etree.fromstring(filed_schema(TINYLAND, self.authority, 2003).encode()))

    def filed(self):
        return etree.fromstring(filed_document(self.result, self.authority, "1", "hash"))

    def test_the_document_is_valid_against_its_schema(self):
        self.assertTrue(self.schema.validate(self.filed()), self.schema.error_log)

    def test_the_schema_refuses_a_missing_line_and_a_wrong_number(self):
        for spoil in ("remove", "renumber"):
            with self.subTest(spoil):
                root = self.filed()
                element = root.find(".//{*}Harvest/{*}Left")
                if spoil == "remove":
                    element.getparent().remove(element)
                else:
                    element.set("line", "99")
                self.assertFalse(self.schema.validate(root))

    def test_a_path_in_a_rejection_leads_back_to_its_cell(self):
        for address in ("ti.basket[a].1", "ti.harvest.3"):
            with self.subTest(address):
                path = element_path(self.authority, self.result[address])
                self.assertEqual(address_at(self.result, path), address)
        self.assertIsNone(address_at(self.result, "/Return/Header"))


class LawFileTests(TestCase):
    def load(self, text):
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "2001.toml").write_text(text)
            return law.load(Path(folder), 2001)

    def test_a_number_without_a_source_is_refused(self):
        with self.assertRaisesRegex(law.LawError, r"duty\.rate = 0\.5 has no source"):
            self.load("[duty]\nrate = 0.5")

    def test_numbers_are_exact_and_know_their_source(self):
        rate = self.load('[duty]\nsource = "Act 3"\nrate = 0.1').duty.rate
        self.assertEqual((rate * 3, rate.source, rate.path), (Decimal("0.3"), "Act 3", "duty.rate"))

    def test_an_entry_that_is_not_there_is_named(self):
        with self.assertRaisesRegex(law.LawError, "duty has no entry 'height'"):
            self.load('[duty]\nsource = "Act 3"\nrate = 1').duty.height  # noqa: B018
