"""Diagnostics of a return that corrects one which was filed. IRC 6402, 6511, 6013(b)."""

from taxcore.engine import check, declares, found, stops
from taxcore.engine.amending import corrects, differing
from taxcore.engine.checks import STOPS, Diagnostic
from taxcore.packs.us import correcting

_AT = "us.amendment"


@declares(
    Diagnostic("us.amendment.corrects-nothing", STOPS, "Correction without a filed return", "conflict"),
    Diagnostic("us.amendment.not-there", STOPS, "Correction without its explanation", "missing", "26 CFR 301.6402-2(b)"),
)
def paper_fits(run):
    there = bool(run.papers("amendment"))
    if run.amends is None and there:
        yield found(_AT, "This return corrects none that was filed. Remove the correction.", code="us.amendment.corrects-nothing")
    if run.amends is not None and not there:
        says = "This return corrects one that was filed, and does not say why. Add the paper “Correction”."
        yield found(_AT, says, code="us.amendment.not-there")


@stops("us.amendment.nothing-moved", "Correction that changes nothing", "conflict")
def nothing_moved(run):
    if run.amends is None:
        return
    filed = [one for one in run.pack.authorities if one.code in run.amends.filed and one.applies(run)]
    new = [one for one in run.pack.authorities if one.code not in run.amends.filed and one.applies(run) and one.files(run)]
    if not new and not any(correcting.sent_anyway(run, one) or any(differing(run, one)) for one in filed):
        says = "No figure is other than as filed, so nothing would be sent. Enter the change, or mark who gets it unchanged."
        yield found(_AT, says)


@stops("us.amendment.split-refund", "Refund of a correction split over accounts", "rule", "Form 8888 instructions")
def split_refund(run):
    if _is_corrected(run) and run.single("split-deposit").rows:
        says = "The refund of a correction cannot be split over several accounts. Remove Form 8888."
        yield found("us.split-deposit.rows", says)


@stops("us.amendment.joint-to-separate", "Joint return changed to separate", "rule", "IRC 6013(b); 26 CFR 1.6013-1(a)(1)")
def joint_to_separate(run):
    if not _is_corrected(run):
        return
    before = next((paper.values.get("status") for paper in run.amends.of_kind("filing")), None)
    if before == "joint" and run.single("filing").status == "separate":
        says = "A joint return cannot be changed to separate ones after its due date. Restore the joint status."
        yield found("us.filing.status", says)


@check("us.amendment.applied-before", "Overpayment applied changed by a correction", "election", "26 CFR 301.6402-3(a)(5)")
def applied_before(run):
    """What was applied to next year with the original stays applied."""
    if not _is_corrected(run):
        return
    form = run.form("us.1040")
    then = form.as_filed("applied")
    if form.applied != then:
        says = (
            f"{then:,.0f} was applied to next year with the original, and that stays so. Enter what is to be applied of this "
            "correction under “Correction”."
        )
        yield found("us.deposit.applied_to_next_year", says)


@stops("us.amendment.more-applied-than-refunded", "More applied than this correction refunds", "conflict")
def more_applied(run):
    if _is_corrected(run) and (form := run.form("us.1040-x")).applied > form.overpaid:
        says = f"{form.applied:,.0f} is to be applied to next year; this correction overpays {form.overpaid:,.0f}."
        yield found(run.single("amendment").address("applied_to_next_year"), says)


@declares(
    Diagnostic("us.amendment.nobody-there", STOPS, "Settlement with an authority that has no return", "conflict"),
    Diagnostic("us.amendment.twice", STOPS, "Two settlements with one authority", "conflict"),
)
def settled_rows(run):
    if run.amends is None:
        return
    seen = set()
    for row in run.single("amendment").settled:
        code = "us" if row.authority == "US" else f"us-{row.authority.lower()}"
        if not row.authority:
            continue
        if code not in run.amends.filed:
            says = "Nothing was filed with that authority. Remove the row."
            yield found(row.address("authority"), says, code="us.amendment.nobody-there")
        if code in seen:
            says = "This authority has two rows, and only the first counts. Put them together."
            yield found(row.address("authority"), says, code="us.amendment.twice")
        seen.add(code)


@check("us.amendment.schedule-1-a-line", "Form 1040-X: line of the deductions of Schedule 1-A", "unlikely")
def additional_line(run):
    if _is_corrected(run) and (form := run.form("us.1040-x")).additional:
        says = "Deductions of Schedule 1-A are on line 4a here. The number is not confirmed against the printed form: check it."
        yield found(form.address("additional"), says)


def _is_corrected(run):
    return run.amends is not None and corrects(run, run.pack.authority("us"))


CHECKS = (
    paper_fits, nothing_moved, split_refund, joint_to_separate, applied_before, more_applied, settled_rows, additional_line,
)  # fmt: skip
