"""Diagnostics of a partnership's return: books that do not balance, shares that are not the whole, capital that does not roll."""

from decimal import Decimal

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us.entity.books import accounts_of, credit_of, debit_of
from taxcore.packs.us.entity.checks import CHECKS as ENTITY
from taxcore.packs.us.entity.checks import NO_RETURN_OF_OWNERS, cannot_file, not_final, state_returns, total_of
from taxcore.packs.us.entity.closing import closing, is_closed
from taxcore.packs.us.entity.withholding import withheld
from taxcore.packs.us.partnership.adjusted import adjusted
from taxcore.packs.us.partnership.papers import percent

_HUNDRED, _DOLLAR = Decimal(100), Decimal(1)
_WHICH = {"profit": "profit", "loss": "loss", "capital": "capital"}


@stops("us.partner.none", "No partners", "missing", "IRC 761(a)")
@stops("us.partner.one", "Only one partner", "conflict", "IRC 761(a)")
@stops("us.partner.not-hundred", "Partners' shares do not add up to 100%", "conflict", "IRC 704(b)")
@stops("us.partner.stake-days", "Partner's shares: dates outside the year", "conflict", "IRC 706(d)")
@check("us.partner.number-twice", "Two partners with one number", "conflict")
@stops("us.partner.no-stake", "Partner without a share", "missing", "Schedule K-1, item J")
@check("us.partner.limited-active", "Limited partner with self-employment income", "unlikely", "IRC 1402(a)(13)")
@check("us.partner.general-passive", "General partner without self-employment income", "unlikely", "IRC 1402(a)")
def partners(run):
    every, about = run.papers("partner"), run.single("about")
    if not every:
        yield found("us.partner", "Add the partners: each gets a Schedule K-1.", code="us.partner.none")
        return
    if len(every) == 1:
        yield found(every[0].address("called"), "A partnership has two partners at least. Add the other.", code="us.partner.one")
    numbers = set()
    for partner in every:
        yield from _of_partner(run, partner, about, numbers)
    for which, called in _WHICH.items():
        for end in (False, True):
            held = sum((one.at(which, end) for one in every), Decimal(0))
            if abs(held - _HUNDRED) > Decimal("0.0001") and any(one.stakes for one in every):
                when = "at the end" if end else "at the beginning"
                says = f"Their {called} shares {when} of the year are {held.normalize():f}% together. Correct item J."
                yield found(every[0].address("stakes"), says, code="us.partner.not-hundred")
                return


def _of_partner(run, partner, about, numbers):
    if not partner.stakes:
        says = f"{partner.called or 'A partner'} has no share of profit, loss or capital. Enter item J."
        yield found(partner.address("stakes"), says, code="us.partner.no-stake")
    for row in partner.stakes:
        if row.since and not run.period.start <= row.since <= run.period.end:
            says = f"{row.since:%B %-d, %Y} is not in this year. Leave it empty for the whole year."
            yield found(row.address("since"), says, code="us.partner.stake-days")
    if partner.number and partner.number in numbers:
        says = f"{partner.called} has the number of another partner. Correct one of them."
        yield found(partner.address("number"), says, code="us.partner.number-twice")
    numbers.add(partner.number)
    if about.entity_kind == "limited" and partner.general is False and partner.is_keyed("active") and partner.active:
        says = "A limited partner's share is not self-employment income, guaranteed payments for services are. Check the answer."
        yield found(partner.address("active"), says, code="us.partner.limited-active")
    if partner.general and partner.sort == "individual" and partner.is_keyed("active") and not partner.active:
        says = "A general partner's share of a business is self-employment income. Check the answer."
        yield found(partner.address("active"), says, code="us.partner.general-passive")


