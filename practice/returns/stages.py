"""The six stages of a return, and the day each was reached."""

from practice.returns.models import Stage

ORDER = [stage.value for stage in Stage]


def reach(return_, stage, note=""):
    """Move to a stage, forward or back. Days of later stages are forgotten when it goes back. Does not save."""
    position = ORDER.index(stage)
    return_.stages = {name: day for name, day in return_.stages.items() if ORDER.index(name) < position}
    for name in ORDER[: position + 1]:
        return_.stages.setdefault(name, return_.firm.today().isoformat())
    return_.stage, return_.state_note = stage, note
