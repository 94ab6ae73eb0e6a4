"""The steps of one return, worked out from what happened in every room. Nothing here is entered but what is left out or added.

A step is done, begun ("part"), still to come ("open"), or left out. The track's next step is the first that is not done; whose
turn that is, the whole return waits for.
"""

from dataclasses import dataclass
from datetime import date
from typing import Any

from django.urls import reverse
from django.utils import timezone

from practice.fees.billing import is_settled
from practice.fees.models import Price
from practice.firm import dates
from practice.firm.compiled import Compiled
from practice.gather.lettering import standing_letters, unsigned
from practice.gather.models import Kind, LetterKind, LetterText, Reply, Turn
from practice.returns.computing import pack_of
from practice.returns.gathering import RowsOf, known
from practice.returns.models import Purpose, Stage, State
from practice.returns.stages import ORDER
from practice.review import signing_off
from practice.track.models import LeftOut, Waits

DONE, PART, OPEN, OUT = "done", "part", "open", "out"
CLIENT, OFFICE, AUTHORITY = Waits.CLIENT.value, Waits.OFFICE.value, Waits.AUTHORITY.value
COLUMNS = [stage for stage in Stage if stage != Stage.DONE]


@dataclass(frozen=True)
class Step:
    """`turn`: who must do something; `does` and `url`: the one action on it, for the office; `day`: when it was done or begun."""

    code: str
    stage: str
    name: str
    state: str = OPEN
    says: str = ""
    turn: str = OFFICE
    does: str = ""
    url: str = ""
    day: date | None = None
    who: str = ""
    own: int | None = None
    aside: bool = False  # does not keep the rest waiting


PRACTICE = {  # steps that a practice may do without
    "letter": "Engagement letter",
    "consent": "Consents",
    "documents": "Documents",
    "questions": "Questions",
    "second": "Second review",
    "look": "Client’s look",
    "fee": "Fee",
    "package": "Package",
}


_WORK = ("entered", "clean")  # these go on beside what the client still owes


def unpaid(return_):
    """Why a return waits for its fee before it is filed: the practice wants that, and this client was not excepted."""
    if not return_.firm.pay_first or return_.household.steps_left_out.filter(step="fee", ended_at=None).exists():
        return ""
    if return_.purpose != Purpose.FILING or is_settled(return_):
        return ""
    return "The fee is not paid, and the practice files only then. Record the payment, or leave the fee out for this client."


def _left_out_of(firm, household):
    return LeftOut.objects.for_firm(firm).filter(household=household, ended_at=None).select_related("by")


_LEFT_OUT = Compiled(_left_out_of)
_OWN_STEPS = RowsOf("own_steps", "by", "done_by", removed_at=None)
_ITEMS = RowsOf("items", "request", request__sent_on__isnull=False)
_TEXTS = Compiled(lambda firm: LetterText.objects.for_firm(firm).values_list("pack", "kind"))
_REQUESTS = RowsOf("signature_requests", "client", voided_at=None)
_SIGNATURES = RowsOf("signatures", voided_at=None)
_INVOICES = RowsOf("invoices", voided_at=None)
_PACKAGES = RowsOf("packages")


def steps_of(return_, result=None):
    """All steps in order, those that the practice does without aside. With a result the reviews' lapse is seen too."""
    out = {one.step: one for one in _LEFT_OUT(return_.firm_id, return_.household_id)}
    own = _OWN_STEPS(return_)
    found = [
        *_gather(return_), *_prepare(return_), *_review(return_, result), *_sign(return_), *_fee(return_), *_file(return_),
        *_deliver(return_),
    ]  # fmt: skip
    asked = [one for one in found if one.code not in return_.firm.steps_off]
    kept = [_left_out(one, out[one.code]) if one.code in out else one for one in asked]
    kept += [_own(one) for one in own]
    return sorted(kept, key=lambda one: ORDER.index(one.stage))


