"""Adoption, elderly or disabled, mortgage certificates, the minimum tax credit: worked by hand from the law."""

from decimal import Decimal
from unittest import TestCase

from taxcore.engine import PaperValues, compute, roll_forward
from taxcore.packs.us import PACK
from taxcore.packs.us.property.tests.test_worked import agree, paper
from taxcore.packs.us.tests import returns

D = Decimal


def wage(wages, key="w1", **values):
    return returns.w2(wages, key=key, state="TX", **values)


def result(*papers, year=2025, people=None, status="single", **answers):
    filing = returns.filing(status, residence="TX", state="TX", **answers)
    return compute(PACK, returns.data(*(people or (returns.person(),)), filing, *papers, year=year))


def adopting(key="ad1", **values):
    given = {"first_name": "Ada", "last_name": "Quist", "birth_year": "2019", "number": "914-33-0007", "number_kind": "ssn"}
    return paper("adoption", key, **given | {"final_in": "2025"} | values)


def paid_by_employer(wages, benefits):
    return wage(wages, codes=[{"id": "t", "code": "T", "amount": str(benefits)}])


def benefits(net):
    return paper("ssa-1099", "ssa", owner="taxpayer", net=net)


def certified(**values):
    given = {"rate": "20", "interest": "9000", "issuer": "Harbor Housing Agency", "number": "17", "issued": "2021-05-05"}
    return paper("mortgage-certificate", **given | values)


def car(**values):
    given = {
        "model": "2024 Tern E",
        "vin": "5YJ3E1EA7KF317000",
        "condition": "new",
        "in_service": "2024-03-03",
        "credit": "7500",
        "transferred": "no",
    }
    return paper("clean-vehicle", "cv1", **given | values)


def carried(kind, *rows):
    made = [{"id": str(n), "from_year": str(year), "amount": str(amount)} for n, (year, amount) in enumerate(rows, 1)]
    return PaperValues(kind, kind, {"rows": made})


OLD = (returns.person(born="1955-03-01"),)
COUPLE = (returns.person(born="1955-03-01"), returns.person("spouse", born="1957-03-01"))
A, C, R, M, T = "us.8839.", "us.8839-child[ad1].", "us.sch-r.", "us.8396.", "us.8801."

