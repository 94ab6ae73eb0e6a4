"""Trials of a return, one after another, against computing each of them by itself."""

from unittest import TestCase, mock

from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data, filing, interest, person, w2
from taxcore.packs.us.tests.test_changes import seen
from taxcore.whatif import trials as module
from taxcore.whatif.trials import Trials


class TrialTests(TestCase):
    def setUp(self):
        self.data = data(person(), filing(), w2(120000, 20000), interest(500))
        self.result = compute(PACK, self.data)

    def test_each_is_what_it_would_be_alone_and_the_result_tried_on_is_untouched(self):
        trials, before = Trials(PACK), seen(self.result)
        for more in (interest(500, key="b"), interest(9000, key="c"), w2(1000, 5, key="d")):
            wanted = self.data.but(papers=(*self.data.papers, more))
            self.assertEqual(seen(trials.of(wanted)), seen(compute(PACK, wanted)))
        self.assertEqual(seen(self.result), before)

    def test_a_spare_result_saves_the_first_computation_too(self):
        trials = Trials(PACK, compute(PACK, self.data))
        with mock.patch.object(module, "compute", side_effect=AssertionError):
            trials.of(self.data.but(papers=(*self.data.papers, interest(9000, key="c"))))

    def test_one_that_breaks_off_is_not_asked_again(self):
        trials = Trials(PACK, self.result)
        with mock.patch.object(type(self.result), "changed", side_effect=RuntimeError), self.assertRaises(RuntimeError):
            trials.of(self.data)
        self.assertIsNone(trials.last)
        self.assertEqual(seen(trials.of(self.data)), seen(compute(PACK, self.data)))
