"""More time to file: what each authority asks for, federal and states in one list.

The rules are in extension.toml, here and in each state's folder.

Whose return is on the list: the federal one, the states that the facts or a preparer call for, and those that are asked for more
time before anything of theirs is entered.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any
from xml.etree import ElementTree as ET

from taxcore.engine import ZERO
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.entity.checks import NO_RETURN_OF_CORPORATIONS, NO_RETURN_OF_OWNERS
from taxcore.packs.us.spelling import header_name
from taxcore.packs.us.states import all_states

_RULE = "extension.toml"
FEDERAL = "us"
NAMESPACE = "urn:impuesto:extension"

# What goes to the authority
NOTHING, FORM, PAYMENT = "nothing", "form", "payment"


@dataclass(frozen=True)
class MoreTime:
    """One authority's extension. `asked`: a preparer wants it. `sends` is nothing, form or payment; `form` which one.

    `warns` is what a preparer should know first. Amounts are whole dollars; `at` is where they come from.
    """

    code: str
    name: str
    rule: str
    says: str
    sends: str
    form: str
    due: date
    until: date | None
    asked: bool
    made: bool
    expected: Decimal
    paid: Decimal
    balance: Decimal
    paying: Decimal
    at: str
    warns: str = ""
    source: str = ""


@cache
def rules() -> dict[str, Any]:
    """The rules by authority, as the files have them."""
    here = Path(__file__).parent
    folders = {FEDERAL: here} | {state.jurisdiction: state.law.parent for state in all_states()}
    of_people = {code: tomllib.loads((folder / _RULE).read_text()) for code, folder in folders.items()}
    return of_people | tomllib.loads((here / "entity" / _RULE).read_text())


def is_of_entity(run: Any) -> bool:
    return bool(run.pack.filer == "entity")


def federal_code(run: Any) -> str:
    """Of the authority whose answer is the return's own due date."""
    code: str = run.pack.authorities[0].code
    return code


def state_of(code: str) -> str:
    """The letters of a state by the code of one of its authorities; empty of a federal one."""
    letters = code.split("-")[1].upper() if "-" in code else ""
    return letters if letters in STATES else ""


def code_in(run: Any, state: str) -> str:
    """The authority of a state with whom such a return is filed, whether it is made here or not."""
    known = (one.code for one in run.pack.authorities if one.form.jurisdiction == f"us-{state.lower()}")
    return next(known, f"us-{state.lower()}")


def without_return(run: Any) -> frozenset[str]:
    """States that want no such return from anybody."""
    if not is_of_entity(run):
        return UNTAXED
    return NO_RETURN_OF_CORPORATIONS if federal_code(run) == "us-1120" else NO_RETURN_OF_OWNERS


def _home(run: Any) -> str:
    return run.single("about").state if is_of_entity(run) else places.home_at_end(run)


def _called_for(run: Any) -> dict[str, bool]:
    """States that want a return, and whether it is made here."""
    if not is_of_entity(run):
        return {one.state: one.made for one in places.wanted(run) if not one.left_out}
    states = ((state_of(one.code), one) for one in run.pack.authorities[1:])
    return {state: True for state, one in states if one.has_law(run) and one.applies(run)}


def until(authority: Any, rule: Any, year: int, home: str = "") -> date:
    """The later due date of a year's return. Weekends and legal holidays move it on: IRC 7503."""
    return authority.working_day(date(year + 1, *rule["until"]), home)


def of_return(run: Any) -> tuple[MoreTime, ...]:
    """Every authority's extension, the federal one first; none of whom this return does not go to."""
    filed = {one.code for one in run.pack.authorities if one.files(run)}
    every = (_federal(run), *_states(run))
    return tuple(one for one in every if one.code in filed or run.pack.authority(one.code) is None)


def _federal(run: Any) -> MoreTime:
    says = "A form is always filed, whether or not tax is due."
    form = run.form("us.7004" if is_of_entity(run) else "us.4868")
    return _known(run, federal_code(run), form, (FORM, says), bool(run.single("extension").asked), True)


def _states(run: Any) -> Iterator[MoreTime]:
    asked = {row.state: row for row in run.single("state-extensions").rows if row.state}
    made = _called_for(run)
    for state in dict.fromkeys([*made, *asked]):
        if state in without_return(run):
            continue
        code = code_in(run, state)
        if run.pack.authority(code) is not None and code in rules():
            form = run.form(f"us-{state.lower()}.extension")
            yield _known(run, code, form, _sends(run, rules()[code], form), state in asked, made.get(state, False))
        else:
            yield _unknown(run, state, asked.get(state))