@stops("us.allocation.not-hundred", "Special allocation does not add up to 100%", "conflict", "IRC 704(b)")
@stops("us.allocation.twice", "The same item allocated twice", "conflict", "IRC 704(b)")
@check("us.closing.twice", "An item allocated specially and by parts of the year", "conflict", "26 CFR 1.706-4")
@check("us.allocation.effect", "Special allocation: substantial economic effect", "unlikely", "26 CFR 1.704-1(b)(2)")
def allocations(run):
    seen = set()
    for paper in run.papers("allocation"):
        parts = sum((percent(row.part) for row in paper.rows), Decimal(0))
        if paper.rows and abs(parts - _HUNDRED) > Decimal("0.0001"):
            says = f"Its parts are {parts.normalize():f}% together. Correct them."
            yield found(paper.address("rows"), says, code="us.allocation.not-hundred")
        if paper.item and is_closed(run, paper.item):
            says = "It is divided by this agreement, not by the parts of the year. Remove one of them."
            yield found(paper.address("item"), says, code="us.closing.twice")
        if paper.item and paper.item in seen:
            yield found(paper.address("item"), "The first one counts. Remove one of them.", code="us.allocation.twice")
        seen.add(paper.item)
        if paper.rows and not paper.attached:
            says = "It holds only with substantial economic effect or by the partners' interests. Keep the agreement beside it."
            yield found(paper.address("item"), says, code="us.allocation.effect")


@stops("us.1065.built-in", "Property contributed with built-in gain or loss: item N missing", "missing", "IRC 704(c)")
@stops("us.built-in.not-zero", "Section 704(c) allocation that does not add up to zero", "conflict", "26 CFR 1.704-3")
@stops("us.built-in.cents", "Section 704(c) allocation with cents", "conflict", "Schedule K-1")
@check("us.built-in.nothing", "Built-in gain or loss, and nothing is allocated for it", "unlikely", "26 CFR 1.704-3")
def built_in(run):
    """How much is moved, and what is left of it, the preparer says; it goes into every share as entered."""
    papers = run.papers("built-in")
    for paper in papers:
        left = sum((row.amount for row in paper.rows), Decimal(0))
        cents = next((row for row in paper.rows if row.amount % 1), None)
        if cents is not None:
            yield found(cents.address("amount"), "Schedules K-1 have whole dollars. Round it.", code="us.built-in.cents")
        if left:
            says = f"The amounts of all partners add up to {left:,.2f}. They must add up to zero."
            yield found(paper.address("rows"), says, code="us.built-in.not-zero")
    for partner in run.papers("partner"):
        if (partner.built_in or partner.built_in_before) and not partner.is_keyed("built_in_after"):
            says = f"Enter {partner.called}'s net unrecognized section 704(c) gain or loss at the end of the year, item N."
            yield found(partner.address("built_in_after"), says, code="us.1065.built-in")
        if (partner.built_in or partner.built_in_before) and not papers:
            says = f"Depreciation or gain of what {partner.called} contributed goes by section 704(c). Add what is moved."
            yield found(partner.address("built_in_after"), says, code="us.built-in.nothing")


@check("us.capital.not-tied", "Schedule M-2 differs from Schedule L", "conflict", "Schedule M-2")
@stops("us.m1.unreconciled", "Schedule M-1 does not reconcile", "conflict", "Schedule M-1")
@check("us.capital.negative", "Partner's capital below zero", "unlikely", "26 CFR 1.704-1(b)(2)(ii)(d)")
@check("us.draws.differ", "Distributions of the partners differ from the books", "conflict", "Schedule K, line 19a")
@check("us.guaranteed.differ", "Guaranteed payments of the partners differ from the books", "conflict", "IRC 707(c)")
@check("us.contributed.differ", "Capital contributed differs from the books", "conflict", "Schedule M-2, line 2")
def reconciled(run):
    m1, m2, sheet, schedule = (run.form(f"us.{code}") for code in ("sch-m-1", "sch-m-2", "sch-l", "sch-k"))
    if not run.single("books").rows:
        return
    if abs(m1.unreconciled) > _DOLLAR:
        says = (
            f"{abs(m1.unreconciled):,.0f} between books and Schedule K is not explained. Look at rents, depreciation and entries."
        )
        yield found(m1.address("net"), says, code="us.m1.unreconciled")
    if abs(m2.ended - sheet.capital_ended) > _DOLLAR:
        says = f"Capital on the tax basis is {m2.ended:,.0f}, of the books {sheet.capital_ended:,.0f}. Keep a reconciliation."
        yield found(m2.address("ended"), says, code="us.capital.not-tied")
    for one in run.every("us.sch-k-1"):
        if one.capital < 0:
            says = f"{one.partner.called}: distributions and losses exceed what was put in. Liabilities must carry it."
            yield found(one.address("capital"), says, code="us.capital.negative")
    yield from _against_books(run, schedule, m2)


