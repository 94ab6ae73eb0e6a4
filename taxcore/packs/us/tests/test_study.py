"""How well the diagnostics do: slips that are pointed at, and how quiet they are about returns that are right."""

from unittest import TestCase

from taxcore.engine import CHECK, STOPS, compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.study import owners, slips
from taxcore.packs.us.tests.study.families import clean, every

SLIPS = [*slips.SLIPS, *owners.SLIPS]


def new_findings(family, change):
    """What the return says with the slip and did not say before."""
    data = clean(family)
    before = {(one.code, one.at) for one in compute(PACK, data).findings}
    return [one for one in compute(PACK, change(data)).findings if (one.code, one.at) not in before]


def points_at(findings, places):
    return any(at == place or at.startswith((f"{place}.", f"{place}[")) for one in findings for at in one.at for place in places)


class StudyTests(TestCase):
    def test_nine_slips_in_ten_are_pointed_at(self):
        missed = [what for what, family, change, places in SLIPS if not points_at(new_findings(family, change), places)]
        self.assertGreaterEqual(len(SLIPS), 120)
        self.assertLessEqual(len(missed), len(SLIPS) // 10, missed)

    def test_returns_that_are_right_are_left_alone(self):
        found = {name: compute(PACK, clean(name)).findings for name in every()}
        self.assertGreaterEqual(len(found), 40)
        for name, findings in found.items():
            with self.subTest(name):
                self.assertEqual([one.says for one in findings if one.weight == STOPS], [])
        checks = sum(one.weight == CHECK for findings in found.values() for one in findings)
        self.assertLessEqual(checks / len(found), 3)
