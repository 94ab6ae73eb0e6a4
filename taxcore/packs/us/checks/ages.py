"""Days of birth and death: what cannot be, and what hardly can."""

from datetime import timedelta

from taxcore.engine import check, found, stops

_TWINS = timedelta(days=3)
_NEXT_BIRTH = timedelta(days=240)


@stops("us.person.born-later", "Born after the tax year", "format")
def birth_date_after_year(run):
    for person in run.people():
        if person.birth_date is not None and person.birth_date.year > run.year:
            yield found(
                person.address("birth_date"),
                f"{person.title} was born after {run.year}. Correct the date, or remove the person.",
            )


@stops("us.person.death-before-birth", "Date of death before date of birth", "format")
@check("us.person.very-old", "Age over 110", "unlikely")
@check("us.person.filer-very-young", "Spouse under 16", "unlikely")
def ages(run):
    for person in run.people():
        born, died = person.birth_date, person.death_date
        if born is None:
            continue
        if died is not None and died < born:
            yield found(
                (person.address("death_date"), person.address("birth_date")),
                f"{person.title} would have died before birth. Correct one of the dates.",
                code="us.person.death-before-birth",
            )
        elif run.year - born.year > 110 and died is None:
            yield found(
                person.address("birth_date"),
                f"{person.title} would be {run.year - born.year}. Compare the year of birth.",
                code="us.person.very-old",
            )
        if person.role == "spouse" and run.year - born.year < 16:
            yield found(
                person.address("birth_date"),
                f"{person.title} would be {run.year - born.year} and married. Compare the year of birth.",
                code="us.person.filer-very-young",
            )


@check("us.dependent.older-than-parent", "Child nearly as old as the parents", "unlikely", "IRC 152(c)(3)(A)")
@check("us.dependent.parent-too-young", "Parent barely older than the taxpayer", "unlikely", "IRC 152(d)(2)(C)")
def generations(run):
    filers = [person.birth_date for person in map(run.person, ("taxpayer", "spouse")) if person is not None and person.birth_date]
    for child in run.people("dependant"):
        if child.birth_date is None or not filers:
            continue
        if child.relationship == "child" and child.birth_date.year - min(filers).year < 13:
            yield found(
                child.address("birth_date"),
                f"{child.title}, a child, is nearly as old as the parents. Compare the dates of birth, and the relationship.",
                code="us.dependent.older-than-parent",
            )
        if child.relationship == "parent" and max(filers).year - child.birth_date.year < 13:
            yield found(
                child.address("birth_date"),
                f"{child.title}, a parent, is barely older than the taxpayer. Compare the dates of birth, and the relationship.",
                code="us.dependent.parent-too-young",
            )


@check("us.dependent.births-too-near", "Children born within 8 months", "unlikely")
@stops("us.person.twice", "Same person entered twice", "conflict", "IRC 151")
def births(run):
    people = [person for person in run.people() if person.birth_date is not None]
    for place, one in enumerate(people):
        for other in people[place + 1 :]:
            apart = abs(one.birth_date - other.birth_date)
            same_name = one.first_name.strip().lower() == other.first_name.strip().lower() != ""
            if same_name and not apart:
                yield found(
                    (other.address("first_name"), one.address("first_name")),
                    f"{one.title} is on the return twice. Remove one.",
                    code="us.person.twice",
                )
            elif one.relationship == other.relationship == "child" and _TWINS < apart < _NEXT_BIRTH:
                yield found(
                    (other.address("birth_date"), one.address("birth_date")),
                    f"{one.title} and {other.title} are born {apart.days} days apart. Correct for half or step "
                    "siblings; otherwise check the dates.",
                    code="us.dependent.births-too-near",
                )


CHECKS = (
    birth_date_after_year,
    ages,
    generations,
    births,
)
