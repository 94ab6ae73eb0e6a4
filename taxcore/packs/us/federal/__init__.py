"""Federal forms of the individual return, in official order; worksheets after them."""

from taxcore.packs.us.federal.adjustments import AdditionalDeductions, Adjustments, StateRefund, StudentLoans
from taxcore.packs.us.federal.business import Business, EarnedIncome, HomeOffice, Partnerships, Plans, SelfEmploymentTax
from taxcore.packs.us.federal.capital_gains import CapitalGains, LossCarryover, Sales
from taxcore.packs.us.federal.care import CareCredit
from taxcore.packs.us.federal.child_credit import ChildCredit
from taxcore.packs.us.federal.child_tax import ChildTax
from taxcore.packs.us.federal.credits_and_payments import CreditsAndPayments
from taxcore.packs.us.federal.dependants import Dependant
from taxcore.packs.us.federal.earned_income import EarnedIncomeCredit, ScheduleEIC
from taxcore.packs.us.federal.education import EducationCredits, Student
from taxcore.packs.us.federal.energy import EnergyCredits
from taxcore.packs.us.federal.foreign_tax import ForeignTax
from taxcore.packs.us.federal.health_savings import HealthSavings
from taxcore.packs.us.federal.income import IncomeTaxReturn
from taxcore.packs.us.federal.interest import Interest
from taxcore.packs.us.federal.itemized import Gifts, InvestmentInterest, Itemized, MortgageInterest, NonCashGifts
from taxcore.packs.us.federal.minimum_tax import MinimumTax
from taxcore.packs.us.federal.other_taxes import AdditionalMedicareTax, NetInvestmentIncomeTax, OtherTaxes
from taxcore.packs.us.federal.paying import Extension, NextYear, SplitRefund, Voucher
from taxcore.packs.us.federal.preferred_rates import QualifiedDividends, ScheduleDTax
from taxcore.packs.us.federal.premium_credit import PremiumCredit
from taxcore.packs.us.federal.qualified_business import (
    LimitedBusiness,
    LimitedBusinessIncome,
    QualifiedBusiness,
    QualifiedIncome,
)
from taxcore.packs.us.federal.retirement import (
    AdditionalRetirementTax,
    Basis,
    Benefits,
    Distribution,
    IraDeduction,
    SimplifiedMethod,
)
from taxcore.packs.us.federal.savers import SaversCredit, SaversShare
from taxcore.packs.us.federal.self_employed_health import SelfEmployedHealth
from taxcore.packs.us.federal.standard_deduction import StandardDeduction
from taxcore.packs.us.federal.underpayment import Underpayment

FORMS = (
    IncomeTaxReturn, Adjustments, AdditionalDeductions, OtherTaxes, CreditsAndPayments, Itemized, Interest, Business,
    CapitalGains, Sales, Partnerships, ScheduleEIC, SelfEmploymentTax, ChildCredit,
    ForeignTax, Underpayment, CareCredit, InvestmentInterest, AdditionalRetirementTax, EnergyCredits, MinimumTax,
    SelfEmployedHealth, NonCashGifts, Basis, ChildTax, HomeOffice, EducationCredits, SaversCredit, HealthSavings,
    AdditionalMedicareTax, NetInvestmentIncomeTax, PremiumCredit, QualifiedBusiness, LimitedBusinessIncome,
    Extension, SplitRefund, Voucher, NextYear,
    StandardDeduction, EarnedIncomeCredit, EarnedIncome, Dependant, QualifiedDividends, ScheduleDTax, LossCarryover,
    Benefits, IraDeduction, StudentLoans, StateRefund, Distribution, SimplifiedMethod, Plans, MortgageInterest, Gifts,
    QualifiedIncome, LimitedBusiness, Student, SaversShare,
)  # fmt: skip

__all__ = ["FORMS", "IncomeTaxReturn"]