def _against_books(run, schedule, m2):
    drawn, given = debit_of(run, "draws", tax=False), total_of(schedule.distributed, schedule.distributed_property)
    if accounts_of(run, "draws") and abs(drawn - given) > _DOLLAR:
        says = f"Partners have {given:,.0f}, the accounts {drawn:,.0f}. Enter each partner's distributions."
        yield found(schedule.address("distributed"), says, code="us.draws.differ")
    paid = debit_of(run, "guaranteed", tax=False)
    if accounts_of(run, "guaranteed") and abs(paid - schedule.guaranteed) > _DOLLAR:
        says = f"Partners have {schedule.guaranteed:,.0f}, the accounts {paid:,.0f}. Enter each partner's payments."
        yield found(schedule.address("guaranteed"), says, code="us.guaranteed.differ")
    put_in, said = credit_of(run, "contributed", tax=False), total_of(m2.contributed, m2.contributed_property)
    if accounts_of(run, "contributed") and abs(put_in - said) > _DOLLAR:
        says = f"Partners have {said:,.0f}, the accounts {put_in:,.0f}. Enter each partner's contributions."
        yield found(m2.address("contributed"), says, code="us.contributed.differ")


@stops("us.1065.planning-year", "Forms for this year are not final", "unsupported")
@stops("us.1065.k-2", "Schedules K-2 and K-3", "unsupported", "Schedule K, line 16")
@stops("us.1065.debt", "Debt that was canceled", "unsupported", "IRC 108(d)(6)")
@stops("us.1065.foreign", "Foreign partnership", "unsupported", "IRC 6031(e)")
@stops("us.1065.method", "Another accounting method", "unsupported", "IRC 446(c)(4)")
@check("us.1065.state-return", "A state's partnership return", "unsupported", "state law")
@stops("us.1065.distributed-property", "Property distributed with gain", "unsupported", "IRC 704(c)(1)(B), 731(c), 737, 751(b)")
@check("us.1065.property-basis", "Property distributed to a partner", "unlikely", "IRC 731(b), 732(a), 733")
def unsupported(run):
    about = run.single("about")
    yield from not_final(run, "started", "us.1065.planning-year")
    rows = (
        ("foreign_items", about.foreign_items, "us.1065.k-2", "Schedules K-2 and K-3 are not made here yet."),
        ("debt_cancelled", about.debt_cancelled, "us.1065.debt", "Income of canceled debt has rules of its own."),
        ("entity_kind", about.entity_kind == "foreign", "us.1065.foreign", "Foreign partnerships are not made here."),
        ("method", about.method == "other", "us.1065.method", "Only cash and accrual are known here."),
    )  # fmt: skip
    yield from cannot_file(about, rows)
    yield from state_returns(run, NO_RETURN_OF_OWNERS, "partnership", "us.1065.state-return")
    for partner in run.papers("partner"):
        if partner.distributed_property and partner.distributed_as not in ("", "plain"):
            says = "Gain on property distributed is not computed here. It cannot be e-filed from here."
            yield found(partner.address("distributed_as"), says, code="us.1065.distributed-property")
        elif partner.distributed_property and partner.distributed_as:
            says = (
                f"{partner.called}'s basis in it is the partnership's, limited to the basis of the interest less cash (all of "
                "that basis in liquidation). Remove the property from the books and the asset register without gain."
            )
            yield found(partner.address("distributed_property"), says, code="us.1065.property-basis")


