"""A couple's papers divided and put together again: whose is what, in what share, nothing lost, and worked by hand."""

import random
from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from taxcore.engine import Amount, BadValue, Rows, compute
from taxcore.packs.us import PACK, apart, dividing, joining
from taxcore.packs.us.dividing import ROLES, Division
from taxcore.packs.us.tests.diagnosed.making import paper, rows, single
from taxcore.packs.us.tests.returns import child, couple, data, interest, person, result, w2
from taxcore.packs.us.tests.straight.facts import Drawing
from taxcore.packs.us.tests.straight.papers import papers as papers_of

WAGES = (w2(60_000, 6_000), w2(40_000, 3_000, "w2", "spouse"))


def split(found, division):
    return {role: compute(PACK, apart.everywhere(found.run, role, division)) for role in ROLES}


def shares(**percents):
    return {mark.replace("__", "/").replace("_", "-"): Decimal(percent) for mark, percent in percents.items()}


def has(found, kind):
    return [one for one in found.run.data.papers if one.kind == kind]


# What it catches; papers; division; {line of Form 1040: (taxpayer's, spouse's)}. 2025, Illinois; standard deduction 15,750 each.
SPLITS = (
    ("wages by owner", (), Division(), {"1z": (60_000, 40_000), "15": (44_250, 24_250), "25d": (6_000, 3_000)}),
    ("interest of both halved, the odd cent to the taxpayer", (interest("101.01", owner="joint"),), Division(), {"2b": (51, 51)}),
    ("interest by the share they say", (interest(1_000, owner="joint"),),
     Division(shares=shares(**{"1099_int__i1": 80})), {"2b": (800, 200), "9": (60_800, 40_200)}),
    ("all of one account to the spouse", (interest(1_000, owner="joint"),),
     Division(shares=shares(**{"1099_int__i1": 0})), {"2b": (0, 1_000)}),
    ("the spouse's own interest", (interest(700, owner="spouse"),), Division(), {"2b": (0, 700)}),
    ("a child with the taxpayer: 2,200 less", (child(),), Division(), {"19": (2_200, 0)}),
    ("a child with the spouse; by the table 1,192.50 and 12% of 32,350, and of 12,350", (child(),), Division("spouse"),
     {"16": (5_075, 2_675), "19": (0, 2_200)}),
    ("two children, one each", (child("d1"), child("d2", number="914-33-0002")), Division(shares=shares(person__d2=0)),
     {"19": (2_200, 2_200)}),
    ("three children: one with the spouse, against the holder", tuple(child(f"d{n}", number=f"914-33-000{n}") for n in (1, 2, 3)),
     Division("spouse", shares(person__d1=100)), {"19": (2_200, 2_675)}),
    ("mortgage of both: each has 15,000 and 4,000 of property tax", (
        paper("1098", "m1", owner="joint", lender="Ferry", interest="30000"), single("itemized", property_tax="8000")),
     Division(), {"12e": (19_000, 19_000)}),
    ("who pays the mortgage has it: the other itemizes too, with less than the standard deduction", (
        paper("1098", "m1", owner="joint", lender="Ferry", interest="30000"), single("itemized", property_tax="8000")),
     Division(shares=shares(**{"1098__m1": 100, "itemized__itemized": 100})), {"12e": (38_000, 0)}),
    ("estimates as paid, half each", (single("estimates", rows=rows({"day": "2025-04-15", "amount": "3001"})),), Division(),
     {"26": (1_501, 1_501)}),
    ("estimates by agreement", (single("estimates", rows=rows({"day": "2025-04-15", "amount": "3000"})),),
     Division(shares=shares(estimates__estimates=75)), {"26": (2_250, 750)}),
    ("a loss of both: the limit is 1,500 each, IRC 1211(b)", (
        paper("1099-b", "b1", owner="joint", payer="Sandbar",
              sales=rows({"box": "A", "proceeds": "10000", "basis": "18000", "sold": "2025-05-05"})),), Division(),
     {"7a": (-1_500, -1_500), "9": (58_500, 38_500)}),
    ("a refund's account stays with the holder", (single("deposit", routing="071000013", account="12345678"),), Division("spouse"),
     {"1z": (60_000, 40_000)}),
)  # fmt: skip


