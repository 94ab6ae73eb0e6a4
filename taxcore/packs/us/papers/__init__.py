"""What can be entered for an American individual return, in the order the index lists it."""

from taxcore.packs.us.basis.papers import PAPERS as BASES
from taxcore.packs.us.farm.papers import PAPERS as FARMS
from taxcore.packs.us.papers.abroad import ForeignEarned
from taxcore.packs.us.papers.adjustments import HealthSavings, LoanInterest, PersonalAdjustments, SavingsDistribution
from taxcore.packs.us.papers.amending import Amendment
from taxcore.packs.us.papers.annualized import Annualized
from taxcore.packs.us.papers.business import BusinessBooks, MiscellaneousStatement, NonemployeeStatement, PaymentCardStatement
from taxcore.packs.us.papers.business_credits import BusinessCredits
from taxcore.packs.us.papers.credits import (
    CareProvider,
    CareQuestions,
    CarriedCredits,
    EnergyCosts,
    ForeignCategory,
    ForeignTaxQuestions,
    MarketplaceStatement,
    PremiumCreditQuestions,
    TuitionStatement,
)
from taxcore.packs.us.papers.decedent import Decedent
from taxcore.packs.us.papers.deductions import CarLoan, Casualty, Gift, GiftCarryover, Itemizing, MortgageStatement
from taxcore.packs.us.papers.denied import DeniedBefore
from taxcore.packs.us.papers.diligence import Diligence, DiligenceForChild, DiligenceForStudent
from taxcore.packs.us.papers.family_credits import PAPERS as FAMILY
from taxcore.packs.us.papers.household import HouseholdEmployees
from taxcore.packs.us.papers.interest import DiscountStatement, InterestStatement
from taxcore.packs.us.papers.investments import BrokerStatement, CapitalCarryover, DigitalAssetStatement, DividendStatement
from taxcore.packs.us.papers.other_income import GamblingStatement, OperatingLosses, OtherIncome, PublicPayments
from taxcore.packs.us.papers.payments import (
    BalanceDebit,
    Estimates,
    Extension,
    MinimumTaxItems,
    NextYear,
    ParentsFigures,
    PenaltyQuestions,
    PriorYear,
    SplitDeposit,
)
from taxcore.packs.us.papers.people import Deposit, Filing, UnitedStatesPerson
from taxcore.packs.us.papers.places import Residency, StateExtensions, StateReturns
from taxcore.packs.us.papers.retirement import BenefitStatement, EducationAccount, RetirementAccounts, RetirementDistribution
from taxcore.packs.us.papers.shares import SHARES, QualifiedLoss
from taxcore.packs.us.papers.wages import WageStatement
from taxcore.packs.us.property.exchanges import Exchange
from taxcore.packs.us.property.homes import HomeSale
from taxcore.packs.us.property.installments import Installment
from taxcore.packs.us.property.papers import PAPERS as PROPERTY

PAPERS = (
    Amendment, Filing, Decedent, ParentsFigures, WageStatement, InterestStatement, DiscountStatement, DividendStatement,
    BrokerStatement, DigitalAssetStatement, CapitalCarryover, RetirementDistribution, BenefitStatement, PublicPayments,
    BusinessBooks, *FARMS, NonemployeeStatement, MiscellaneousStatement, PaymentCardStatement, *SHARES, *BASES, QualifiedLoss,
    *PROPERTY, Installment, Exchange, HomeSale, GamblingStatement, EducationAccount, OtherIncome, OperatingLosses,
    PersonalAdjustments, ForeignEarned, RetirementAccounts, HealthSavings, SavingsDistribution, LoanInterest, Itemizing,
    MortgageStatement, Gift, GiftCarryover, Casualty, CarLoan, MinimumTaxItems, CareProvider, CareQuestions,
    HouseholdEmployees, TuitionStatement,
    EnergyCosts, MarketplaceStatement, PremiumCreditQuestions, ForeignTaxQuestions, ForeignCategory, CarriedCredits,
    BusinessCredits, DeniedBefore, *FAMILY,
    Estimates, PriorYear, PenaltyQuestions, Annualized, Extension, StateExtensions, NextYear, Deposit, SplitDeposit,
    BalanceDebit, Residency, StateReturns, Diligence, DiligenceForChild, DiligenceForStudent,
)  # fmt: skip

__all__ = ["PAPERS", "UnitedStatesPerson"]
