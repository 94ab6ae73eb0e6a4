"""Federal forms of the individual return, in official order; worksheets after them."""

from taxcore.packs.us.basis.forms import AtRisk, PartnerBasis, ShareholderBasis
from taxcore.packs.us.farm.forms import Farm
from taxcore.packs.us.federal.additional_deductions import AdditionalDeductions
from taxcore.packs.us.federal.adjustments import Adjustments
from taxcore.packs.us.federal.adoption import AdoptedChild, Adoption
from taxcore.packs.us.federal.amended import AmendedReturn
from taxcore.packs.us.federal.annualized import AnnualizedInstallments
from taxcore.packs.us.federal.benefits import Benefits
from taxcore.packs.us.federal.business import Business
from taxcore.packs.us.federal.business_credits import FORMS as BUSINESS_CREDITS
from taxcore.packs.us.federal.capital_gains import CapitalGains, LossCarryover, Sales
from taxcore.packs.us.federal.care import CareCredit
from taxcore.packs.us.federal.casualties import Casualties, LostThing
from taxcore.packs.us.federal.child_credit import ChildCredit
from taxcore.packs.us.federal.child_tax import ChildTax
from taxcore.packs.us.federal.credits_and_payments import CreditsAndPayments
from taxcore.packs.us.federal.decedent import DeceasedRefund
from taxcore.packs.us.federal.denied import ClaimedAgain, ClaimedAgainForChild
from taxcore.packs.us.federal.dependants import Dependant
from taxcore.packs.us.federal.diligence import PreparersChecklist
from taxcore.packs.us.federal.distributions import Distribution, SimplifiedMethod
from taxcore.packs.us.federal.earned_income import EarnedIncomeCredit, ScheduleEIC
from taxcore.packs.us.federal.education import EducationCredits, Student
from taxcore.packs.us.federal.employed import Contracts, HouseholdTaxes, Moving, UnreportedTips
from taxcore.packs.us.federal.energy import EnergyCredits
from taxcore.packs.us.federal.excess_loss import BusinessLossLimit
from taxcore.packs.us.federal.foreign_earned import ForeignEarnedIncome, ForeignEarnedTax
from taxcore.packs.us.federal.foreign_tax import ForeignTax, ForeignTaxOfCategory
from taxcore.packs.us.federal.gifts import Gifts, NonCashGifts
from taxcore.packs.us.federal.health_savings import HealthSavings
from taxcore.packs.us.federal.home_office import HomeOffice
from taxcore.packs.us.federal.income import IncomeTaxReturn
from taxcore.packs.us.federal.interest import Interest
from taxcore.packs.us.federal.interest_limits import InvestmentInterest, MortgageInterest
from taxcore.packs.us.federal.ira_basis import Basis
from taxcore.packs.us.federal.ira_deduction import IraDeduction
from taxcore.packs.us.federal.itemized import Itemized
from taxcore.packs.us.federal.minimum_tax import ExclusionItems, ForeignTaxOfMinimum, MinimumTax
from taxcore.packs.us.federal.operating_loss import OperatingLoss
from taxcore.packs.us.federal.other_taxes import AdditionalMedicareTax, NetInvestmentIncomeTax, OtherTaxes
from taxcore.packs.us.federal.passive_trades import PassiveTrade
from taxcore.packs.us.federal.paying import Extension, NextYear, SplitRefund, Voucher
from taxcore.packs.us.federal.personal_credits import Elderly, MinimumTaxCredit, MortgageCredit
from taxcore.packs.us.federal.preferred_rates import QualifiedDividends, ScheduleDTax
from taxcore.packs.us.federal.premium_credit import PremiumCredit
from taxcore.packs.us.federal.qualified_business import LimitedBusiness, LimitedBusinessIncome, QualifiedBusiness, QualifiedIncome
from taxcore.packs.us.federal.retirement import AdditionalRetirementTax
from taxcore.packs.us.federal.savers import SaversCredit, SaversShare
from taxcore.packs.us.federal.self_employed_health import SelfEmployedHealth
from taxcore.packs.us.federal.self_employment import EarnedIncome, Plans, SelfEmploymentTax
from taxcore.packs.us.federal.shares import Partnerships, Share
from taxcore.packs.us.federal.standard_deduction import StandardDeduction
from taxcore.packs.us.federal.state_refund import StateRefund
from taxcore.packs.us.federal.student_loans import StudentLoans
from taxcore.packs.us.federal.underpayment import FarmersUnderpayment, Underpayment
from taxcore.packs.us.federal.vehicles import CleanVehicles, OneVehicle
from taxcore.packs.us.property.assets import Depreciation, Form4562, Section179
from taxcore.packs.us.property.exchanges import LikeKindExchange
from taxcore.packs.us.property.homes import SaleOfHome
from taxcore.packs.us.property.installments import InstallmentSale
from taxcore.packs.us.property.rents import PassiveLosses, RentalIncome
from taxcore.packs.us.property.sales import Form4797, Sale

FORMS = (
    AmendedReturn, IncomeTaxReturn, Adjustments, AdditionalDeductions, OtherTaxes, CreditsAndPayments, Itemized,
    Interest, Business, CapitalGains, Sales, RentalIncome, Partnerships, Farm, ScheduleEIC, HouseholdTaxes, Elderly,
    SelfEmploymentTax, BusinessLossLimit, ChildCredit, ForeignTax, ForeignTaxOfCategory, ForeignTaxOfMinimum, DeceasedRefund,
    Underpayment, AnnualizedInstallments, FarmersUnderpayment,
    CareCredit, ForeignEarnedIncome, *BUSINESS_CREDITS, InvestmentInterest, Casualties, AdditionalRetirementTax,
    EnergyCredits, AtRisk, MinimumTax, UnreportedTips, InstallmentSale, Contracts, Moving, SelfEmployedHealth, NonCashGifts,
    Basis, ChildTax, HomeOffice, EducationCredits, SaversCredit, HealthSavings, AdditionalMedicareTax, NetInvestmentIncomeTax,
    ShareholderBasis, LikeKindExchange, PremiumCredit, Adoption, CleanVehicles, MortgageCredit, MinimumTaxCredit,
    ClaimedAgain, Form4562, Form4797, PassiveLosses, PreparersChecklist, QualifiedBusiness, LimitedBusinessIncome,
    Extension, SplitRefund, Voucher, NextYear, StandardDeduction, EarnedIncomeCredit, EarnedIncome, Dependant,
    QualifiedDividends, ScheduleDTax, ForeignEarnedTax, LossCarryover, Benefits, IraDeduction, StudentLoans, StateRefund,
    Distribution,    SimplifiedMethod, Plans, MortgageInterest, Gifts, QualifiedIncome, ExclusionItems, LimitedBusiness,
    Student, SaversShare, Section179, Depreciation, Sale, SaleOfHome, OperatingLoss, OneVehicle, LostThing, Share,
    ClaimedAgainForChild, PassiveTrade, PartnerBasis, AdoptedChild,
)  # fmt: skip

__all__ = ["FORMS", "IncomeTaxReturn"]
