"""Returns like one that is computed, each with something changed, at the cost of what the change moves."""

from __future__ import annotations

from taxcore.engine import Pack, Result, ReturnData, compute


class Trials:
    """Results of returns that differ, one after another from one run, so each is of use until the next is asked for.

    `spare` is a result of such a return that nobody else needs; without one the first return is computed in full. `last` is the
    result asked for last, which may serve as a spare again.
    """

    def __init__(self, pack: Pack, spare: Result | None = None):
        self.pack = pack
        self.last = spare

    def of(self, data: ReturnData) -> Result:
        taken, self.last = self.last, None  # a run that broke off in the middle must not be asked again
        self.last = (taken.changed(data) if taken is not None else None) or compute(self.pack, data)
        return self.last
