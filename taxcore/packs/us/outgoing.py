"""What may go with a return that is e-filed, who may sign for somebody, why a return goes on paper and where to mail it."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine.outgoing import Attachable, Capacity, MailTo, Outgoing, PaperReason

_ATTACHABLE = (
    Attachable("statement", "Broker statement supporting summary totals", "Form 8949, exception 2; Form 8453"),
    Attachable("power-of-attorney", "Form 2848 or other power of attorney", "26 CFR 1.6012-1(a)(5); Form 8453"),
    Attachable("court-certificate", "Court certificate of an appointment", "26 CFR 1.6012-3(b)"),
    Attachable("spouse-statement", "Statement of the spouse who signs for the other", "26 CFR 1.6012-1(a)(5)"),
    Attachable("release", "Form 8332 or other release of a child", "IRC 152(e)(2); Form 8453"),
    Attachable("donation", "Form 8283, Section B, or an appraisal", "26 CFR 1.170A-16; Form 8453"),
    Attachable("vehicle", "Form 1098-C", "IRC 170(f)(12); Form 8453"),
    Attachable("election", "Election", "26 CFR 301.9100-8"),
    Attachable("computation", "Supporting computation"),
    Attachable("explanation", "Explanation"),
)

_CAPACITIES = (
    Capacity("agent", "agent with a power of attorney", "power-of-attorney", "26 CFR 1.6012-1(a)(5)"),
    Capacity("guardian", "guardian or other fiduciary", "court-certificate", "IRC 6012(b)(2); 26 CFR 1.6012-3(b)"),
    Capacity("spouse", "spouse, because of disease or injury", "spouse-statement", "26 CFR 1.6012-1(a)(5)"),
    Capacity("executor", "personal representative of the estate", "court-certificate", "IRC 6012(b)(1); 26 CFR 1.6012-3(b)(1)"),
    Capacity("charged", "person charged with the decedent's property", "", "IRC 6012(b)(1); Form 1310"),
    Capacity("parent", "parent of a minor child", "", "26 CFR 1.6012-1(a)(4)"),
)

_REASONS = (
    PaperReason("chosen", "The taxpayer chose to file on paper", "Date of the taxpayer's signed statement that says so",
                "26 CFR 301.6011-7(a)(4)(ii); Rev. Proc. 2011-25; Form 8948, line 1"),
    PaperReason("waiver", "The preparer has a waiver for the year", "Reference number and date of the waiver",
                "Form 8948, line 2"),
    PaperReason("religion", "The preparer's religious group is opposed to e-filing", "", "Form 8948, line 3"),
    PaperReason("rejected", "The e-filed return was rejected and could not be mended", "Code of the rejection, and the tries",
                "Form 8948, line 4"),
    PaperReason("unsupported", "A form or attachment cannot be e-filed", "Which one", "Form 8948, lines 5 and 6"),
    PaperReason("other", "Another circumstance that makes e-filing impossible", "What it is", "Form 8948, line 6"),
)  # fmt: skip


@cache
def _mailing() -> dict[str, Any]:
    return tomllib.loads((Path(__file__).parent / "mailing.toml").read_text())


def mail_to(code: str, region: str, owing: bool) -> MailTo | None:
    """The address for a return on paper of somebody who lives in `region`; with `owing` a payment is in the envelope."""
    for row in _mailing().get(code, {}).get("rows", ()):
        if "regions" not in row or region in row["regions"]:
            return MailTo(tuple(row["owing" if owing else "plain"]), _mailing()[code]["source"])
    return None


_DECLARED = (
    "Under penalties of perjury, I declare that I have examined a copy of this return with its schedules and statements, and "
    "that to the best of my knowledge and belief it is true, correct and complete."
)
# A preparer's number: IRC 6109(a)(4), 26 CFR 1.6109-2
OUTGOING = Outgoing(
    _ATTACHABLE, _CAPACITIES, _REASONS, "8948", "PTIN", r"P[0-9]{8}", mail_to,
    signs=f"{_DECLARED} I authorize {{practice}} to e-file my {{authority}} return.",
    authorizes=(
        "Under penalties of perjury, I declare that I have examined a copy of my {year} return with its schedules and "
        "statements, and that to the best of my knowledge and belief it is true, correct and complete. The amounts in Part I are "
        "those of that return. I consent to {practice} e-filing my {authority} return, and to receiving the acknowledgment, the "
        "reason for any "
        "rejection or delay, and the date of any refund. If I requested direct debit, I authorize the U.S. Treasury or the state "
        "to initiate it from the account on the return."
    ),
    signs_on_paper=(
        "Under penalties of perjury, I declare that I have examined this return and its accompanying schedules and statements, "
        "and that to the best of my knowledge and belief they are true, correct and complete."
    ),
    originator=True, filing_number="EFIN",
)  # fmt: skip
