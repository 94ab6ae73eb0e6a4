"""People, answers, lines and businesses of last year's return beside this one's.

Silent on a return whose last year is not known.
"""

from taxcore.engine import CHECK, IDEA, ZERO, Diagnostic, Mend, check, declares, found, idea
from taxcore.engine.characters import within
from taxcore.packs.us.base import STATUSES, digits
from taxcore.packs.us.checks.matching import amount_of, earlier_of, line_before, pairs

_EACH = ("taxpayer", "spouse")


@check("us.last-year.number-differs", "SSN differs from last year", "format", "IRC 6109")
@check("us.last-year.birth-date-differs", "Date of birth differs from last year", "format")
@check("us.last-year.name-differs", "Last name differs from last year", "format")
@check("us.last-year.dependent-gone", "Last year's dependent is missing", "unlikely", "IRC 152")
def people_against_last_year(run):
    if run.last_year is None:
        return
    now = {_who(person.values): person for person in run.people()}
    for earlier in run.papers_before("person"):
        person = now.get(_who(earlier.values))
        if person is None:
            if earlier.values.get("role") == "dependant":
                yield found(
                    run.single("filing").address("status"),
                    f"{earlier.values.get('first_name')} was a dependent last year and is not on this return. Add the "
                    "dependent, or suppress this with a reason.",
                    code="us.last-year.dependent-gone",
                )
            continue
        for name, code, word in _IDENTITY:
            was, is_now = str(earlier.values.get(name) or ""), str(person.values.get(name) or "")
            alike = digits(was) == digits(is_now) if name == "number" else was == is_now
            if was and is_now and not alike:
                shown = "" if name == "number" else f": {was} then, {is_now} now"
                yield found(
                    person.address(name),
                    f"{person.title} has another {word} than last year{shown}. Compare it with the card or certificate.",
                    code=f"us.last-year.{code}",
                )


_IDENTITY = (
    ("number", "number-differs", "Social Security number"), ("birth_date", "birth-date-differs", "date of birth"),
    ("last_name", "name-differs", "last name"),
)  # fmt: skip


def _who(values):
    """The taxpayer and the spouse by their part, dependents by their first name."""
    role = values.get("role")
    return role if role in _EACH else str(values.get("first_name", "")).strip().lower()


@check("us.last-year.status-differs", "Filing status differs from last year", "unlikely", "IRC 7703")
@check("us.last-year.account-differs", "Direct deposit account differs from last year", "unlikely")
def answers_against_last_year(run):
    filing, deposit = run.single("filing"), run.single("deposit")
    for earlier in run.papers_before("filing"):
        was = earlier.values.get("status")
        if was in STATUSES and filing.status and was != filing.status:
            yield found(
                filing.address("status"),
                f"Last year's status was {STATUSES[was].lower()}. Correct after a marriage, divorce, death or birth; "
                "otherwise change it.",
                code="us.last-year.status-differs",
            )
    for earlier in run.papers_before("deposit"):
        was = earlier.values.get("account")
        if was and deposit.account and was != deposit.account:
            yield found(
                deposit.address("account"),
                "The account differs from last year's. Confirm it with the client by phone, not by email.",
                code="us.last-year.account-differs",
            )


# (short, last year's line, where it would be keyed, what it is, weight)
_GONE = (
    ("estimates", "us.1040:estimates", ("estimates", "rows"), "Estimated payments", CHECK),
    ("itemised", "us.sch-a:deduction", ("itemized", "medical"), "Itemized deductions", IDEA),
    ("gifts", "us.sch-a:all_gifts", ("itemized", "other"), "Charitable contributions", IDEA),
    ("property-tax", "us.sch-a:property_tax", ("itemized", "property_tax"), "Real estate taxes", IDEA),
    ("care", "us.2441:credit", ("care-questions", "student_months"), "Dependent care credit", IDEA),
    ("education", "us.8863:credit", ("filing", "status"), "Education credit", IDEA),
    ("earned", "us.1040:earned_income_credit", ("filing", "status"), "Earned income credit", IDEA),
    ("child", "us.1040:child_credit", ("filing", "status"), "Child tax credit", IDEA),
    ("foreign", "us.1040:foreign_credit", ("foreign-tax", "other_tax"), "Foreign tax credit", IDEA),
    ("educator", "us.sch-1:educators", ("filing", "status"), "Educator expenses", IDEA),
    ("alimony", "us.sch-1:alimony_paid", ("filing", "status"), "Alimony paid", IDEA),
    ("health", "us.sch-1:health_insurance", ("filing", "status"), "Self-employed health insurance", IDEA),
    ("plans", "us.sch-1:plans", ("filing", "status"), "Self-employed plan contributions", IDEA),
    ("ira", "us.sch-1:ira", ("filing", "status"), "IRA deduction", IDEA),
)  # fmt: skip


