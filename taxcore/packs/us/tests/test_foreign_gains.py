"""Form 1116 with gain and qualified dividends adjusted, worked by hand from IRC 904(b)(2)(B) for 2025.

Wages of 300,000 and 60,000 of qualified dividends, single: taxable 344,250; on 284,250 69,035, on the dividends 15%: 78,035.
"""

from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us.property.tests.test_worked import agree, paper, result, wage

F = "us.1116."


def fund(qualified=60_000, abroad=30_000, tax=4_500):
    return paper(
        "1099-div",
        "d1",
        owner="taxpayer",
        payer="Heron Growth",
        dividends=qualified,
        qualified=qualified,
        foreign_tax=tax,
        foreign_income=abroad,
    )


def asked(**values):
    return PaperValues(
        "foreign-tax", "foreign-tax", {"category": "passive", **{name: str(value) for name, value in values.items()}}
    )


CASES = (
    ("foreign dividends at 15% count by 0.4054, all of them by 0.5946 less", (wage(300_000), fund(), asked(qualified=30_000)), 2025, {
        F + "1a": 12_162, F + "3d": 30_000, F + "3e": 360_000, F + "3g": 1_312, F + "7": 10_850, F + "18": 308_574, F + "21": 2_747, F + "24": 2_747}),
    ("foreign interest besides is not adjusted", (wage(300_000), fund(abroad=40_000), asked(qualified=30_000)), 2025, {F + "1a": 22_162, F + "18": 308_574}),
    ("all wages at home, none of the dividends abroad: below the line alone", (wage(300_000), fund(abroad=25_000), asked(qualified=0)), 2025, {
        F + "1a": 25_000, F + "18": 308_574}),
    ("part at 20%: 0.5405, and 0.4595 of it off", (wage(500_000), fund(100_000, 50_000, 9_000), asked(qualified=50_000)), 2025, {
        # taxable 584,250: 49,150 up to 533,400 at 15%, 50,850 at 20%; half of each abroad
        F + "1a": 23_705, F + "18": 531_660}),
    ("what bears no tax counts nothing", (wage(30_000), fund(40_000, 25_000, 800), asked(qualified=25_000)), 2025, {
        # taxable 54,250, 14,250 of it ordinary: 34,100 at 0%, 5,900 at 15%; 25 fortieths abroad
        F + "1a": 1_495, F + "18": 16_642}),
)  # fmt: skip


class ForeignGainTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)
