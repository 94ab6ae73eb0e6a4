"""A run takes new data and looks again only at what read something of it: with Tinyland's law only."""

from decimal import Decimal
from unittest import TestCase, mock

from taxcore.engine import Override, PaperValues, ReturnData, compute, words
from taxcore.engine.forms import Line
from taxcore.engine.tests.tinyland import TINYLAND

WIM = PaperValues("taxpayer", "person", {"role": "taxpayer", "first_name": "Wim"})


def basket(key="a", **values):
    return PaperValues(key, "basket", values)


def data(*papers, people=(WIM,), year=2001, **overrides):
    made = {address: Override(Decimal(amount), "because") for address, amount in overrides.items()}
    return ReturnData("ti", year, (*people, *papers), made)


def seen(result):
    """All that a result says, as text."""
    lines = [
        (cell.address, str(cell.value), cell.how, [one.address for one in cell.sources()], words.sentences(cell))
        for cell in result.lines()
    ]
    return lines, result.all_findings, result.bottom_lines, [form.address_prefix for form in result.forms]


class ChangeTests(TestCase):
    def setUp(self):
        self.evaluated = []
        fill = Line.fill

        def noted(line, cell):
            self.evaluated.append(cell.address)
            fill(line, cell)

        patched = mock.patch.object(Line, "fill", noted)
        patched.start()
        self.addCleanup(patched.stop)

    def change(self, result, *papers, **options):
        """The result after a change, which says all that a computation in full says; what was evaluated for it."""
        wanted = data(*papers, **options)
        result.all_findings  # noqa: B018 - findings take part
        del self.evaluated[:]
        found = result.changed(wanted)
        again = list(self.evaluated)
        self.assertEqual(seen(found), seen(compute(TINYLAND, wanted)))
        return found, again

    def test_only_what_reads_the_change_is_evaluated(self):
        before = compute(TINYLAND, data(basket("a", berries="150"), basket("b", berries="20")))
        _, again = self.change(before, basket("a", berries="150", tithe="3"), basket("b", berries="20"))
        self.assertEqual(sorted(again), ["ti.harvest.5", "ti.harvest.6", "ti.harvest.7"])

    def test_equal_values_stop_the_wave(self):
        before = compute(TINYLAND, data(basket("a", berries="150.10")))
        _, again = self.change(before, basket("a", berries="150.20"))
        self.assertIn("ti.harvest.1", again)  # evaluated, and 150 as before
        self.assertNotIn("ti.harvest.3", again)
        self.assertNotIn("ti.harvest.4", again)

    def test_nothing_changed_evaluates_nothing(self):
        before = compute(TINYLAND, data(basket("a", berries="150")))
        _, again = self.change(before, basket("a", berries="150"))
        self.assertEqual(again, [])

    def test_a_value_that_does_not_fit_is_said_and_said_no_more(self):
        result = compute(TINYLAND, data(basket("a", berries="150", eaten="2")))
        result, _ = self.change(result, basket("a", berries="x", eaten="200"))
        self.assertEqual({one.code for one in result.findings}, {"ti.bad-value", "ti.eaten-more"})
        result, _ = self.change(result, basket("a", berries="150", eaten="2"))
        self.assertEqual(result.findings, ())

    def test_rows_change_come_and_go(self):
        rows = [{"id": "1", "glade": "N", "berries": "5"}, {"id": "2", "glade": "S"}]
        result = compute(TINYLAND, data(basket("a", berries="9", places=rows)))
        for other in ([rows[0], {"id": "2"}], [rows[0]], [*rows, {"id": "3", "glade": "Q"}], []):
            result, _ = self.change(result, basket("a", berries="9", places=other))

    def test_overrides_come_and_go(self):
        result = compute(TINYLAND, data(basket("a", berries="150")))
        result, again = self.change(result, basket("a", berries="150"), **{"ti.harvest.4": "9"})
        self.assertEqual(result["ti.harvest.7"].amount, 0)
        self.assertNotIn("ti.harvest.1", again)
        result, _ = self.change(result, basket("a", berries="150"))
        self.assertEqual(result["ti.harvest.4"].how, "computed")

    def test_a_loop_is_worked_out_again_as_a_whole(self):
        result = compute(TINYLAND, data(basket("a", berries="150"), year=2003))
        for berries in ("151", "400", "0", "90"):
            result, _ = self.change(result, basket("a", berries=berries), year=2003)

    def test_a_run_that_is_changed_again_and_again_does_not_grow(self):
        """It lives as long as its return is kept: what read something once and is gone must go from its books too."""
        result = compute(TINYLAND, data(basket("a", berries="150"), year=2003))
        sizes = []
        for number in range(1_200):
            result = result.changed(data(basket("a", berries=str(100 + number % 90)), year=2003))
            sizes.append(sum(len(readers) for readers in result.run.readers_of().values()) + len(result.run.in_loops))
        self.assertLess(max(sizes[600:]), 1.2 * max(sizes[:600]))
        self.assertLess(len(result.run._trail), 100)

    def test_a_form_that_is_called_for_no_more_goes(self):
        result = compute(TINYLAND, data(basket("a", berries="150"), year=2003))
        self.assertIn("ti.jam", [form.address_prefix for form in result.forms])
        result, _ = self.change(result, basket("a", berries="0"), year=2003)
        self.assertNotIn("ti.jam", [form.address_prefix for form in result.forms])

    def test_papers_come_go_and_change_places(self):
        a, b, c = basket("a", berries="150"), basket("b", berries="20"), basket("c", berries="7")
        result = compute(TINYLAND, data(a, b))
        for papers in ((a, b, c), (b, c, a), (c,), (), (a,), (PaperValues("b", "orchard", {}), a), (b, a)):
            result, _ = self.change(result, *papers)

    def test_a_paper_that_comes_evaluates_only_what_reads_its_kind(self):
        result = compute(TINYLAND, data(basket("a", berries="150")))
        _, again = self.change(result, basket("a", berries="150"), basket("b"))
        self.assertIn("ti.harvest.1", again)  # and 150 as before
        self.assertNotIn("ti.harvest.3", again)

    def test_a_paper_that_comes_back_under_its_id_is_another_one(self):
        result = compute(TINYLAND, data(basket("a", berries="150"), basket("b", berries="x")))
        result, _ = self.change(result, basket("a", berries="150"))
        self.assertEqual(result.findings, ())
        self.change(result, basket("a", berries="150"), basket("b", berries="x", eaten="200"))

    def test_people_change_roles_and_files_come_beside_a_paper(self):
        result = compute(TINYLAND, data(basket("a")))
        for role in ("spouse", "dependant", "taxpayer"):
            result, _ = self.change(result, basket("a"), people=(PaperValues("taxpayer", "person", {"role": role}),))
        result, _ = self.change(result, PaperValues("a", "basket", {}, attached=1))

    def test_another_frame_is_computed_in_full(self):
        before = compute(TINYLAND, data(basket("a", berries="150")))
        for other in (
            data(basket("a"), year=2003), data(basket("a"), basket("a")), data(basket("a")).but(answers={"ti.basket.ripe": "yes"}),
        ):  # fmt: skip
            self.assertIsNone(before.changed(other))
        self.assertEqual(seen(before), seen(compute(TINYLAND, data(basket("a", berries="150")))))
