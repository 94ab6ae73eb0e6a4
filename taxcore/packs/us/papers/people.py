"""Who is on the return, and the questions that the return as a whole must answer."""

from typing import ClassVar

from taxcore.engine import Amount, Choice, Count, Day, Flag, Person, Text
from taxcore.packs.us.base import STATES, STATUSES, FederalPaper
from taxcore.packs.us.spelling import header_address, header_name

_NUMBER = r"\d{3}-?\d{2}-?\d{4}"

# How somebody is related to the taxpayer. IRC 152(c)(2), (d)(2)
RELATIONSHIPS = {
    "child": "Son, daughter, stepchild or a descendant of one",
    "foster": "Foster child placed by an agency",
    "sibling": "Brother, sister, half or step, or a descendant of one",
    "parent": "Parent or ancestor",
    "relative": "Other relative",
    "none": "Not related, member of household all year",
}
CHILD_KINDS = frozenset({"child", "foster", "sibling"})


def _dependant(person):
    return person.role == "dependant"


def _filer(person):
    return person.role != "dependant"


def _moved(filing):
    """Whether stays are entered, which then say where people lived."""
    return bool(filing.run.single("residency").values.get("rows"))


def _apart(filing):
    return filing.status == "separate"


class UnitedStatesPerson(Person):
    """Taxpayer, spouse or dependent. IRC 6109 (number), 63(f) (aged, blind), 63(c)(5) (claimed by another), 152."""

    jurisdiction = "us"
    role_names: ClassVar = {"dependant": "dependent"}
    adds: ClassVar = {"spouse": "Spouse", "dependant": "Dependent"}
    # A plan works out what a child's number gives, with one from a range that is never issued; none of it reaches a return
    planned: ClassVar = {
        "spouse": {"first_name": "Spouse", "number": "999-00-0001"},
        "dependant": {
            "first_name": "Child",
            "relationship": "child",
            "months_at_home": "12",
            "resident": "yes",
            "number": "999-00-0002",
        },
    }
    planned_with: ClassVar = {"spouse": {"filing/filing/status": "joint"}}

    first_name = Text(
        None,
        "First name and initial",
        needed="Copy it from the Social Security card.",
        longest=40,
        filed_as=header_name,
        kept=True,
    )
    last_name = Text(
        None, "Last name", needed="Copy it from the Social Security card.", longest=40, filed_as=header_name, kept=True
    )
    number = Text(
        None, "Social Security number", needed="The return cannot be filed without it.", secret=True, pattern=_NUMBER,
        shape="000-00-0000", pattern_says="A Social Security number has nine digits, 000-00-0000.", longest=11, kept=True,
    )  # fmt: skip
    birth_date = Day(None, "Date of birth", needed="Age decides deductions and credits.", kept=True)
    occupation = Text(None, "Occupation", longest=40, only=_filer, kept=True)
    email = Text(None, "Email", longest=80, only=_filer, pattern=r"[^@\s]+@[^@\s]+\.[^@\s]+",
                 pattern_says="An email address looks like name@place.example.", help="The link to sign goes there.",
                 kept=True)  # fmt: skip
    blind = Flag(None, "Blind at year end", cites="IRC 63(f)(4)", only=_filer, kept=True)
    claimed_by_other = Flag(None, "Can be claimed as a dependent", cites="IRC 63(c)(5)", only=_filer)
    death_date = Day(None, "Date of death")
    identity_pin = Text(None, "IP PIN", pattern=r"\d{6}", pattern_says="The PIN has six digits.",
                        secret=True, longest=6)  # fmt: skip
    relationship = Choice(
        None,
        "Relationship",
        RELATIONSHIPS,
        needed="Choose it: it decides which credits are possible.",
        only=_dependant,
        kept=True,
    )
    months_at_home = Count(None, "Months lived with the taxpayer", most=12, only=_dependant, cites="IRC 152(c)(1)(B)",
                           needed="Count absences for school or illness as months at home.")  # fmt: skip
    student = Flag(None, "Full-time student during 5 months", cites="IRC 152(f)(2)")
    disabled = Flag(None, "Permanently and totally disabled", cites="IRC 22(e)(3)", kept=True)
    not_self_caring = Flag(None, "Incapable of self-care", cites="IRC 21(b)(1)(B), (C)",
                           help="Mentally or physically. Whoever is totally disabled is so anyway.", kept=True)  # fmt: skip
    earns_own_support = Flag(None, "Earned income is over half of own support", cites="IRC 1(g)(2)(A), 25A(i)", only=_filer,
                             help="Of a filer below 24: Form 8615 and the refundable education credit turn on it.")  # fmt: skip
    supports_self = Flag(None, "Provided over half of own support", cites="IRC 152(c)(1)(D)", only=_dependant)
    supported = Flag(None, "Taxpayer provided over half of support", cites="IRC 152(d)(1)(C)", only=_dependant)
    gross_income = Amount(None, "Gross income", cites="IRC 152(d)(1)(B)", only=_dependant)
    resident = Flag(None, "US citizen, national or resident", cites="IRC 152(b)(3), 24(c)(2)", only=_dependant,
                    needed="Nobody can be claimed without it.", kept=True)  # fmt: skip
    joint_return = Flag(None, "Files a joint return other than for a refund", cites="IRC 152(b)(2)", only=_dependant)

    @property
    def full_name(self):
        return f"{self.first_name} {self.last_name}".strip()

    def needs_care(self):
        """Incapable of self-care: said so, or totally disabled, which is more."""
        return bool(self.not_self_caring or self.disabled)

    def age_at_end(self):
        """Age as the law counts it for the aged: born on 1 January is a year older on the evening before."""
        born = self.birth_date
        if born is None:
            return None
        return self.year - born.year + (1 if (born.month, born.day) == (1, 1) else 0)

    def years_old(self):
        """Age reached by the last day of the year: what "under 17" and "under 19" ask."""
        return None if self.birth_date is None else self.year - self.birth_date.year

    def is_aged(self):
        """65 by the end of the year, for IRC 63(f)(1)."""
        age, died, born = self.age_at_end(), self.death_date, self.birth_date
        if age is None or age < 65 or died is None or died.year != self.year:
            return age is not None and age >= 65
        # Somebody who died before the 65th birthday was never 65: the day before it is enough
        return (died.year - born.year, died.month, died.day + 1) >= (65, born.month, born.day)