def next_of(steps, stage):
    """The step that comes next: of those not done, the first where the office has something new to see to, in the columns up to
    the return's stage, so that it is not kept behind what the client owes; else the first. None where all is done."""
    left = sorted((one for one in steps if one.state in (PART, OPEN)), key=lambda one: one.aside)
    for one in left:
        fresh = one.turn == OFFICE and one.state == PART and one.does and one.code not in _WORK
        if fresh and ORDER.index(one.stage) <= ORDER.index(stage):
            return one
    return left[0] if left else None


def columns(steps):
    """[(stage, its steps, how many are done, how many there are)]."""
    found = []
    for stage in COLUMNS:
        of = [one for one in steps if one.stage == stage]
        counted = [one for one in of if one.state != OUT]
        found.append((stage, of, sum(one.state == DONE for one in counted), len(counted)))
    return found


def _left_out(step, row):
    return Step(step.code, step.stage, step.name, OUT, row.why, turn="", who=row.by.name)


def _own(row):
    state = DONE if row.done_on else OPEN
    says = f"{row.done_by.initials}" if row.done_by else row.why
    return Step(f"own-{row.pk}", row.stage, row.name, state, says, day=row.done_on, who=row.by.name, own=row.pk)


def _is_past(return_, stage):
    return ORDER.index(return_.stage) > ORDER.index(stage)


def _local(moment):
    return timezone.localtime(moment).date() if moment else None


# Gather


def _gather(return_):
    if return_.purpose == Purpose.AMENDING:
        return
    url = reverse("requests", args=[return_.pk])
    past = _is_past(return_, Stage.PREPARE)
    letters = standing_letters(return_)
    kinds = {kind for pack, kind in _TEXTS(return_.firm_id) if pack == return_.pack}
    if LetterKind.ENGAGEMENT in kinds:
        yield _letter(return_, letters, url, past)
    if kinds & {LetterKind.USE, LetterKind.DISCLOSE} and (
        consents := [one for one in letters if one.kind in ("use", "disclose")]
    ):
        yield _consents(consents, url)
    sent = _ITEMS(return_)
    items = [one for one in sent if one.turn != Turn.WITHDRAWN]
    yield _asked("documents", "Documents", [one for one in items if one.kind == Kind.DOCUMENT], return_, url, sent)
    if questions := [one for one in items if one.kind != Kind.DOCUMENT]:
        yield _asked("questions", "Questions", questions, return_, url, sent)


def _letter(return_, letters, url, past):
    step = ("letter", Stage.GATHER.value, "Engagement letter")
    of = [one for one in letters if one.kind == LetterKind.ENGAGEMENT]
    if not of:
        if past:
            return Step(*step, OUT, "none was sent", turn="")
        return Step(*step, OPEN, "to be sent", OFFICE, "Send", f"{url}#letters")
    if waiting := unsigned(return_, LetterKind.ENGAGEMENT):
        sent = _local(max(one.sent_at for one in of))
        return Step(*step, PART, f"{waiting[0].first_name} has not signed", CLIENT, day=sent)
    return Step(*step, DONE, "signed", CLIENT, day=_local(max(one.signed_at or one.read_at for one in of)))


def _consents(letters, url):
    open_ones = [one for one in letters if not one.done and not one.declined_at]
    declined = any(one.declined_at for one in letters)
    says = f"{len(open_ones)} to sign" if open_ones else "declined" if declined else "signed"
    days = [_local(one.signed_at or one.declined_at or one.sent_at) for one in letters]
    return Step("consent", Stage.GATHER.value, "Consents", PART if open_ones else DONE, says, CLIENT, day=max(days))


def _asked(code, name, items, return_, url, sent):
    step = (code, Stage.GATHER.value, name)
    if not items:
        if _is_past(return_, Stage.GATHER) or sent:
            return Step(*step, OUT, "none asked for", turn="")
        return Step(*step, OPEN, "to be requested", OFFICE, "Request", url)
    new = sum(one.turn == Turn.OFFICE for one in items)
    left = sum(one.turn == Turn.CLIENT for one in items)
    came = len(items) - left - sum(one.turn == Turn.OFFICE and one.reply == Reply.BACK for one in items)
    word = "in" if code == "documents" else "answered"
    if new:
        return Step(*step, PART, f"{came} of {len(items)} {word}, {new} new", OFFICE, f"See {new} new", url)
    if left:
        asked = max(one.request.reminded_on or one.request.sent_on for one in items)
        return Step(*step, PART, f"{came} of {len(items)} {word}", CLIENT, day=asked)
    days = [_local(one.settled_at or one.replied_at) for one in items if one.settled_at or one.replied_at]
    return Step(*step, DONE, f"{len(items)} {word}", CLIENT, day=max(days, default=None))


