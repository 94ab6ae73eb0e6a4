"""Each diagnostic: a return it speaks about, and the same return fixed, about which it is silent."""

from unittest import TestCase

from taxcore.engine import KINDS, PaperValues, Refer, compute
from taxcore.engine.checks import diagnostics_of, findings_of
from taxcore.engine.pack import _needed, missing
from taxcore.packs import KNOWN, pack_named
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.diagnosed import CASES
from taxcore.packs.us.tests.returns import codes, person, result, w2
from taxcore.whatif.mending import mended


def heard(result, code):
    """What is said under one code: the checks that cannot say it are not asked, which takes as long as all the rest."""
    checks = [check for check in PACK.checks if code in diagnostics_of(check)]
    found = [one for check in checks for one in findings_of(check, result.run)] if checks else result.findings
    return [one for one in found if one.code == code]


class DiagnosticTests(TestCase):
    def test_speaks_when_it_should_and_is_silent_when_mended(self):
        """And points at a place that exists, says what to do, and offers nothing that would not settle it."""
        tried = 0
        for code, spoken, silent in CASES:
            with self.subTest(code):
                found = spoken()
                said = [finding for finding in found.findings if finding.code == code]
                self.assertNotEqual(said, [])
                self.assertCountEqual(heard(found, code), said)
                self.assertEqual(heard(silent(), code), [])
                for finding in said:
                    self.assertGreater(len(finding.says), 30)
                    self.assertTrue(any(self.exists(found, place) for place in finding.at), finding.at)
                for finding in filter(lambda one: one.mend, said):
                    tried += 1
                    after = compute(PACK, mended(found, finding.mend))
                    self.assertNotIn(finding.at[0], [one.at[0] for one in heard(after, code)])
        self.assertGreater(tried, 25)

    def exists(self, found, place):
        """A figure, a paper or form, or the kind of paper that is to be added."""
        nodes = [*found.run.people(), *found.run.all_papers(), *found.run._forms.values()]
        kind = place.partition(".")[2]
        return (
            place in found.cells or PACK.paper(kind) is not None or any(place.startswith(node.address_prefix) for node in nodes)
        )

    def test_no_diagnostic_is_without_a_case(self):
        of_fields = {one.code for paper in (PACK.people, *PACK.papers) for one in _needed(paper)}
        # engine/tests has them; test_rolling what was not confirmed
        of_the_engine = {PACK.unknown_paper.code, PACK.bad_value.code, PACK.unsettled.code, PACK.unconfirmed.code,
                         PACK.unconfirmed_stops.code}  # fmt: skip
        self.assertEqual(set(PACK.diagnostics) - of_fields - of_the_engine - {code for code, _, _ in CASES}, set())

    def test_no_case_is_without_a_diagnostic(self):
        self.assertEqual({code for code, _, _ in CASES} - set(PACK.diagnostics), set())

    def test_there_are_diagnostics_of_every_weight_and_kind(self):
        known = PACK.diagnostics.values()
        self.assertGreaterEqual(len({code for code, _, _ in CASES}), 250)
        self.assertEqual({one.weight for one in known}, {"stops", "check", "idea"})
        self.assertEqual({one.kind for one in known}, set(KINDS))

    def test_a_clean_return_has_nothing_to_stop_it(self):
        questions = PaperValues("il-questions", "il-questions", {"use_tax": "0"})
        found = result(person(occupation="Miller"), w2(61_480, 5_212, state_withheld=3_000), questions)
        self.assertEqual([one.code for one in found.findings if one.weight != "idea"], [])

    def test_an_empty_field_that_filing_needs_stops_it(self):
        """Every such field of every paper, alone on an otherwise empty paper; entered, it is silent."""
        for paper in PACK.papers:
            for name, field in paper.fields().items():
                if not field.needed or field.only or paper.since or field.computed_by or isinstance(field, Refer):
                    continue
                with self.subTest(f"{paper.kind}.{name}"):
                    key = paper.kind if paper.single else "x9"
                    found = result(PaperValues(key, paper.kind, {}))
                    self.assertIn(missing(paper, field).code, codes(found))

    def test_a_mend_names_a_place_and_a_value_that_fits_it(self):
        finding = next(f for f in result(w2(1, owner="spouse")).findings if f.mend)
        self.assertEqual((finding.mend.address, finding.mend.value), ("us.w2[w1].owner", "taxpayer"))


class DeclarationTests(TestCase):
    def test_addresses_are_unique_within_a_form(self):
        for pack in map(pack_named, KNOWN):
            for year in pack.years:
                for node in (*pack.forms, *pack.papers, pack.people):
                    places_ = [spec.place(year) for spec in node.specs.values()]
                    self.assertEqual(len(places_), len(set(places_)), (pack.code, node.__name__))

    def test_kinds_of_papers_are_short_enough_to_be_kept(self):
        self.assertEqual([paper.kind for paper in PACK.papers if len(paper.kind) > 20], [])

    def test_every_form_cites_its_law(self):
        for form in PACK.forms:
            self.assertRegex(form.__doc__ or "", r"IRC|ILCS|USC|P\.S\.|IC \d|Code|Wis\. Stat|RSMo|R&TC|O\.C\.G\.A", form.__name__)