def _known(run: Any, code: str, form: Any, sends: tuple[str, str], asked: bool, made: bool) -> MoreTime:
    """`form` has the four amounts; `sends` is what goes and why."""
    authority, rule = run.pack.authority(code), rules()[code]
    what, says = sends
    return MoreTime(
        code=code,
        name=authority.name,
        rule=rule["rule"],
        says=says,
        sends=what,
        form=rule.get("payment_form", rule["form"]) if what == PAYMENT else rule["form"],
        due=authority.due_on(run.year, _home(run)),
        until=until(authority, rule, run.year, _home(run)),
        asked=asked,
        made=made,
        expected=form.expected,
        paid=form.paid,
        balance=form.balance,
        paying=form.paying,
        at=form.address("balance"),
        warns=_short(form.balance, form.paying),
        source=rule["source"],
    )


def _unknown(run: Any, state: str, row: Any) -> MoreTime:
    expected, paying = (row.expected_tax, row.paying) if row is not None else (ZERO, ZERO)
    due = run.pack.authorities[0].due_on(run.year, _home(run))
    says = "This state's rule is not known here. Look it up; nothing is filed from here."
    at = row.address("state") if row is not None else "us.state-extensions"
    return MoreTime(f"us-{state.lower()}", STATES[state], "", says, NOTHING, "", due, None, row is not None, False,
                    expected, ZERO, expected, paying, at)  # fmt: skip


def _sends(run: Any, rule: dict[str, Any], form: Any) -> tuple[str, str]:
    """What goes out, and the sentence that says why."""
    federal, paying = bool(run.single("extension").asked), form.paying > 0
    if rule["rule"] == "automatic":
        return (PAYMENT if paying else NOTHING), "Automatic, no form needed; only a payment is sent."
    if rule["rule"] == "federal":
        if federal:
            return (PAYMENT if paying else NOTHING), "The federal extension is sufficient; only a payment is sent."
        return FORM, "Without a federal extension a form is filed."
    if federal and not form.balance and not paying:
        return NOTHING, "No tax is due, so the federal extension is sufficient."
    if form.balance or paying:
        return FORM, "Tax is due, so the federal extension is not sufficient: a form is filed with the payment."
    return FORM, "Without a federal extension a form is filed."


def _short(balance: Any, paying: Any) -> str:
    """More time to file is no more time to pay."""
    return f"{balance - paying:,} of the balance is not paid with it; interest runs from the due date" if paying < balance else ""


def debited(run: Any) -> bool:
    """Whether payments with the requests are debited by the authorities, from an account and on a day that are both there."""
    return run.single("extension").pay_how != "otherwise" and not payment_lacks(run)


def wants_debit(document: bytes) -> bool:
    """Whether a request made by `document` has the authority debit its payment."""
    return b"<Debit>" in document


def payment_lacks(run: Any) -> str:
    """What a payment with a request still wants, in words; empty where nothing does."""
    paper = run.single("extension")
    if paper.pay_how == "otherwise":
        return ""
    wanted = {"routing number": paper.routing, "account number": paper.account, "type of account": paper.account_kind,
              "debit date": paper.debit_on}  # fmt: skip
    return ", ".join(name for name, value in wanted.items() if not value)


def filers(run: Any) -> list[Any]:
    """Who asks: the people of the return, or the entity."""
    return list(run.people() if is_of_entity(run) else run.form("us.1040").filers)


def unnamed(run: Any) -> bool:
    """Whether a name or number of who asks is not there yet."""
    return any(not value for person in filers(run) for _, value in _named(run, person))


def _named(run: Any, person: Any) -> tuple[tuple[str, str], ...]:
    if is_of_entity(run):
        return ("Company", person.full_name), ("Number", person.number)
    first, last = header_name(person.first_name), header_name(person.last_name)
    return ("FirstName", first), ("LastName", last), ("Number", person.number)


def document(run: Any, one: MoreTime, return_id: str) -> bytes:
    """What goes to the authority, in UTF-8, valid against authority/schemas/extension.xsd."""
    root = ET.Element("Extension", {"xmlns": NAMESPACE, "authority": one.code, "year": str(run.year), "form": one.form})
    header = ET.SubElement(root, "Header")
    for name, value in (("ReturnId", return_id), ("Software", "Impuesto")):
        ET.SubElement(header, name).text = value
    people = ET.SubElement(root, "People")
    for person in filers(run):
        element = ET.SubElement(people, type(person).__name__, {"id": str(person.key), "role": person.role})
        for name, value in _named(run, person):
            ET.SubElement(element, name).text = value
    for name in ("expected", "paid", "balance", "paying"):
        ET.SubElement(root, name.capitalize()).text = f"{getattr(one, name):f}"
    if one.paying and debited(run):
        paper = run.single("extension")
        debit = ET.SubElement(root, "Debit")
        told = (
            ("Routing", paper.routing),
            ("Account", paper.account),
            ("Kind", paper.account_kind),
            ("On", paper.debit_on.isoformat()),
        )
        for name, value in told:
            ET.SubElement(debit, name).text = value
    ET.SubElement(root, "Until").text = one.until.isoformat() if one.until else ""
    ET.indent(root)
    return ET.tostring(root, encoding="utf-8", xml_declaration=True)
