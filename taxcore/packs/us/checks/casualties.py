"""Casualties: what is missing or contradicts, where a state counts otherwise. IRC 165(h), 1033."""

from taxcore.engine import check, found, idea, stops
from taxcore.packs.us import places
from taxcore.packs.us.states.conformity import rule


@check("us.casualty.no-disaster", "Casualty without a federally declared disaster", "rule", "IRC 165(h)(5)(A)")
@stops("us.casualty.other-year", "Casualty in another tax year", "conflict", "IRC 165(a)")
@check("us.casualty.after-above", "Casualty: value after exceeds value before", "conflict", "26 CFR 1.165-7(b)")
@check("us.casualty.reimbursed", "Casualty: insurance reimbursement not answered", "missing", "IRC 165(h)(4)(E)")
@check("us.casualty.basis-missing", "Casualty: cost or other basis is empty", "missing", "26 CFR 1.165-7(b)(1)")
@idea("us.casualty.replaced", "Casualty gain: replacement election", "election", "IRC 1033(a)(2), (h)")
@check("us.casualty.qualified-undeclared", "Qualified disaster without a FEMA declaration number", "conflict", "P.L. 118-148")
def things(run):
    for form in run.every("us.4684-property"):
        one = form.paper
        if form.loss > 0 and not one.disaster:
            says = "It counts against gains of casualties alone. Was a federal disaster declared? Enter its number."
            yield found(one.address("disaster"), says, code="us.casualty.no-disaster")
        if one.qualified and not one.disaster:
            says = "A qualified disaster is a declared one. Enter its number."
            yield found(one.address("disaster"), says, code="us.casualty.qualified-undeclared")
        if one.happened is not None and one.happened.year != run.year:
            says = "A loss is of its year; of a disaster also of the year before, by election. Check the day."
            yield found(one.address("happened"), says, code="us.casualty.other-year")
        if one.after > one.before:
            yield found(one.address("after"), "Then nothing was lost. Check both amounts.", code="us.casualty.after-above")
        if form.loss > 0 and not one.is_keyed("reimbursed"):
            says = "What insurance pays, or would have paid had it been claimed, is no loss. Enter it, zero if none."
            yield found(one.address("reimbursed"), says, code="us.casualty.reimbursed")
        if one.before and not one.is_keyed("basis"):
            says = "A loss is no more than the basis. Enter it; zero if there was none."
            yield found(one.address("basis"), says, code="us.casualty.basis-missing")
        if form.gain > 0:
            says = "Whoever replaces it in time may put the gain off. That is not made here."
            yield found(form.address("gain"), says, code="us.casualty.replaced")


@stops("us.casualty.entered-there", "Casualty loss entered among itemized deductions", "conflict", "Form 4684")
@stops("us.casualty.state", "Qualified disaster loss with a state standard deduction", "unsupported", "state law")
def together(run):
    if run.single("itemized").casualty:
        says = "Enter it on “Casualty or theft”, thing by thing, and empty this field."
        yield found(run.single("itemized").address("casualty"), says, code="us.casualty.entered-there")
    if run.is_idle("us.4684") or run.form("us.1040").is_itemised or run.form("us.4684").net_qualified <= 0:
        return
    for home in places.made(run):
        own = rule(home.state)
        if own is None or own.own_deduction:
            says = f"What {home.name} takes over of it is not known here. Its return waits."
            yield found(run.form("us.4684").address("net_qualified"), says, code="us.casualty.state")


CHECKS = (things, together)
