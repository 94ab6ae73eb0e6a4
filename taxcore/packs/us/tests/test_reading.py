"""What a page says of a paper: right or nothing, for every kind of paper and the ways in which pages give their words."""

import random
from unittest import TestCase

from taxcore.engine import Amount
from taxcore.engine.reading import found_in
from taxcore.packs.us import PACK


def read(kind, *lines):
    return {one.name: one.value for one in found_in("\n".join(lines), PACK.paper(kind), 2025)}


class ReadingTests(TestCase):
    def test_boxes_and_the_senders_number(self):
        found = read("1099-int", "PAYER'S TIN 00-3090128", "1 Interest income $1,212.40", "2 Early withdrawal penalty 15.00")
        self.assertEqual(found, {"payer_number": "00-3090128", "interest": "1212.40", "early_withdrawal": "15.00"})

    def test_boxes_side_by_side_have_their_own_amounts(self):
        found = read("w2", "1 Wages, tips, other compensation 61,480.00 2 Federal income tax withheld 5,812.00")
        self.assertEqual(found, {"wages": "61480.00", "federal_withheld": "5812.00"})

    def test_an_amount_below_its_label_is_its_own_and_below_two_nobodys(self):
        self.assertEqual(read("1098", "1 Mortgage interest received from payer(s)", "$9,120.44"), {"interest": "9120.44"})
        self.assertEqual(read("w2", "3 Social security wages 4 Social security tax withheld", "61,480.00 3,811.76"), {})
        self.assertEqual(read("w2", "5 Medicare wages and tips 6 Medicare tax withheld", "61,480.00"), {})

    def test_what_could_be_two_amounts_is_none(self):
        self.assertEqual(read("1099-r", "1 Gross distribution 12,000.00", "1 Gross distribution 13,000.00"), {})
        same = read("1099-r", "1 Gross distribution 12,000.00", "1 Gross distribution 12,000.00")  # a copy of the page
        self.assertEqual(same, {"gross": "12000.00"})
        self.assertEqual(read("1099-int", "TIN 00-3090128", "or 00-3090129"), {})

    def test_empty_boxes_whole_amounts_and_other_numbers_say_nothing(self):
        for line in (
            "1 Interest income 0.00",
            "1 Interest income 212",
            "Account 1 Interest",
            "1 Interest income 1.2.3",
            "1 212.40",
        ):
            with self.subTest(line):
                self.assertEqual(read("1099-int", line), {})

    def test_of_every_kind_of_paper_what_is_said_is_right_or_nothing(self):
        chance, right = random.Random(7), 0
        for declared in PACK.papers:
            fields = {name: one for name, one in declared.fields().items() if isinstance(one, Amount) and one.number_in(2025)}
            amounts = {name: f"{chance.randint(1, 9_999_999) / 100:,.2f}" for name in fields}
            page = [f"{one.number_in(2025)} {one.label} {amounts[name]}" for name, one in fields.items()]
            for lines in (page, sorted(page), [" ".join(page[at : at + 2]) for at in range(0, len(page), 2)]):
                for name, value in read(declared.kind, *lines).items():
                    with self.subTest(declared.kind, name=name):
                        self.assertEqual(value, amounts[name].replace(",", ""))
                    right += 1
        self.assertGreater(right, 300)

    def test_any_words_are_taken_without_an_error(self):
        chance = random.Random(3)
        letters = "1 2a.$,-()\n\x00é٣Interest income 12.00 box"
        for _ in range(300):
            read("1099-int", "".join(chance.choice(letters) for _ in range(chance.randint(0, 90))))