@declares(*(Diagnostic(f"us.last-year.{short}-gone", weight, f"{title} last year, none this year", "missed")
            for short, _, _, title, weight in _GONE))  # fmt: skip
def lines_gone(run):
    if run.last_year is None:
        return
    for short, line, (kind, field), title, _ in _GONE:
        was = line_before(run, line)
        form, _, name = line.partition(":")
        unused = run.is_idle(form) or (form == "us.sch-a" and not run.form("us.1040").is_itemised)
        now = ZERO if unused else getattr(run.form(form), name)
        if was > 0 and not now:
            yield found(
                (run.single(kind).address(field), run.form(form).address(name)),
                f"{title}: {was:,} last year, nothing now. Confirm that there is none, or see which condition fails.",
                code=f"us.last-year.{short}-gone",
            )


@idea("us.last-year.business-cost-gone", "Business expense of last year is missing", "missed", "IRC 162")
@check("us.last-year.business-started", "Business marked as new was on last year's return", "conflict")
@check("us.last-year.miles-jumped", "Business miles far above last year", "unlikely", "IRC 274(d)")
@check("us.last-year.loss-again", "Business loss in both years", "unlikely", "IRC 183")
def business_against_last_year(run):
    for books, earlier in pairs(run, "business"):
        fields = books.fields()
        costs = [name for name in _COSTS if amount_of(earlier, name) >= 500 and not books.is_keyed(name)]
        if costs:
            names = ", ".join(within(fields[name].label) for name in costs)
            yield found(
                tuple(books.address(name) for name in costs),
                f"{books.title}: last year had {names}, this year has none. Ask the client.",
                code="us.last-year.business-cost-gone",
            )
        if books.started:
            yield found(
                books.address("started"),
                f"{books.title} is marked as started this year, and last year's return has it. Correct line H.",
                code="us.last-year.business-started",
                mend=Mend("It was there before", books.address("started"), "no"),
            )
        driven = amount_of(earlier, "miles")
        if driven >= 500 and (books.miles or 0) > 3 * driven:
            yield found(
                books.address("miles"),
                f"{books.title}: {books.miles:,} miles, {driven:,} last year. Compare with the mileage log.",
                code="us.last-year.miles-jumped",
            )
        before = earlier_of(run, books)
        if run.form("us.sch-c", books.key).profit < 0 and line_before(run, f"us.sch-c[{before.id}]:profit") < 0:
            yield found(
                books.address("participates"),
                f"{books.title} made a loss last year too. Is there a profit motive? Document it: books, business plan, "
                "time spent.",
                code="us.last-year.loss-again",
            )


_COSTS = (
    "advertising",
    "commissions",
    "contract_labour",
    "employee_benefits",
    "insurance",
    "mortgage_interest",
    "other_interest",
    "professional",
    "office",
    "rent_equipment",
    "rent_property",
    "repairs",
    "supplies",
    "taxes",
    "travel",
    "utilities",
    "wages",
    "health_insurance",
)


_VOUCHERS = ("first", "second", "third", "fourth")


@check("us.last-year.vouchers", "Estimated payments asked for and not entered", "unlikely", "IRC 6654(c)")
def estimates_asked_for(run):
    """Last year's package had vouchers: what was paid with them belongs here."""
    if run.last_year is None:
        return
    asked = sum((line_before(run, f"us.1040-es:{name}") for name in _VOUCHERS), ZERO)
    estimates = run.single("estimates")
    paid = sum((row.amount for row in estimates.rows), ZERO)
    if paid < asked:
        yield found(
            estimates.address("rows"),
            f"Last year's vouchers asked for {asked:,} in all, and {paid:,} of payments are entered. Ask what was paid when.",
        )


CHECKS = (people_against_last_year, answers_against_last_year, lines_gone, business_against_last_year, estimates_asked_for)
