"""A partnership's return worked by hand from the law: page 1, Schedules K, K-1, L, M-1, M-2, rents, sales, changes in the year."""

from decimal import Decimal
from unittest import TestCase

from taxcore.packs.us.partnership.tests.making import (
    about,
    ada,
    asset,
    ben,
    books,
    entry,
    paper,
    partner,
    result,
    rows,
    shop,
)
from taxcore.packs.us.property.tests.test_worked import agree

P, K, L, M, C = "us.1065.", "us.sch-k.", "us.sch-l.", "us.sch-m-1.", "us.sch-m-2."
A, B = "us.sch-k-1[ada].", "us.sch-k-1[ben]."
LAND = ("Land", "land", 0, 50_000)
JOINS = partner("cleo", "Cleo Wren", 20, stakes=rows({"since": "2025-07-01", "profit": "20"}))


def falls(key, called, first, then, **values):
    return partner(
        key, called, first, stakes=rows({"profit": str(first)}, {"since": "2025-07-01", "profit": str(then)}), **values
    )


def plain(amount):
    """Books of a business that has only receipts, all of them in cash."""
    return books(("Checking", "cash", amount, 0), ("Sales", "sales", -amount, 0)) if amount > 0 else books(
        ("Checking", "cash", amount, 0), ("Wages", "salaries", -amount, 0))  # fmt: skip


def allocation(item, **parts):
    return paper("allocation", "s1", item=item, rows=rows(*({"partner": who, "part": part} for who, part in parts.items())))


def house(rents, **values):
    given = {"address_line": "4 Slipway", "property_kind": "1", "state": "FL", "rented_days": "365"}
    return paper("rental", "house", rents=rents, **given | values)


LET = (("Rents of Slipway", "rental_income", -24_000, 0), ("Costs of Slipway", "rental_costs", 9_000, 0))

