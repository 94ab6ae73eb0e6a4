"""Names as return headers take them; the client's own spelling everywhere else."""

from unittest import TestCase

from taxcore.engine.filed import filed_document
from taxcore.packs.us import FEDERAL
from taxcore.packs.us.spelling import header_address, header_name
from taxcore.packs.us.tests.returns import filing, person, result, w2


class SpellingTests(TestCase):
    NAMES = [
        ("Béland", "Beland"), ("Müller", "Muller"), ("O’Brien", "OBrien"), ("O'Brien", "OBrien"), ("Nuñez - Øst", "Nunez-Ost"),
        ("  van   der  Berg ", "van der Berg"), ("Łukasz", "Lukasz"), ("Jr.", "Jr"), ("-", ""), ("？！", ""),
    ]  # fmt: skip

    def test_names(self):
        for given, sent in self.NAMES:
            with self.subTest(given):
                self.assertEqual(header_name(given), sent)

    def test_addresses(self):
        self.assertEqual(header_address("12 Rue d’Été, #3"), "12 Rue dEte 3")

    def test_only_the_filed_document_is_written_so(self):
        found = result(person(first_name="Renée", last_name="O’Béland"), filing("single", city="Cañon"), w2(50_000))
        sent = filed_document(found, FEDERAL, "1", "0" * 64).decode()
        for wanted in ("<FirstName>Renee<", "<LastName>OBeland<", "<City>Canon<"):
            self.assertIn(wanted, sent)
        self.assertEqual(found.run.person("taxpayer").last_name, "O’Béland")
        says = [one.says for one in found.findings if one.code == "us.person.name-characters"]
        self.assertIn("“O’Béland” is sent as “OBeland” in the e-filed return. Everywhere else it stays as entered.", says)
