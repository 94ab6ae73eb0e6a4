"""Federal forms of the individual return, in official order."""

from taxcore.packs.us.federal.adjustments import AdditionalDeductions, Adjustments
from taxcore.packs.us.federal.income import IncomeTaxReturn
from taxcore.packs.us.federal.interest import Interest
from taxcore.packs.us.federal.standard_deduction import StandardDeduction

FORMS = (IncomeTaxReturn, Adjustments, AdditionalDeductions, Interest, StandardDeduction)

__all__ = ["FORMS", "IncomeTaxReturn"]