# Prepare and review


def _day_of(return_, stage):
    day = return_.stages.get(stage)
    return date.fromisoformat(day) if day else None


def _prepare(return_):
    url, past = reverse("papers", args=[return_.pk]), _is_past(return_, Stage.PREPARE)
    begun = _day_of(return_, Stage.PREPARE)
    state = DONE if past else PART if begun or return_.version > 3 else OPEN
    says = return_.preparer.name
    yield Step("entered", Stage.PREPARE.value, "Entered", state, says, OFFICE, "Enter", url, begun, return_.preparer.name)
    stops = return_.summary.get("counts", {}).get("stops", 0)
    says = f"{stops} stop filing" if stops > 1 else "1 stops filing" if stops else ""
    state = PART if stops else DONE if past or begun else OPEN
    does, to = ("Review", reverse("review", args=[return_.pk])) if stops else ("", "")
    yield Step("clean", Stage.PREPARE.value, "Nothing stops filing", state, says, OFFICE, does, to)


def _review(return_, result):
    url, past = reverse("review", args=[return_.pk]), _is_past(return_, Stage.REVIEW)
    if result is not None:
        found = signing_off.standing(return_, result)
        rows, lapsed = list(found.holding), list(found.lapsed)
    else:
        rows, lapsed = sorted(signing_off.reviews_of(return_), key=lambda one: one.at), []
    wanted = return_.firm.lock_needs
    names = (("first", "First review"), ("second", "Second review"))
    for place, (code, name) in enumerate(names):
        if code not in wanted and len(rows) <= place:
            continue
        if len(rows) > place:
            yield Step(code, Stage.REVIEW.value, name, DONE, rows[place].by.name, day=_local(rows[place].at))
        elif lapsed:
            yield Step(code, Stage.REVIEW.value, name, PART, "lapsed: a figure moved", OFFICE, "Review", url)
        else:
            state = DONE if past and return_.snapshot_id else OPEN
            yield Step(code, Stage.REVIEW.value, name, state, "", OFFICE, "Review" if return_.stage == Stage.REVIEW else "", url)


# Sign, file, deliver


def _sign(return_):
    url, past = reverse("sign", args=[return_.pk]), _is_past(return_, Stage.SIGN)
    requests, signed = _REQUESTS(return_), _SIGNATURES(return_)
    locked = return_.snapshot_id is not None
    yield Step(
        "lock", Stage.SIGN.value, "Return locked", DONE if locked else OPEN, "", OFFICE, "Lock", url,
        _local(return_.snapshot.made_at) if locked else None,
    )  # fmt: skip
    looked = [one for one in requests if one.read_at]
    if requests or not past:
        read = bool(requests) and len(looked) == len(requests)
        says = f"{len(looked)} of {len(requests)}" if len(requests) > 1 else ""
        done = DONE if past or read or (signed and not requests) else PART if requests else OPEN
        day = _local(max((one.read_at for one in looked), default=None)) if read else None
        yield Step("look", Stage.SIGN.value, "Client’s look", done, says, CLIENT if requests else OFFICE, day=day)
    wanted = len(return_.snapshot.bottom_lines) * max(len({one.client_id for one in (*requests, *signed)}), 1) if locked else 0
    if past and locked:
        newest = max((one.signed_at for one in signed), default=None)
        yield Step("signatures", Stage.SIGN.value, "Signatures", DONE, "", CLIENT, day=_local(newest))
    elif requests or signed:
        says = f"{len(signed)} of {wanted}" if wanted else f"{len(signed)} stand"
        day = _local(max((one.asked_at for one in requests), default=None))
        yield Step("signatures", Stage.SIGN.value, "Signatures", PART, says, CLIENT if requests else OFFICE, day=day)
    else:
        yield Step("signatures", Stage.SIGN.value, "Signatures", OPEN, "", OFFICE, "Request" if locked else "", url)


