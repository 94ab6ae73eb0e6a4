"""A mend before it is made: what it would change, line by line. Making it is an ordinary entered change, undone like one."""

from practice.returns.addresses import place_of
from practice.returns.computing import hushed, trials_of
from practice.returns.entry import add_paper, place_at, save_field
from taxcore.engine import ripple
from taxcore.whatif.mending import mended


def finding_at(result, code, at):
    """The finding with a mend, as it was shown; None when it is not said any more."""
    return next((one for one in result.findings if one.code == code and one.at[0] == at and one.mend), None)


def preview(return_, result, finding):
    """(lines that would move, findings that would go, findings that would come) if the mend were made."""
    with trials_of(return_) as trials:
        after = hushed(return_, trials.of(mended(result, finding.mend)))
        now, then = {_key(one): one for one in result.findings}, {_key(one): one for one in after.findings}
        gone = [one for key, one in now.items() if key not in then]
        come = [one for key, one in then.items() if key not in now]
        return ripple(result, after), gone, come


def _key(finding):
    return finding.code, finding.at[0]


def make(actor, return_, result, papers, finding):
    """Enter the value. Returns what was saved, None where the field is not there any more."""
    place = place_of(papers, result, finding.mend.address)
    if place is not None:
        paper, path, _ = place
        now = place_at(result.run.pack, paper, path).plain
        return save_field(actor, return_.pk, paper.pk, path, finding.mend.value, now)
    for declared in result.run.pack.papers:  # a paper that exists once and has nothing keyed yet
        prefix = f"{declared.jurisdiction}.{declared.kind}"
        name = (
            next((n for n in declared.fields() if result.run.single(declared.kind).address(n) == finding.mend.address), None)
            if declared.single and finding.mend.address.startswith(prefix + ".")
            else None
        )
        if name is not None:
            return add_paper(actor, return_.pk, declared.kind, "", {name: finding.mend.value})
    return None