# What it catches; papers; year; {address: amount}
CASES = (
    ("page 1 out of the books", (), 2025, {
        P + "1a": 200_000, P + "2": 60_000, P + "3": 140_000, P + "9": 40_000, P + "10": 10_000, P + "13": 12_000, P + "14": 3_000, P + "15": 1_500,
        P + "16a": 5_000, P + "21": 3_500, P + "22": 75_000, P + "23": 65_000}),
    ("purchases are what was sold and what inventory gained", (), 2025, {
        "us.1125-a.1": 5_000, "us.1125-a.2": 61_000, "us.1125-a.6": 66_000, "us.1125-a.7": 6_000, "us.1125-a.8": 60_000}),
    ("what is passed on apart", (), 2025, {
        K + "1": 65_000, K + "4a": 10_000, K + "4c": 10_000, K + "5": 200, K + "13a": 900, K + "14a": 75_000, K + "18c": 1_300, K + "19a": 30_000,
        K + "20a": 200, K + "Analysis 1": 74_300}),
    ("sixty and forty", (), 2025, {
        A + "1": 39_000, A + "4a": 10_000, A + "5": 120, A + "13A": 540, A + "14A": 49_000, A + "18C": 780, A + "19A": 20_000, A + "20Z1": 39_000,
        A + "20Z2": 24_000, B + "1": 26_000, B + "5": 80, B + "13A": 360, B + "14A": 26_000, B + "18C": 520}),
    ("capital on the tax basis", (), 2025, {
        A + "L1": 22_000, A + "L3": 37_800, A + "L5": 20_000, A + "L6": 39_800, B + "L3": 25_200, B + "L6": 30_200, C + "1": 37_000, C + "3": 63_000,
        C + "6a": 30_000, C + "9": 70_000}),
    ("the balance sheet", (), 2025, {
        L + "1-b": 25_000, L + "1-d": 55_000, L + "9b-b": 15_000, L + "9b-d": 20_000, L + "14-b": 73_000, L + "14-d": 101_000, L + "19b-d": 24_000,
        L + "21-b": 37_000, L + "21-d": 70_000, L + "22-b": 73_000, L + "22-d": 101_000}),
    ("from the books to the return", (), 2025, {
        M + "1": 63_000, M + "3": 10_000, M + "4b": 1_000, M + "4": 1_300, M + "5": 74_300, M + "8": 0, M + "9": 74_300}),
    ("liabilities of an LLC without nonrecourse debt", (), 2025, {A + "K3": 18_600, B + "K3": 12_400, A + "K1": 0}),
    ("of them nonrecourse and qualified nonrecourse", (about(nonrecourse="5000", qualified="10000"),), 2025, {
        A + "K1": 3_000, A + "K2": 6_000, A + "K3": 9_600}),
    ("a limited partner bears no recourse debt and has no self-employment income", (ada(), ben(general="no"), about(entity_kind="limited")), 2025, {
        A + "K3": 31_000, B + "K3": 0, B + "14A": 0, K + "14a": 49_000}),
    ("net income by what partners are", (ada(), ben(general="no", sort="corporation", number="00-7654321")), 2025, {
        K + "Analysis 1": 74_300, K + "Analysis 2a-ii": 48_580, K + "Analysis 2b-i": 25_720, K + "Analysis 2a-i": 0, K + "Analysis 2b-ii": 0}),
    ("but what is guaranteed for services", (ada(), ben(general="no", services=4_000), about(entity_kind="limited")), 2025, {
        B + "14A": 4_000, P + "10": 14_000, P + "23": 61_000, K + "14a": 36_600 + 10_000 + 4_000}),
    ("a corporation has none", (ada(), ben(sort="corporation", number="00-7654321")), 2025, {B + "14A": 0, B + "1": 26_000}),
    ("three thirds of a hundred: the first has the odd dollar", (
        plain(100), partner("a", "A One", "33.3333333"), partner("b", "B Two", "33.3333333"), partner("c", "C Three", "33.3333334")), 2025, {
        "us.sch-k-1[a].1": 33, "us.sch-k-1[b].1": 33, "us.sch-k-1[c].1": 34}),
    ("somebody joins on the first of July: 181 and 184 days", (
        plain(36_500), falls("ada", "Ada Heron", 60, 50), falls("ben", "Ben Teal", 40, 30), JOINS), 2025, {
        A + "1": 20_060, B + "1": 12_760, "us.sch-k-1[cleo].1": 3_680}),
    ("interest goes to one of them", (ada(), ben(), allocation("5", ada="0", ben="100")), 2025, {A + "5": 0, B + "5": 200, A + "1": 39_000}),
    ("losses by another part", (
        plain(-10_000), ada(stakes=rows({"profit": "60", "loss": "90"}), services=0), ben(stakes=rows({"profit": "40", "loss": "10"}))), 2025, {
        P + "23": -10_000, A + "1": -9_000, B + "1": -1_000}),
    ("the register's depreciation: 14.29% of 10,000", (asset(10_000),), 2025, {
        "us.4562[business].19c": 1_429, P + "16a": 1_429, P + "23": 68_571, M + "4a": 3_571, M + "9": 77_871, K + "Analysis 1": 77_871, K + "17a": 358}),
    ("section 179 is passed on", (asset(10_000, section_179=4_000),), 2025, {
        P + "16a": 857, K + "12": 4_000, A + "12": 2_400, B + "12": 1_600, M + "4a": 143, M + "9": 74_443, K + "Analysis 1": 74_443}),
    ("no more than the income of the business, without what is guaranteed", (
        plain(3_000), ada(services=0), ben(), asset(10_000, section_179=10_000)), 2025, {K + "12": 3_000, "us.section-179.13": 7_000}),
    ("rents are no income of the business", (shop(*LET), house(24_000, taxes=9_000)), 2025, {
        "us.8825-property[house].17": 15_000, "us.8825.18a": 24_000, "us.8825.18b": -9_000, K + "2": 15_000, P + "23": 65_000, A + "2": 9_000,
        A + "14A": 49_000, A + "20Z1": 39_000, K + "Analysis 1": 89_300, M + "9": 89_300}),
    ("rents that are a trade are qualified", (shop(*LET), house(24_000, taxes=9_000, is_trade="yes")), 2025, {A + "20Z1": 48_000}),
    ("land that is sold: section 1231", (
        shop(LAND, ("Gain on land", "asset_gain", -30_000, 0), ("Members' capital", "capital", -87_000, -87_000)),
        asset(50_000, "land", acquired="2015-01-05", in_service="2015-01-05", sold="2025-06-01", sold_for=80_000)), 2025, {
        "us.4797.7": 30_000, K + "10": 30_000, P + "6": 0, P + "23": 70_000, A + "10": 18_000, M + "9": 109_300, K + "Analysis 1": 109_300}),
    ("a machine that is sold is ordinary up to its depreciation", (
        asset(10_000, in_service="2022-05-10", prior=7_000, sold="2025-06-01", sold_for=6_000),), 2025, {
        "us.depreciation[a1].11": 625, "us.4797.17": 3_625, P + "6": 3_625, A + "14A": 49_000 + 2_625}),
    ("an adjusting entry moves books and return", (entry("adjusting", ("Wages", 1_000), ("Suppliers", -1_000)),), 2025, {
        P + "9": 41_000, P + "23": 64_000, M + "1": 62_000, M + "9": 73_300, L + "15-d": 8_000, L + "22-d": 101_000}),
    ("a tax entry the return alone", (entry("tax", ("Sales", -500), ("Customers", 500)),), 2025, {
        P + "1a": 200_500, P + "23": 65_500, M + "1": 63_000, M + "2": 500, M + "9": 74_800, L + "2a-d": 10_000, K + "Analysis 1": 74_800}),
    ("a deduction that is put off", (entry("tax", ("Advertising", -700), ("Checking", 700)),), 2025, {
        P + "21": 2_800, M + "4": 2_000, M + "9": 75_000, K + "Analysis 1": 75_000}),
    ("exempt interest is capital and no income", (shop(("City bonds", "exempt_interest", -400, 0)),), 2025, {
        K + "18a": 400, A + "18A": 240, M + "6a": 400, M + "9": 74_300, A + "L3": 38_040, C + "9": 70_400, L + "21-d": 70_400}),
    ("dividends, qualified ones among them", (
        shop(("Dividends of Kittiwake", "dividends", -1_000, 0)), paper("more-items", qualified_dividends=700)), 2025, {
        A + "6a": 600, A + "6b": 420, K + "20a": 1_200, K + "Analysis 1": 75_300}),
    ("capital that is contributed", (
        shop(("Capital of the year", "contributed", -5_000, 0)), ada(contributed=5_000), ben()), 2025, {
        A + "L2": 5_000, A + "L6": 44_800, C + "2a": 5_000, C + "9": 75_000, L + "21-d": 75_000}),
    ("in 2023 other deductions stood there too", (), 2023, {P + "21": 3_500, P + "23": 65_000, K + "13a": 900}),
)  # fmt: skip