@check("us.1065.late-shares", "Penalty for late filing or Schedules K-1", "lost", "IRC 6698, 6722")
@check("us.1065.partners-cannot-elect", "Election out with a partner that may not be one", "rule", "IRC 6221(b)(1)(C)")
@check("us.1065.half-owner", "A partner with 50% or more, and Schedule B says no", "conflict", "Schedule B, line 2")
@idea("us.1065.small", "Schedules L, M-1 and M-2 are not required", "election", "Schedule B, line 4")
@check("us.1065.loss-limits", "Losses that owners may not be able to deduct", "unlikely", "IRC 704(d)")
def answers(run):
    about, partners, page = run.single("about"), run.papers("partner"), run.form("us.1065")
    if about.filed_in_time is False:
        says = "Each month late costs for every partner. Ask for relief with the return, or expect a notice."
        yield found(about.address("filed_in_time"), says, code="us.1065.late-shares")
    barred = next((one for one in partners if one.sort in ("partnership", "trust", "ira")), None)
    if about.elects_out and barred is not None:
        says = (
            f"{barred.called} is a {barred.fields()['sort'].options[barred.sort].lower()}. Then the partnership cannot elect out."
        )
        yield found(about.address("elects_out"), says, code="us.1065.partners-cannot-elect")
    half = next((one for one in partners if max(one.at("profit", True), one.at("capital", True)) >= 50), None)
    if about.owned_half is False and half is not None:
        says = f"{half.called} has half or more. Answer yes, and attach Schedule B-1."
        yield found(about.address("owned_half"), says, code="us.1065.half-owner")
    sheet = run.form("us.sch-l")
    if about.filed_in_time and page.receipts < 250_000 and sheet.assets_ended < 1_000_000 and run.single("books").rows:
        says = "Receipts are below 250,000 and assets below 1,000,000. They are filed with it all the same."
        yield found(about.address("filed_in_time"), says, code="us.1065.small")
    for one in run.every("us.sch-k-1"):
        if one.net < 0 and one.capital < 0 and not (one.recourse or one.qualified or one.nonrecourse):
            says = f"{one.partner.called}'s losses exceed capital and liabilities. They wait in the owner's return: tell them."
            yield found(one.address("capital"), says, code="us.1065.loss-limits")


@check("us.1065.not-general", "General partnership with a partner who is not general", "conflict", "Schedule B, line 1")
@check("us.1065.no-general", "Limited partnership without a general partner", "conflict", "Schedule B, line 1")
@check("us.1065.no-manager", "LLC without a member-manager", "unlikely", "Schedule K-1, item G")
@check("us.partner.health-above", "Partner's health insurance above guaranteed payments", "conflict", "Rev. Rul. 91-26")
@check("us.1065.debt-kinds", "Liabilities by kind above the balance sheet", "conflict", "26 CFR 1.752-1")
@check("us.1065.qualified-no-property", "Qualified nonrecourse financing without real property", "conflict", "IRC 465(b)(6)")
def kinds(run):
    about, every, sheet = run.single("about"), run.papers("partner"), run.form("us.sch-l")
    general = [one for one in every if one.general]
    at = about.address("entity_kind")
    if about.entity_kind == "general" and every and len(general) < len(every):
        yield found(at, "All partners of it are general. Correct item G, or its type.", code="us.1065.not-general")
    if about.entity_kind == "limited" and every and not general:
        yield found(at, "It has one at least. Correct item G.", code="us.1065.no-general")
    if about.entity_kind == "llc" and every and not general:
        says = "Then all bear recourse debt here, and nobody's share is self-employment income. Check item G."
        yield found(at, says, code="us.1065.no-manager")
    for one in every:
        if one.health_insurance > one.services + one.for_capital:
            says = f"{one.called}: insurance that the partnership paid is a guaranteed payment. Add it there."
            yield found(one.address("health_insurance"), says, code="us.partner.health-above")
    if about.nonrecourse + about.qualified > sheet.owed + _DOLLAR:
        says = f"The balance sheet owes {sheet.owed:,.0f}. Correct one."
        yield found(about.address("nonrecourse" if about.nonrecourse else "qualified"), says, code="us.1065.debt-kinds")
    if about.qualified and not run.papers("rental") and not accounts_of(run, "buildings", "land"):
        says = "It is secured by real property that is used in the activity. No account and no property is that."
        yield found(about.address("qualified"), says, code="us.1065.qualified-no-property")


CHECKS = (*ENTITY, partners, allocations, closing, built_in, adjusted, reconciled, withheld, unsupported, answers, kinds)
