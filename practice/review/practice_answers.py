"""Questions that a practice answers once for all its returns, and what its reviewers must have looked at."""

import re
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from typing import Any

from django.db import transaction

from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.packs import usual_pack
from practice.firm.permissions import require
from practice.firm.typed_values import read_typed
from practice.review import gate
from taxcore.engine import BadValue, Choice, Flag


@dataclass(frozen=True)
class Question:
    """A field that may be answered for all returns. `given` is {"value", "by", "on"} or empty; `options` what can be chosen."""

    field: str
    paper: str
    label: str
    spec: Any
    given: dict

    @property
    def options(self):
        if isinstance(self.spec, Flag):
            return {"yes": "yes", "no": "no"}
        return self.spec.options if isinstance(self.spec, Choice) else {}

    @property
    def shown(self):
        return self.options.get(self.given.get("value"), self.given.get("value", ""))


def questions(firm):
    """Every field that allows it, in the order of the papers."""
    known = usual_pack()
    return [
        Question(f"{paper.jurisdiction}.{paper.kind}.{name}", paper.name, spec.label, spec,
                 firm.answers.get(f"{paper.jurisdiction}.{paper.kind}.{name}", {}))
        for paper in known.papers
        for name, spec in paper.fields().items()
        if spec.alike
    ]  # fmt: skip


@transaction.atomic
def answer(actor, field, value):
    """Answer a question for all returns; an empty value takes the answer back. BadValue where it does not fit."""
    require(actor, "administer", actor)
    question = next((one for one in questions(actor.firm) if one.field == field), None)
    if question is None:
        raise BadValue("This cannot be answered for all returns.", field)
    plain = value.strip()
    if plain:
        plain = plain if question.options else str(read_typed(question.spec, plain)[0])
        question.spec.parse(plain)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    kept = {known: given for known, given in firm.answers.items() if known != field}
    if plain:
        kept[field] = {"value": plain, "by": actor.initials, "on": actor.firm.today().isoformat()}
    firm.answers = kept
    firm.save(update_fields=["answers"])
    record(actor, "practice's answer", firm=firm, says=f"{question.paper}, {question.label}: {plain or 'none'}")


def lines_always(firm):
    """(name, form and number, label) of the lines the firm always wants looked at."""
    known, year = usual_pack(), max(usual_pack().years) - 1
    found = []
    for name in firm.matters_lines:
        code, _, attribute = name.partition(":")
        spec = known.form(code).specs[attribute]
        found.append((name, f"{known.form(code).number} {spec.number_in(year) or ''}", spec.label))
    return found


@transaction.atomic
def set_what_matters(actor, amount, lines):
    """Amounts from so much on, and lines by form and number, one a row. BadValue names the row that is none."""
    require(actor, "administer", actor)
    try:
        least = Decimal(amount.replace(",", "").strip() or "0")
    except InvalidOperation:
        raise BadValue("Enter an amount.", amount) from None
    if not (least.is_finite() and 0 <= least < 10**9):
        raise BadValue("Enter an amount that is not negative.", amount)
    names = [_line_named(text) for text in lines.splitlines() if text.strip()]
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.matters_from, firm.matters_lines = least, list(dict.fromkeys(names))
    firm.save(update_fields=["matters_from", "matters_lines"])
    record(
        actor, "what matters to reviewers", firm=firm, says=f"from {least:,.0f}; {', '.join(names) or 'no lines of their own'}"
    )


@transaction.atomic
def set_locking(actor, needs, reviewers_correct):
    """What must be done before a return is locked (codes of gate.CONDITIONS), and whether reviewers may enter amounts."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.lock_needs = [code for code in gate.CONDITIONS if code in needs]
    firm.reviewers_correct = reviewers_correct
    firm.save(update_fields=["lock_needs", "reviewers_correct"])
    says = f"{', '.join(firm.lock_needs) or 'nothing'}; reviewers {'may' if reviewers_correct else 'may not'} enter amounts"
    record(actor, "conditions for locking", firm=firm, says=says)


@transaction.atomic
def set_taking_on(actor, preparers):
    """Whether preparers may take on clients."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.preparers_add_clients = preparers
    firm.save(update_fields=["preparers_add_clients"])
    record(actor, "who takes on clients", firm=firm, says=f"preparers {'may' if preparers else 'may not'}")


@transaction.atomic
def set_shares_follow(actor, follow):
    """Whether what a return issued follows it by itself (practice/returns/following.py)."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.shares_follow = follow
    firm.save(update_fields=["shares_follow"])
    record(actor, "issued papers", firm=firm, says="follow by themselves" if follow else "are taken over by somebody")


@transaction.atomic
def set_efile_numbers(actor, efin, pin):
    """The practice's EFIN (six digits) and its own PIN (five) as originator of electronic returns. BadValue otherwise."""
    require(actor, "administer", actor)
    efin, pin = efin.strip(), pin.strip()
    if efin and not re.fullmatch(r"[0-9]{6}", efin):
        raise BadValue(f"An {usual_pack().outgoing.filing_number} has six digits.", efin)
    if pin and not re.fullmatch(r"[0-9]{5}", pin):
        raise BadValue("The practice's PIN has five digits.", pin)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.efin, firm.originator_pin = efin, pin
    firm.save(update_fields=["efin", "originator_pin"])
    record(actor, "e-file numbers", firm=firm, says=f"EFIN {efin or 'none'}")


def _line_named(text):
    known, year = usual_pack(), max(usual_pack().years) - 1
    wanted = " ".join(text.split()).lower()
    for form in known.forms:
        for name, spec in form.specs.items():
            if wanted == f"{form.number} {spec.number_in(year)}".lower() or wanted == f"{form.code()}:{name}".lower():
                return f"{form.code()}:{name}"
    raise BadValue(f"“{text.strip()}” is not a line. Enter form and line, such as {known.example_line}.", text)
