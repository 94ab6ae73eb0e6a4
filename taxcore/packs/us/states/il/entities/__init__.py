"""Illinois' returns of partnerships, S corporations and corporations: each joins the federal return of its kind."""

from dataclasses import dataclass

from taxcore.engine import Authority
from taxcore.packs.us import holidays
from taxcore.packs.us.entity.receipts import Receipts
from taxcore.packs.us.states.base import folder, has_law
from taxcore.packs.us.states.il.entities import corporation, pass_through
from taxcore.packs.us.states.il.entities.base import Extension, Losses, OwnDepreciation, files_here
from taxcore.packs.us.states.il.entities.checks import CHECKS
from taxcore.packs.us.states.il.entities.papers import CorporationQuestions, PartnershipQuestions, ShareholderQuestions

LAW = folder("IL")


@dataclass(frozen=True)
class Joined:
    """What the pack of a kind of entity gets."""

    authority: Authority
    papers: tuple
    forms: tuple
    checks: tuple = CHECKS


def _authority(kind, code, form, due, declaration, figures):
    return Authority(
        code=code, name="Illinois", form=form, refund="refund", owed="owed", return_type=form.number.replace("-", ""),
        due=due, applies=files_here, after=f"us-{kind}", has_law=lambda run: has_law(run, "IL"), declaration=declaration,
        closed=holidays.of_state("IL"), tax="total_tax", income="base_income", authorized=figures,
        how_to_pay="Pay on MyTax Illinois, or mail a check with the voucher of the form; name the EIN and the tax year.",
    )  # fmt: skip


_OWN = (Losses, OwnDepreciation, Extension)
_FIGURES = (("base_income", 0), ("total_tax", 0), ("refund", 0), ("owed", 0))
PARTNERSHIP = Joined(
    _authority("1065", "us-il-1065", pass_through.PartnershipReturn, (4, 15), "IL-8453-P", _FIGURES),
    (Receipts, PartnershipQuestions), (pass_through.PartnershipReturn, pass_through.PartnersShare, *_OWN),
)  # fmt: skip
S_CORPORATION = Joined(
    _authority("1120s", "us-il-st", pass_through.SmallCorporationReturn, (3, 15), "IL-8453-C", _FIGURES),
    (Receipts, ShareholderQuestions), (pass_through.SmallCorporationReturn, pass_through.ShareholdersShare, *_OWN),
)  # fmt: skip
CORPORATION = Joined(
    _authority("1120", "us-il-1120", corporation.CorporationReturn, (4, 15), "IL-8453-C", _FIGURES),
    (Receipts, CorporationQuestions), (corporation.CorporationReturn, *_OWN),
)  # fmt: skip
