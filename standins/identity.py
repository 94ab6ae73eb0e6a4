"""A service that asks questions only the right person should be able to answer, about made-up people of its own register.

POST /identity/checks {"number_end": "1234", "last_name": ..., "birth_date": ...} → {"id", "questions": [{"id", "text",
"options"}]}; POST /identity/checks/ID {"answers": {...}} → {"passed", "tries_left"}. Two tries, then the check is closed.
"""

import random
import secrets
import threading

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
        person = next((person for person in self._people if _is(person, claim)), None)
        if person is None:
            return None
        check = secrets.token_urlsafe(12)
        questions = list(_questions(person))
        with self._lock:
            self._open[check] = {"right": {q["id"]: q.pop("right") for q in questions}, "left": TRIES}
        return {"id": check, "questions": questions}

    def answer(self, check, answers):
        """Whether all answers are right and how many tries are left; None for a check that is not open."""
        with self._lock:
            found = self._open.get(check)
            if found is None or found["left"] <= 0:
                return None
            passed = found["right"] == answers
            found["left"] = 0 if passed else found["left"] - 1
            return {"passed": passed, "tries_left": found["left"]}


def _is(person, claim):
    return (
        person["number"][-4:] == claim.get("number_end")
        and person["last_name"].lower() == str(claim.get("last_name", "")).lower()
        and person["birth_date"] == claim.get("birth_date")
    )


def _questions(person):
    order = random.Random(person["number"])  # noqa: S311 - only the order of options, the same each time
    facts = (
        ("street", "On which street do you live?", person["street"], _STREETS),
        ("month", "In which month were you born?", person["birth_month"], _MONTHS),
        ("place", "Where have you worked?", person["worked_at"], _PLACES),
    )
    for name, text, right, others in facts:
        options = [right, *order.sample([other for other in others if other != right], 3)]
        order.shuffle(options)
        yield {"id": name, "text": text, "options": options, "right": right}