class WorkedTests(TestCase):
    def test_by_hand(self):
        for catches, papers, year, wanted in CASES:
            agree(self, catches, result(*papers, year=year).run, wanted)

    def test_next_year_begins_with_what_this_one_ended_with(self):
        run = result().run
        begins = {row["account"]: Decimal(row.get("before", "0")) for row in run.form("us.sch-l").rows_next_year()}
        self.assertEqual((begins["Checking"], begins["Suppliers"], begins["Members' capital"]), (55_000, -7_000, -70_000))
        self.assertEqual((begins["Sales"], begins["Draws"]), (0, 0))

    def test_every_case_balances(self):
        for catches, papers, year, _ in CASES:
            with self.subTest(catches):
                run = result(*papers, year=year).run
                self.assertEqual((run.form("us.sch-l").difference, run.form("us.sch-l").difference_before), (0, 0))
                self.assertLessEqual(abs(run.form("us.sch-m-1").unreconciled), 1)

    def test_property_takes_its_basis_along(self):
        """A lift of 5,000 to Ada: nobody has gain, her capital and the basis of her interest fall by it. IRC 731(b), 732(a), 733."""
        from taxcore.packs.us.partnership.issuing import issues

        found = result(ada(distributed_property=5_000, distributed_as="plain"), ben())
        plain = result().run.every("us.sch-k-1")
        shares, schedule = found.run.every("us.sch-k-1"), found.run.form("us.sch-k")
        self.assertEqual((schedule.distributed_property, found.run.form("us.sch-m-2").distributed_property), (5_000, 5_000))
        self.assertEqual([then.capital - now.capital for then, now in zip(plain, shares, strict=True)], [5_000, 0])
        self.assertEqual(schedule.net, result().run.form("us.sch-k").net)
        basis = next(one for one in issues(found.run) if one.kind == "basis-p" and one.named == "Ada Heron")
        self.assertEqual((basis.values["property_distributed"], basis.values["distributed"]), ("5000", "20000"))
        self.assertEqual([one.code for one in found.findings if one.weight == "stops"], [])

    def test_issued_to_both_members(self):
        from taxcore.packs.us.partnership.issuing import issues

        first, basis, second, _ = list(issues(result().run))
        self.assertEqual(
            (first.named, first.kind, first.values["ordinary"], first.values["entity_number"]),
            ("Ada Heron", "k1-1065", "39000", "00-4455668"),
        )
        self.assertEqual(first.lines["ordinary"], "us.sch-k-1[ada].1")
        self.assertEqual((basis.kind, basis.values["distributed"], basis.values["share"]), ("basis-p", "20000", first.id))
        self.assertEqual(second.values["self_employment"], "26000")