# What it catches; papers; options; {address: amount}
CASES = (
    # IRC 23
    ("of last year and of this one, final: 5,000 are paid out", (wage(100_000), adopting(paid=12_000, paid_before=3_000)), {}, {
        C + "2": 17_280, C + "5": 15_000, C + "6": 15_000, A + "12": 15_000, A + "13": 5_000, A + "18": 10_000, "us.sch-3.6c": 10_000, "us.1040.30": 5_000}),
    ("not final yet: last year's now, this year's next year", (wage(100_000), adopting(paid=4_000, paid_before=6_000, final_in="")), {}, {C + "5": 6_000}),
    ("a child from abroad: nothing before it is final", (wage(100_000), adopting(paid=4_000, paid_before=6_000, foreign="yes", final_in="")), {}, {C + "5": 0}),
    ("and then all of it", (wage(100_000), adopting(paid=4_000, paid_before=6_000, paid_earlier=2_000, foreign="yes")), {}, {C + "5": 12_000}),
    ("final years ago: this year's costs", (wage(100_000), adopting(paid=1_000, paid_before=600, final_in="2023")), {}, {C + "5": 1_000}),
    ("special needs: the most, whatever it cost", (wage(100_000), adopting(special_needs="yes")), {}, {C + "6": 17_280}),
    ("what earlier years gave counts", (wage(100_000), adopting(paid=12_000, credited_before=10_000)), {}, {C + "4": 7_280, C + "6": 7_280}),
    ("income halfway through the range", (wage(279_190), adopting(paid=10_000)), {}, {A + "9": 20_000, A + "10": D("0.5"), A + "12": 5_000}),
    ("above it", (wage(299_190), adopting(paid=10_000)), {}, {A + "12": 0}),
    ("in 2024 nothing is paid out, the rest waits", (wage(30_000), adopting(paid=5_000, final_in="2024")), {"year": 2024}, {
        A + "12": 5_000, A + "15": 1_619, A + "16": 1_619, "us.sch-3.6c": 1_619}),
    ("with what waited", (wage(100_000), adopting(paid=2_000), carried("adoption-carried", (2023, 1_500))), {}, {
        A + "13": 2_000, A + "15": 1_500, A + "18": 1_500, "us.1040.30": 2_000}),
    ("an employer's benefits are no income", (paid_by_employer(60_000, 8_000), adopting()), {}, {A + "30": 8_000, A + "31": 0, "us.1040.1f": 0}),
    ("up to the most", (paid_by_employer(60_000, 20_000), adopting()), {}, {A + "30": 17_280, "us.1040.1f": 2_720, "us.1040.1z": 62_720}),
    ("less by income, the benefits in it", (paid_by_employer(271_190, 8_000), adopting()), {}, {A + "30": 4_000, "us.1040.1f": 4_000}),
    ("apart from a spouse there is none", (wage(100_000), adopting(paid=9_000)), {"status": "separate", "people": (returns.person(), returns.person("spouse")), "spouse_itemises": "no"}, {
        A + "12": 0}),
    # IRC 22
    ("65 and little income: 15% of 5,000", (wage(20_000, withheld=0),), {"people": OLD}, {
        R + "10": 5_000, R + "16": 12_500, R + "17": 6_250, R + "19": 0, R + "22": 0}),
    ("half of what is above 7,500", (wage(15_000),), {"people": OLD, "year": 2024}, {R + "17": 3_750, R + "19": 1_250, R + "20": 188, R + "22": 0}),
    ("a couple: 7,500, above 10,000", (wage(16_000), paper("1099-r", "r", owner="taxpayer", payer="Tern", gross="24000", taxable="20000", code="7", ira="no")), {
        "people": COUPLE, "status": "joint"}, {R + "10": 7_500, R + "13b": 4_000, R + "17": 13_000, R + "19": 0}),
    ("disabled at 50: no more than the disability income", (wage(9_000), paper("disability", "dis", owner="taxpayer", disabled="yes", income="3000")), {}, {
        R + "10": 5_000, R + "11": 3_000, R + "12": 3_000, R + "17": 750, R + "19": 2_250, R + "20": 338}),
    ("one of them 65, the other disabled: 5,000 and the disability income", (
        wage(11_000), paper("disability", "dis", owner="spouse", disabled="yes", income="1500")), {
        "people": (returns.person(born="1955-03-01"), returns.person("spouse")), "status": "joint"}, {R + "10": 7_500, R + "11": 6_500, R + "12": 6_500}),
    ("untaxed benefits take it", (wage(9_000), benefits(12_000)), {"people": OLD}, {R + "13a": 12_000, R + "19": 0}),
    # IRC 25
    ("a fifth of the interest; the rest of it is a deduction", (wage(100_000), certified(),
        paper("1098", "m", lender="Harbor Bank", interest="9000", principal="150000")), {}, {
        M + "3": 1_800, M + "7": 1_800, M + "9": 1_800, "us.sch-3.6g": 1_800, "us.sch-a.8a": 7_200}),
    ("no more than 2,000 at a higher rate", (wage(100_000), certified(rate="30")), {}, {M + "3": 2_000}),
    ("nor than the tax: the rest waits three years", (wage(20_000), certified(rate="20", interest="9000"), carried("mortgage-carried", (2022, 100), (2021, 70))), {}, {
        M + "7": 1_900, M + "8": 428, M + "9": 428}),
    # IRC 25E, 30D
    ("a new clean vehicle", (wage(100_000), car()), {"year": 2024}, {"us.sch-3.6f": 7_500}),
    ("up to the tax; the rest is lost", (wage(30_000), car()), {"year": 2024}, {"us.sch-3.6f": 1_619}),
    ("the income of last year is enough", (wage(160_000), car(), paper("prior-year", adjusted_gross_income="140000", tax="1", itemised="no")), {"year": 2024}, {"us.sch-3.6f": 7_500}),
    ("not where both are above", (wage(160_000), car(), paper("prior-year", adjusted_gross_income="150001", tax="1", itemised="no")), {"year": 2024}, {"us.sch-3.6f": 0}),
    ("a used one: 30%, at most 4,000", (wage(70_000), car(condition="used", price=12_000, credit="")), {"year": 2024}, {"us.sch-3.6m": 3_600}),
    ("and at most 4,000", (wage(70_000), car(condition="used", price=20_000, credit="")), {"year": 2024}, {"us.sch-3.6m": 4_000}),
    ("none above 25,000", (wage(70_000), car(condition="used", price=25_001, credit="")), {"year": 2024}, {"us.sch-3.6m": 0}),
    ("transferred to the dealer: nothing here", (wage(100_000), car(transferred="yes")), {"year": 2024}, {"us.sch-3.6f": 0, "us.sch-2.1b": 0}),
    ("but repaid where income is above the limit", (wage(160_000), car(transferred="yes")), {"year": 2024}, {"us.sch-2.1b": 7_500, "us.sch-2.3": 7_500}),
    ("acquired after September 2025 there is none", (wage(100_000), car(in_service="2025-10-05")), {}, {"us.sch-3.6f": 0}),
    ("under a contract of before there is", (wage(100_000), car(in_service="2025-10-05", acquired="2025-09-30")), {}, {"us.sch-3.6f": 7_500}),
    # IRC 53
    ("up to what the tax is above the tentative minimum", (wage(100_000), paper("credits-carried", minimum_tax="50000")), {}, {
        T + "21": 50_000, T + "22": 13_455, T + "23": 3_094, T + "25": 13_455 - 3_094, "us.sch-3.6b": 13_455 - 3_094}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, options, wanted in CASES:
            agree(self, catches, result(*papers, **options).run, wanted)

    def next_year(self, *papers, **options):
        rolled = roll_forward(result(*papers, **options)).data.papers
        return {one.kind: one.values for one in rolled}

    def test_what_waits(self):
        later = self.next_year(wage(100_000), adopting(paid=4_000, paid_before=6_000, final_in=""))
        self.assertEqual((later["adoption"]["paid_before"], later["adoption"]["credited_before"]), ("4000", "6000"))
        abroad = self.next_year(wage(100_000), adopting(paid=4_000, paid_before=6_000, foreign="yes", final_in=""))["adoption"]
        self.assertEqual((abroad["paid_before"], abroad["paid_earlier"]), ("4000", "6000"))
        rows = self.next_year(wage(30_000), adopting(paid=5_000, final_in="2024"), year=2024)["adoption-carried"]["rows"]
        self.assertEqual([(row["from_year"], row["amount"]) for row in rows], [("2024", "3381")])
        rows = self.next_year(wage(20_000), certified(), carried("mortgage-carried", (2022, 100), (2023, 70)))[
            "mortgage-carried"
        ]["rows"]
        self.assertEqual([(row["from_year"], row["amount"]) for row in rows], [("2023", "70"), ("2025", "1372")])
        self.assertEqual(
            self.next_year(wage(100_000), paper("credits-carried", minimum_tax="50000"))["credits-carried"]["minimum_tax"],
            "39639",
        )
