"""Whose papers are: the law works out many things for each person, so each paper must say to whom it belongs."""

from taxcore.engine import Mend, found, stops


@stops("us.owner-missing", "Owner not chosen", "missing")
def owner_missing(run):
    if run.form("us.1040").status != "joint":
        return
    for paper in run.all_papers():
        if paper.owned and not paper.single and paper.owner not in _allowed(paper):
            yield found(
                paper.address("owner"),
                f"{paper.title}: choose the taxpayer or the spouse: several limits apply per person.",
            )


def _allowed(paper):
    return ("taxpayer", "spouse", "joint") if paper.joint_owner else ("taxpayer", "spouse")


@stops("us.owner-not-on-return", "Belongs to a spouse who is not on the return", "conflict")
def spouse_not_here(run):
    for paper in run.all_papers():
        if paper.owned and paper.owner in ("spouse", "joint") and run.form("us.1040").status != "joint":
            yield found(
                paper.address("owner"),
                f"{paper.title} belongs to the spouse, and this is not a joint return. Change the owner or remove it.",
                mend=Mend("Give it to the taxpayer", paper.address("owner"), "taxpayer"),
            )


@stops("us.paper-twice", "More than one where one is allowed", "conflict")
def paper_twice(run):
    """Limits of one person are worked out from one paper: a second would not be read."""
    seen = {}
    for paper in run.all_papers():
        if not paper.once_each:
            continue
        mark = (paper.kind, paper.owner or "taxpayer")
        if mark in seen:
            yield found(
                (paper.address_prefix, seen[mark].address_prefix),
                f"{paper.title}: there are two of these for one person. Combine them and remove the other.",
            )
        seen.setdefault(mark, paper)


CHECKS = (owner_missing, spouse_not_here, paper_twice)
