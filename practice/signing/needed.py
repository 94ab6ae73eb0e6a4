"""Who must sign what, and how far that has come."""

from practice.firm.refusals import Cannot
from practice.returns.computing import pack_of, result_of
from practice.returns.frozen import drawn_of
from practice.returns.gathering import RowsOf
from practice.returns.models import Stage
from practice.returns.stages import reach


class CannotSign(Cannot):
    """The signature cannot be taken; `says` tells the person why and what to do."""


def signers(return_):
    """(client, role) of everyone who must sign, the taxpayer first. CannotSign rather than leaving anybody out."""
    if pack_of(return_).filer == "entity":
        return _who_sign_for(return_.household)
    by_role = _people(return_)
    roles = drawn_of(return_.snapshot).signers if return_.snapshot_id else pack_of(return_).signers(result_of(return_).run)
    missing = [role for role in roles if role not in by_role]
    if missing:
        raise CannotSign(f"The {missing[0]} is not a client yet, so no one could sign. Add the {missing[0]} to the return.")
    return [(by_role[role], role) for role in roles]


def _people(return_):
    """{role: client} of the people on a return."""
    return {paper.values.get("role"): paper.person for paper in _PEOPLE(return_)}


_PEOPLE = RowsOf("papers", "person", kind="person", removed_at=None, person__isnull=False)


def cannot_sign(return_):
    """Ids of the signers for whom somebody else must sign: people who have died."""
    if pack_of(return_).filer == "entity":
        return set()
    roles = (
        drawn_of(return_.snapshot).represented if return_.snapshot_id else pack_of(return_).represented(result_of(return_).run)
    )
    people = _people(return_) if roles else {}
    return {people[role].pk for role in roles if role in people}


def _who_sign_for(household):
    """The persons who sign an entity's returns."""
    found = [one.person for one in household.roles.filter(signs=True, until=None).select_related("person__household")]
    if not found:
        raise CannotSign(f"Nobody signs for {household.name} yet. On the client's page, mark who does.")
    return [(person, "signer") for person in dict.fromkeys(found)]


def authorities_to_sign(return_):
    """Authorities of the locked return, in order."""
    codes = [line["code"] for line in return_.snapshot.bottom_lines] if return_.snapshot else []
    return [pack_of(return_).authority(code) for code in codes]


def missing_signatures(return_):
    """(client, role, authority) for every signature that is not there yet."""
    have = set(return_.signatures.filter(voided_at=None).values_list("client_id", "authority"))
    return [
        (client, role, authority)
        for client, role in signers(return_)
        for authority in authorities_to_sign(return_)
        if (client.pk, authority.code) not in have
    ]


def move_on(return_):
    """To the stage that the signatures allow."""
    needed, missing = len(signers(return_)) * len(authorities_to_sign(return_)), len(missing_signatures(return_))
    reach(return_, Stage.SIGN if missing else Stage.FILE, f"{needed - missing} of {needed} signed" if missing else "to send")
    return_.save()
