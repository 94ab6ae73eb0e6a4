"""Dependents and what follows from them: who is none, who makes a filing status possible, which benefit a reason denies."""

from taxcore.engine import check, found, idea, stops


@stops("us.spouse-missing", "Joint return without a spouse", "missing")
def spouse_missing(run):
    if run.form("us.1040").status == "joint" and run.person("spouse") is None:
        yield found(
            run.single("filing").address("status"), "A joint return needs the spouse. Add the spouse, or choose another status."
        )


@stops("us.person.died-before", "Died before the tax year", "rule", "IRC 6013(a)")
def died_in_another_year(run):
    """IRC 6013(a)(2): no return with somebody who died before the year began."""
    for person in run.people():
        if person.death_date is not None and person.death_date.year < run.year:
            yield found(
                person.address("death_date"),
                f"{person.title} died before {run.year} began and cannot be on this return. Correct it, or remove the person.",
            )


@check("us.filing.spouse-unnamed", "Spouse filing separately not named", "missing", "IRC 6109")
def spouse_apart_unnamed(run):
    filing = run.single("filing")
    if run.form("us.1040").status == "separate" and not (filing.spouse_name and filing.spouse_number):
        yield found(
            filing.address("spouse_name"),
            "Filed separately: page 1 requires the spouse's name and SSN, or NRA for a nonresident alien. Enter both.",
        )


@stops("us.dependent.not-one", "Not a dependent", "rule", "IRC 152")
def not_a_dependant(run):
    for one in run.every("us.dependent"):
        if not one.is_dependant:
            who = one.who
            yield found(
                who.address("relationship"),
                f"{who.title} cannot be claimed: as a qualifying child {one.not_a_child or 'yes'}; as a qualifying "
                f"relative {one.not_a_relative}. Correct the answers or remove {who.title}.",
            )


@stops("us.filing.home-not-kept", "Head of household: home not kept up", "rule", "IRC 2(b)")
@stops("us.filing.nobody-eligible", "Head of household without a qualifying person", "rule", "IRC 2(b)(1)")
def head_of_household_without_person(run):
    """IRC 2(b)(1): a qualifying child, or a relative by blood or law who lived here, or a parent anywhere."""
    if run.form("us.1040").status != "head_of_household":
        return
    filing = run.single("filing")
    if filing.kept_home is not True:
        yield found(
            filing.address("kept_home"),
            "Head of household requires an unmarried taxpayer who paid over half the cost of keeping up the home. Answer the "
            "question, or choose another status.",
            code="us.filing.home-not-kept",
        )
    if not any(_makes_eligible(one) for one in run.every("us.dependent")):
        yield found(
            filing.address("status"),
            "No qualifying person for head of household. Add the child or relative, or choose another status.",
            code="us.filing.nobody-eligible",
        )


def _makes_eligible(one):
    who = one.who
    lived_here = (who.months_at_home or 0) >= 7
    related = who.relationship != "none" and (lived_here or who.relationship == "parent")
    return one.not_a_child == "" or (one.not_a_relative == "" and related)


@stops("us.filing.spouse-died", "Qualifying surviving spouse: year of death", "rule", "IRC 2(a)(1)")
@stops("us.filing.no-child-at-home", "Qualifying surviving spouse without a child at home", "rule", "IRC 2(a)(1)(B)")
def surviving_spouse(run):
    """IRC 2(a): for the two years after the spouse's, with a child at home for whom the taxpayer keeps it."""
    if run.form("us.1040").status != "surviving_spouse":
        return
    filing = run.single("filing")
    if filing.spouse_died not in (run.year - 1, run.year - 2):
        yield found(
            filing.address("spouse_died"),
            "Qualifying surviving spouse requires that the spouse died in one of the 2 prior years. Enter the year, or "
            "choose another status.",
            code="us.filing.spouse-died",
        )
    children = [one for one in run.every("us.dependent") if one.who.relationship == "child" and one.is_dependant]
    if not any((one.who.months_at_home or 0) == 12 for one in children):
        yield found(
            filing.address("status"),
            "Qualifying surviving spouse requires a dependent child at home all year. Add the child, or choose another status.",
            code="us.filing.no-child-at-home",
        )


@idea("us.dependent.turned-17", "Child turned 17", "lost", "IRC 24(c)(1)")
def credit_lost_at_seventeen(run):
    """The commonest surprise of a family's year."""
    limit = run.laws["us"].child_credit.age_below
    for one in run.every("us.dependent"):
        if one.not_a_child == "" and one.who.years_old() == limit:
            yield found(
                one.who.address("birth_date"),
                f"{one.who.title} turned 17 this year: the child tax credit ends and the credit for other dependents "
                "applies instead. Tell the client.",
            )


CHECKS = (
    spouse_missing,
    died_in_another_year,
    spouse_apart_unnamed,
    not_a_dependant,
    head_of_household_without_person,
    surviving_spouse,
    credit_lost_at_seventeen,
)
