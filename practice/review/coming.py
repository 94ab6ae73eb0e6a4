"""What comes next on a return: what stops filing, who is asked what, what lacks before it is locked, the next step otherwise."""

from dataclasses import dataclass

from django.urls import reverse

from practice.returns.computing import result_of
from practice.returns.models import Stage
from practice.review import gate
from taxcore.engine import STOPS

_SHOWN = 4
_AFTER = {Stage.SIGN: "Signatures", Stage.FILE: "Acknowledgments", Stage.DELIVER: "Deliver the package"}


@dataclass(frozen=True)
class Step:
    """One thing to do: a sentence, where it is done, and whether it stops filing."""

    says: str
    url: str
    stops: bool = False


def coming(return_):
    """At most a handful of steps, the heaviest first; none for a return that is done or was given up."""
    if return_.given_up_at or return_.stage == Stage.DONE:
        return []
    sign = reverse("sign", args=[return_.pk])
    if return_.stage in _AFTER:
        return [Step(f"{_AFTER[return_.stage]}: {return_.state_note}" if return_.state_note else _AFTER[return_.stage], sign)]
    result, review = result_of(return_), reverse("review", args=[return_.pk])
    stops = [one for one in result.findings if one.weight == STOPS]
    steps = [Step(one.says, f"{reverse('at', args=[return_.pk])}?at={one.at[0]}", True) for one in stops[:_SHOWN]]
    if len(stops) > _SHOWN:
        steps.append(Step(f"{len(stops) - _SHOWN} more that stop filing", review, True))
    steps += [Step(one.says, one.url) for one in gate.lacking(return_, result)]
    return steps or [Step("Nothing stops filing: lock the return and request e-signatures.", sign)]
