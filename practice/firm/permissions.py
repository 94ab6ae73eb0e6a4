"""Who may do what. Checked in services, so that no screen, command or job can go around it."""

from functools import cache

from practice.firm.compiled import Compiled
from practice.firm.models import Firm, Role, Staff
from practice.firm.scope import way_to_client

P, R, S, A = Role.PREPARER, Role.REVIEWER, Role.SIGNER, Role.ADMINISTRATOR

MAY = {
    "view": {P, R, S, A},
    "key": {P, S},
    "override": {P, S},
    "open": {P, S, A},  # a return, and what is kept of a client
    "add clients": {P, S, A},
    "restrict clients": {S, A},  # to named staff
    "merge clients": {S, A},
    "review": {R, S},
    "note": {P, R, S, A},  # margin notes and open points
    "lock": {P, S},
    "request e-signatures": {P, S, A},
    "take signatures in the office": {P, S, A},
    "ask clients": {P, S, A},  # requests, letters, what came of them
    "write to clients": {P, R, S, A},
    "bill": {P, S, A},  # invoices, hours, payments
    "file": {S, A},
    "extend": {P, S, A},  # request extensions and enter what is paid with them
    "deliver": {P, S, A},
    "reveal": {P, R, S},
    "see the log": {S, A},
    "administer": {S, A},  # what holds for the whole practice
    "silence": {R, S},  # a diagnostic on one return
    "let clients go": {S, A},
    "verify identity": {P, R, S, A},
}

WORDS = {  # what the refused page says of each
    "view": "view returns", "key": "enter amounts", "override": "override lines", "open": "add returns",
    "add clients": "add clients", "restrict clients": "restrict clients to named staff", "merge clients": "merge clients",
    "review": "review", "note": "write notes", "lock": "lock returns", "file": "file returns", "extend": "request extensions",
    "deliver": "deliver packages", "bill": "send invoices", "administer": "change practice settings",
    "ask clients": "send requests and letters", "write to clients": "write to clients",
    "reveal": "see full numbers",
    "silence": "suppress diagnostics", "let clients go": "let clients go or take them back",
}  # fmt: skip


class Refused(Exception):
    """Somebody may not do that. Becomes a 403 page and an event."""

    def __init__(self, actor, action, subject=None):
        super().__init__(f"{actor} may not {action} {subject or ''}".strip())
        self.actor, self.action, self.subject = actor, action, subject

    @property
    def says(self):
        who = " or ".join(sorted(role.label.lower() for role in MAY[self.action]))
        return f"{self.actor.get_role_display()}s cannot {WORDS.get(self.action, self.action)}. Ask a colleague: {who}."


def may(actor, action) -> bool:
    if action == "add clients" and actor.role == P and not actor.firm.preparers_add_clients:
        return False
    if action == "key" and actor.role == R and actor.firm.reviewers_correct:
        return actor.is_active
    return actor.is_active and actor.role in MAY[action]


def require(actor, action, subject=None):
    """Refused unless the actor's role allows the action and the subject belongs to the actor's firm."""
    if not may(actor, action) or (subject is not None and subject.firm_id != actor.firm_id):
        raise Refused(actor, action, subject)


class NotOfThisFirm(Exception):
    """Something was asked for that the actor's firm does not have. Becomes a 404 page and an event."""

    def __init__(self, actor, model, pk):
        super().__init__(f"{model.__name__} {pk}")
        self.actor, self.model, self.pk = actor, model, pk


def fetch(queryset, actor, **lookup):
    """One row that the actor may see, or NotOfThisFirm."""
    queryset, pk = queryset.all(), lookup.get("pk")
    if len(lookup) == 1 and type(pk) is int and abs(pk) < _LARGEST and (kind := _kind_of(queryset)):
        who = (actor.pk,) if way_to_client(queryset.model) else ()  # it is about no client: all of the firm may see it
        found = next(iter(_by_number(*kind)(actor.firm_id, pk, *who)), None)
    else:
        found = queryset.seen_by(actor).filter(**lookup).first()
    if found is None:
        raise NotOfThisFirm(actor, queryset.model, lookup)
    return found


_LARGEST = 2**63


def _kind_of(queryset):
    """All that one query by number can differ in from another: the model, what is read with it, whether it is locked. None where
    it says more than that."""
    query, beside = queryset.query, queryset._prefetch_related_lookups
    more = (query.where, query.annotations, query.extra, query.distinct, query.combinator, query.is_sliced,
            query.select_for_update_nowait, query.select_for_update_skip_locked, query.deferred_loading[0],
            query.select_related is True)  # fmt: skip
    if any(more) or not all(type(one) is str for one in beside):
        return None
    joined = query.select_related and _paths(query.select_related)
    return queryset.model, joined, query.select_for_update and query.select_for_update_of, beside


def _paths(joined, before=""):
    return tuple(path for name, more in joined.items() for path in (f"{before}{name}", *_paths(more, f"{before}{name}__")))


@cache
def _by_number(model, joined, locked, beside):
    def make(firm, pk, staff=None):
        found = model.objects.prefetch_related(*beside)
        found = found.select_related(*joined) if joined else found
        found = found.select_for_update(of=locked) if locked is not False else found
        return found.seen_by(Staff(pk=staff, firm=Firm(pk=firm))).filter(pk=pk).order_by()

    return Compiled(make)