class Filing(FederalPaper):
    """Filing status, address, residency and the questions on the first page."""

    kind, name, official, group = "filing", "Filing status and information", "1040, page 1", "people"
    single, always, owned, said = True, True, False, "status"

    status = Choice(None, "Filing status", STATUSES, needed="Choose it: nearly every amount depends on it.", kept=True)
    street = Text(None, "Street address", needed="The IRS writes to this address.", wide=True, longest=60,
                  filed_as=header_address, kept=True)  # fmt: skip
    city = Text(None, "City", needed="The IRS writes to this address.", longest=40, filed_as=header_address, kept=True)
    state = Choice(None, "State", STATES, needed="The IRS writes to this address.", kept=True)
    zip = Text(None, "ZIP code", needed="The IRS writes to this address.", pattern=r"\d{5}(-\d{4})?",
               pattern_says="A ZIP code has five digits, or nine as 00000-0000.", longest=10, kept=True)  # fmt: skip
    residence = Choice(None, "State of residence, full year", STATES, needed="It decides which state returns are required.",
                       only=lambda filing: not _moved(filing), kept=True)  # fmt: skip
    digital_assets = Flag(None, "Received or disposed of digital assets",
                          needed="Page 1 asks everybody.")  # fmt: skip
    spouse_itemises = Flag(None, "Spouse itemizes on a separate return", cites="IRC 63(c)(6)(A)")
    kept_home = Flag(None, "Unmarried, paid over half the cost of keeping up a home", cites="IRC 2(b), 7703(b)",
                     only=lambda filing: filing.status == "head_of_household")  # fmt: skip
    spouse_covered = Flag(None, "Spouse is covered by a retirement plan at work", cites="IRC 219(g)", only=_apart)
    lived_apart = Flag(None, "Lived apart from spouse all year", cites="IRC 86(c)(1)(C)(ii), 219(g)(4)", only=_apart)
    lived_apart_half = Flag(None, "Lived apart from spouse the last 6 months", cites="IRC 32(d)(2)", only=_apart)
    spouse_died = Count(None, "Year spouse died", most=2199, cites="IRC 2(a)(1)",
                        only=lambda filing: filing.status == "surviving_spouse", kept=True)  # fmt: skip
    spouse_name = Text(None, "Spouse's name (filing separately)", longest=60, only=_apart, kept=True)
    spouse_number = Text(None, "Spouse's SSN, or NRA", secret=True, longest=11, only=_apart,
                         pattern=r"\d{3}-?\d{2}-?\d{4}|NRA", shape="000-00-0000",
                         pattern_says="Nine digits, or NRA for a nonresident alien without a number.", kept=True)  # fmt: skip
    only_state = Choice(None, "Prepared only for a separate state return", STATES, only=_apart,
                        help="For a couple with a joint federal return. Only that state's return is filed.")  # fmt: skip
    foreign_account = Flag(
        None, "Foreign account or trust", cites="31 USC 5314", help="Schedule B, part III.", begins="Foreign accounts"
    )
    foreign_report = Flag(None, "FinCEN Form 114 required", cites="31 CFR 1010.350")
    foreign_country = Text(None, "Country of the account", longest=40)
    telephone = Text(None, "Phone", longest=20, kept=True)
    designee = Flag(None, "Third-party designee: the preparer", cites="IRC 6103(c)", alike=True, kept=True)


class Deposit(FederalPaper):
    """Where a refund goes. Routing numbers carry a check digit (ABA policy)."""

    kind, name, official, group = "deposit", "Direct deposit", "1040, lines 35b to 35d", "payments"
    single, owned = True, False

    routing = Text("35b", "Routing number", pattern=r"\d{9}",
                   pattern_says="A routing number has nine digits.", longest=9, kept=True)  # fmt: skip
    account = Text("35d", "Account number", secret=True, pattern=r"[A-Za-z0-9-]{4,17}",
                   pattern_says="An account number has 4 to 17 letters and digits.", longest=17, kept=True)  # fmt: skip
    account_kind = Choice("35c", "Type of account", {"checking": "Checking", "savings": "Savings"}, kept=True)
    applied_to_next_year = Amount("36", "Refund applied to next year's estimated tax", cites="IRC 6402(b)")