class SplitsTests(TestCase):
    def test_fifteen_by_hand(self):
        for catches, papers, division, wanted in SPLITS:
            found = split(couple(*WAGES, *papers), division)
            for line, amounts in wanted.items():
                with self.subTest(catches, line=line):
                    self.assertEqual(tuple(found[role][f"us.1040.{line}"].value for role in ROLES), amounts)

    def test_what_is_about_a_child_goes_where_the_child_goes(self):
        care = paper("care", "c1", provider="Wren House", number="00-7140362", costs=rows(
            {"person": "d1", "amount": "3000"}, {"person": "d2", "amount": "2000"}))  # fmt: skip
        school = paper("1098-t", "t1", student="d2", paid="4000")
        asked = paper("diligence-child", "q1", child="d1")
        own = paper("1098-t", "t2", student="spouse", paid="900")
        found = split(
            couple(*WAGES, child("d1"), child("d2", number="914-33-0002"), care, school, asked, own),
            Division(shares=shares(person__d2=0)),
        )
        first, second = found["taxpayer"], found["spouse"]
        amounts = [[row["amount"] for row in has(one, "care")[0].values["costs"]] for one in (first, second)]
        self.assertEqual(amounts, [["3000"], ["2000"]])
        self.assertEqual([one.values["student"] for one in has(second, "1098-t")], ["d2", "taxpayer"])
        self.assertEqual((has(first, "1098-t"), len(has(first, "diligence-child")), has(second, "diligence-child")), ([], 1, []))

    def test_the_bank_account_is_whole_with_one_of_them(self):
        bank = single("deposit", routing="071000013", account="12345678")
        found = split(couple(*WAGES, bank), Division("spouse"))
        self.assertEqual((len(has(found["taxpayer"], "deposit")), len(has(found["spouse"], "deposit"))), (0, 1))

    def test_what_there_is_to_divide_and_what_it_takes(self):
        found = couple(*WAGES, child(), interest(500, owner="joint"), single("itemized", property_tax="100"))
        parts = {one.mark: one for one in dividing.parts(found.run, Division("spouse"))}
        self.assertEqual({mark: one.percent for mark, one in parts.items()},
                         {"person/d1": 0, "1099-int/i1": 50, "itemized/itemized": 50})  # fmt: skip
        self.assertEqual(dividing.read_share(parts["1099-int/i1"], " 62.5 % "), Decimal("62.5"))
        for mark, text in (("1099-int/i1", "much"), ("1099-int/i1", "101"), ("1099-int/i1", "-1"), ("person/d1", "50")):
            with self.subTest(text), self.assertRaises(BadValue):
                dividing.read_share(parts[mark], text)

    def test_what_could_not_be_divided_is_said(self):
        carried = single("capital-carryover", short_term="4000")
        found = compute(PACK, data(*couple(*WAGES, carried, single("prior-year", tax="9000")).run.data.papers))
        self.assertEqual(
            [one.partition(":")[0] for one in dividing.doubts(found.run)], ["Capital loss carryover", "Prior year return"]
        )


def normal(papers):
    """Papers as they count: amounts as numbers, answers that are empty left out."""
    return {(one.kind, one.id): plain(PACK.paper(one.kind).fields(), one.values) for one in papers}


def plain(fields, values):
    found = {}
    for name, value in values.items():
        field = fields.get(name)
        if isinstance(field, Rows):
            value = [plain(field.row.fields(), row) for row in value]
        elif isinstance(field, Amount) and value not in (None, ""):
            value = Decimal(str(value))
        if value not in (None, "", []):
            found[name] = value
    return found


