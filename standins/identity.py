"""A service that asks questions only the right person should be able to answer, about made-up people of its own register.

Somebody whom the register has not met is taken as the first claim has them, and asked about that. Number endings that begin with
000 are for refusals: nobody is ever known by them.

POST /identity/checks {"number_end": "1234", "last_name": ..., "birth_date": ...} → {"id", "questions": [{"id", "text",
"options"}]}; POST /identity/checks/ID {"answers": {...}} → {"passed", "tries_left"}. Two tries, then the check is closed.
"""

import random
import secrets
import threading
from datetime import date

TRIES = 2
_STREETS = ["Heron Street", "Chandlery Lane", "Quarry Road", "Tern Avenue", "Foundry Street", "Willow Landing"]
_MONTHS = ["January", "March", "April", "June", "July", "September", "October", "December"]
_PLACES = ["Kittiwake Boatworks LLC", "Tern Point Ferry Co", "Ridgeway Dairy", "Sandbar Printing", "Bluff Hotel"]


class IdentityService:
    """Keeps open checks in memory; a restart closes them, as an outage would."""

    def __init__(self, people):
        self._people = people
        self._open = {}
        self._lock = threading.Lock()

    def begin(self, claim):
        """A new check, or None when nobody of that name and number is known."""
        person = self._known(claim)
        if person is None:
            return None
        check = secrets.token_urlsafe(12)
        questions = list(_questions(person))
        with self._lock:
            self._open[check] = {"right": {q["id"]: q.pop("right") for q in questions}, "left": TRIES}
        return {"id": check, "questions": questions}

    def _known(self, claim):
        """The person of a claim, met now if need be; None where the claim contradicts what is known, or asks for a refusal."""
        ending, last = str(claim.get("number_end", "")), str(claim.get("last_name", "")).lower()
        if ending.startswith("000") or not (len(ending) == 4 and ending.isdigit() and last and claim.get("birth_date")):
            return None
        with self._lock:
            alike = [one for one in self._people if one["number"][-4:] == ending and one["last_name"].lower() == last]
            if not alike:
                alike = [_met(claim)]
                self._people.append(alike[0])
        return next((one for one in alike if one["birth_date"] == claim["birth_date"]), None)

    def answer(self, check, answers):
        """Whether all answers are right and how many tries are left; None for a check that is not open."""
        with self._lock:
            found = self._open.get(check)
            if found is None or found["left"] <= 0:
                return None
            passed = found["right"] == answers
            found["left"] = 0 if passed else found["left"] - 1
            return {"passed": passed, "tries_left": found["left"]}


def _met(claim):
    """Somebody new, as a claim describes them."""
    born = date.fromisoformat(claim["birth_date"])
    return {
        "number": claim["number_end"], "last_name": claim["last_name"], "birth_date": claim["birth_date"],
        "birth_month": born.strftime("%B"), "street": str(claim.get("street", "")),
    }  # fmt: skip


def _questions(person):
    order = random.Random(person["number"])  # noqa: S311 - only the order of options, the same each time
    born = int(person["birth_date"][:4])
    facts = (
        ("street", "On which street do you live?", person.get("street"), _STREETS),
        ("month", "In which month were you born?", person["birth_month"], _MONTHS),
        ("place", "Where have you worked?", person.get("worked_at"), _PLACES),
        (
            "year",
            "In which year were you born?",
            None if person.get("worked_at") else str(born),
            [str(born + n) for n in (-7, -3, 4)],
        ),
    )
    for name, text, right, others in facts:
        if not right:
            continue
        options = [right, *order.sample([other for other in others if other != right], 3)]
        order.shuffle(options)
        yield {"id": name, "text": text, "options": options, "right": right}
