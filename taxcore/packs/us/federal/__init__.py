"""Federal forms of the individual return, in official order."""

from taxcore.packs.us.federal.adjustments import AdditionalDeductions, Adjustments
from taxcore.packs.us.federal.child_credit import ChildCredit
from taxcore.packs.us.federal.dependants import Dependant
from taxcore.packs.us.federal.earned_income import EarnedIncomeCredit
from taxcore.packs.us.federal.income import IncomeTaxReturn
from taxcore.packs.us.federal.interest import Interest
from taxcore.packs.us.federal.other_payments import OtherPayments
from taxcore.packs.us.federal.other_taxes import AdditionalMedicareTax, NetInvestmentIncomeTax, OtherTaxes
from taxcore.packs.us.federal.standard_deduction import StandardDeduction

FORMS = (
    IncomeTaxReturn, Adjustments, AdditionalDeductions, OtherTaxes, OtherPayments, Interest, ChildCredit,
    AdditionalMedicareTax, NetInvestmentIncomeTax, StandardDeduction, EarnedIncomeCredit, Dependant,
)  # fmt: skip

__all__ = ["FORMS", "IncomeTaxReturn"]