class RoundTests(TestCase):
    def test_split_and_joined_again_is_the_joint_return(self):
        """Forty random couples, some of their papers of both, divided at random."""
        seen = 0
        for number in range(200):
            chance = random.Random(f"divided {number}")
            facts = Drawing(chance).facts()
            if not facts.joint:
                continue
            seen += 1
            found = compute(PACK, data(*(of_both(chance, one) for one in papers_of(facts)), year=facts.year))
            division = Division(chance.choice(ROLES))
            drawn = {one.mark: Decimal(chance.choice((0, 100) if one.whole else (0, 12, 50, 100)))
                     for one in dividing.parts(found.run, division) if chance.random() < 0.5}  # fmt: skip
            each = split(found, replace(division, shares=drawn))
            marks = [{f"{one.kind}/{one.id}" for one in of.run.data.papers} for of in each.values()]
            again = joining.joined(each["taxpayer"].run, each["spouse"].run, marks[0] & marks[1])
            self.assertEqual(normal(again.data.papers), self.wanted(found, division, drawn), number)
            self.assertEqual(again.remarks, (), number)
            if seen == 40:
                return
        self.fail("too few couples")

    @staticmethod
    def wanted(found, division, drawn):
        """The joint return's; a paper of both that one has wholly is that one's afterwards."""
        wanted = normal(found.run.data.papers)
        for mark, percent in drawn.items():
            values = wanted.get(tuple(mark.split("/")), {})
            if values.get("owner") == "joint" and percent in (0, 100):
                values["owner"] = "taxpayer" if percent else "spouse"
        return wanted

    def test_papers_of_two_strangers_come_under_ids_of_their_own(self):
        first = result(person(), w2(50_000, 5_000), child("d1"), paper("1098-t", "t1", student="d1", paid="100"))
        other = [replace(one, values=dict(one.values) | ({"number": "913-22-8046"} if one.id == "taxpayer" else {}))
                 for one in result(person(), w2(30_000), child("d1", first_name="Ivo", number="914-33-0009"),
                                   paper("1098-t", "t1", student="d1", paid="70")).run.data.papers]  # fmt: skip
        second = compute(PACK, data(*other))
        self.assertEqual(joining.why_not(first.run, second.run), "")
        made = joining.joined(first.run, second.run)
        both = compute(PACK, made.data)
        self.assertEqual((both.run.form("us.1040").status, both.run.form("us.1040").wages), ("joint", 80_000))
        self.assertEqual([one.role for one in both.run.people()], ["taxpayer", "spouse", "dependant", "dependant"])
        self.assertEqual(
            [(one.values["student"], one.values["paid"]) for one in has(both, "1098-t")], [("d1", "100"), ("d1-2", "70")]
        )
        self.assertEqual(made.ids["person", "spouse"], "taxpayer")

    def test_what_stands_only_once_and_differs_is_said(self):
        first, second = (result(w2(50_000), single("itemized", property_tax="100", sales_tax_choice=one)) for one in ("", ""))
        papers = [replace(one, values=dict(one.values) | {"street": "9 Weir"} if one.kind == "filing" else one.values)
                  for one in second.run.data.papers]  # fmt: skip
        made = joining.joined(first.run, compute(PACK, data(*papers)).run)
        self.assertEqual(made.remarks, (
            "Filing status and information, Street address: kept from the first return; the second has “9 Weir”.",))  # fmt: skip

    def test_who_cannot_be_joined(self):
        one, both = result(w2(50_000)), couple(*WAGES)
        self.assertIn("same person", joining.why_not(one.run, one.run))
        self.assertIn("one person", joining.why_not(one.run, both.run))
        self.assertIn("different years", joining.why_not(one.run, result(w2(1), year=2024).run))


def of_both(chance, one):
    """Some of the statements are in both names."""
    owned = one.kind in ("1099-int", "1099-div", "1099-b", "1098")
    return replace(one, values=dict(one.values) | {"owner": "joint"}) if owned and chance.random() < 0.6 else one