def _fee(return_):
    """Nothing where the practice has no prices and never invoiced this return."""
    rows = _INVOICES(return_)
    step, url = ("fee", Stage.SIGN.value, "Fee"), reverse("invoice", args=[return_.pk])
    aside, owed = not return_.firm.pay_first, [one for one in rows if one.number and one.open > 0]
    if not rows:
        if return_.purpose == Purpose.FILING and Price.objects.for_firm(return_.firm_id).filter(ended_at=None).exists():
            if return_.stage == Stage.DONE:
                yield Step(*step, OUT, "not invoiced", turn="")
            else:
                ready = _is_past(return_, Stage.REVIEW)
                yield Step(*step, OPEN, "", OFFICE, "Invoice" if ready else "", url, aside=aside)
    elif owed:
        says = f"{sum(one.open for one in owed):,} due {min(one.due for one in owed):%b %-d}"
        yield Step(*step, PART, says, CLIENT, "Invoice", url, max(one.reminded_on or one.sent_on for one in owed), aside=aside)
    elif any(not one.number for one in rows):
        yield Step(*step, PART, "a draft", OFFICE, "Send", url, aside=aside)
    else:
        days = [pay.day for one in rows for pay in one.payments.all() if pay.back_at is None]
        yield Step(*step, DONE, "paid" if days else "no charge", CLIENT, day=max(days, default=None))


def _file(return_):
    url, pack = reverse("sign", args=[return_.pk]), pack_of(return_)
    newest = {one.authority: one for one in sorted(known(return_, "submissions"), key=lambda one: one.pk)}
    if return_.snapshot_id:
        codes = [line["code"] for line in return_.snapshot.bottom_lines]
    else:
        codes = [line["code"] for line in return_.summary.get("lines", [])] or list(newest)
    for code in codes:
        authority, one = pack.authority(code), newest.get(code)
        if authority is None:
            continue
        step = (f"file-{code}"[:24], Stage.FILE.value, authority.name)
        if one is None or one.state == State.WITHDRAWN:
            ready = return_.stage == Stage.FILE
            yield Step(*step, OPEN, "", OFFICE, "Send" if ready else "", url)
        elif one.state == State.ACCEPTED:
            yield Step(*step, DONE, "accepted", AUTHORITY, day=_local(one.answered_at))
        elif one.state == State.MAILED:
            yield Step(*step, DONE, "mailed", AUTHORITY, day=one.mailed_on)
        elif one.state == State.TO_MAIL:
            yield Step(*step, PART, "to be mailed", OFFICE, "Mail", reverse("filing", args=[return_.pk]))
        elif one.state == State.REJECTED:
            yield Step(*step, PART, "rejected", OFFICE, "Fix", url, _local(one.answered_at))
        else:
            yield Step(*step, PART, one.get_state_display(), AUTHORITY, day=_local(one.sent_at or one.made_at))


def _deliver(return_):
    url = reverse("sign", args=[return_.pk])
    package = next(iter(_PACKAGES(return_)), None)
    step = ("package", Stage.DELIVER.value, "Package")
    if package is not None and package.delivered_at:
        taken = package.downloads.order_by("-at").first()
        says = f"downloaded {dates.short_day(_local(taken.at))}" if taken else "not downloaded yet"
        yield Step(*step, DONE, says, CLIENT, day=_local(package.delivered_at))
    elif return_.stage == Stage.DONE and package is None:
        yield Step(*step, DONE, "")
    else:
        ready = return_.stage == Stage.DELIVER
        yield Step(*step, PART if package else OPEN, "", OFFICE, "Assemble" if ready and package is None else "", url)


def turn_of(steps, return_) -> tuple[str, Any]:
    """(for whom the return waits, the step)."""
    if return_.stage == Stage.DONE or return_.given_up_at or return_.household.left_on:
        return Waits.NOBODY.value, None
    step = next_of(steps, return_.stage)
    return (step.turn or OFFICE, step) if step else (Waits.NOBODY.value, None)
