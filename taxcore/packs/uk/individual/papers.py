"""Papers of the self assessment return: who somebody is, employments, pensions, savings, a trade, property, gifts, gains."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Flag, Person, Prose, Row, Rows, Text, cents, share, total, when
from taxcore.packs.uk.balances import (
    ALLOWANCE_UNUSED,
    ASSETS,
    BUSINESS_LIFETIME,
    CAPITAL_LOSS,
    HOME_FINANCE,
    MAIN_POOL,
    PARTNER_CLASS_4,
    PARTNER_LOSS,
    PARTNER_PROPERTY,
    PARTNER_TRANSITION,
    PROPERTY_LOSS,
    SPECIAL_POOL,
    TRADE_CLASS_4,
    TRADE_LOSS,
    TRANSITION,
    UNREMITTABLE,
)  # fmt: skip
from taxcore.packs.uk.base import REGIONS, BritishPaper
from taxcore.packs.uk.individual.choices import (
    COSTS,
    FOREIGN_KINDS,
    GAIN_RELIEFS,
    KINDS_OF_ASSET,
    LOANS,
    LOSS_USES,
    LUMP_SUMS,
    POOLS,
    RATES_OF,
    STAYS,
    TRADE_PAGES,
)

_NINO = r"[A-CEGHJ-PR-TW-Z][A-CEGHJ-NPR-TW-Z]\d{6}[A-D]"
_YEAR = r"20\d\d"


class Taxpayer(Person):
    """The one whose return it is. TMA 1970 s. 8."""

    jurisdiction = "uk"

    first_name = Text(None, "First names", needed="The return carries them.", longest=40, kept=True)
    last_name = Text(None, "Last name", needed="The return carries it.", longest=40, kept=True)
    number = Text(
        None, "National Insurance number", secret=True, pattern=_NINO, shape="AB123456C", longest=9, kept=True,
        pattern_says="Two letters, six digits and a letter from A to D; D, F, I, Q, U and V are not used in front.",
    )  # fmt: skip
    reference = Text(
        None, "Unique Taxpayer Reference", secret=True, pattern=r"\d{10}", longest=10, kept=True,
        needed="HMRC knows the return by it.",
        pattern_says="Ten digits.",
    )  # fmt: skip
    birth_date = Day("1", "Date of birth", needed="Some allowances depend on it.", kept=True)

    @property
    def full_name(self):
        return f"{self.first_name} {self.last_name}".strip()


class About(BritishPaper):
    """What a return asks about somebody besides income. SA100, pages TR1, TR4, TR5."""

    kind, name, official, group = "about", "About the taxpayer", "SA100", "people"
    single, always, owned, said = True, True, False, "region"

    region = Choice(None, "Taxed as resident in", REGIONS, needed="It decides the bands of income tax.", kept=True)
    blind = Flag("13", "Registered blind or severely sight impaired", cites="ITA 2007 s. 38", kept=True)
    gives_allowance = Flag(None, "Transfers 10% of the personal allowance to the spouse", cites="ITA 2007 s. 55C")
    receives_allowance = Flag(None, "Receives it from the spouse", cites="ITA 2007 s. 55B")
    loan = Choice("1", "Student loan repaid", LOANS, cites="SI 2009/470", kept=True)
    postgraduate_loan = Flag("3", "Postgraduate loan repaid", cites="SI 2009/470", kept=True)
    child_benefit = Amount(None, "Child Benefit received", cites="ITEPA 2003 s. 681B", begins="Child Benefit")
    partner_earns_more = Flag(
        None, "The partner's income is higher", cites="ITEPA 2003 s. 681C", help="Then the charge is the partner's."
    )
    paid_on_account = Amount(None, "Payments on account made", begins="Payments")
    code_earlier = Amount(
        "7", "Underpaid tax of earlier years in the year's tax code", cites="SI 2003/2682, reg. 186",
        help="It is in the tax that was taken off, and not for this year.",
    )  # fmt: skip
    code_later = Amount("8", "Underpaid tax of the year in a later tax code", cites="SI 2003/2682, reg. 186")
    earlier_more = Amount("14", "More tax due for an earlier year by a claim", cites="TMA 1970 Sch. 1B")
    earlier_less = Amount("15", "Less tax due for an earlier year by a claim", cites="TMA 1970 Sch. 1B")
    reduced_to = Amount("10", "Next year's payments on account reduced to, each", cites="TMA 1970 s. 59A(4)")
    reduced_why = Text(None, "Why they are reduced", longest=200, wide=True)
    class_2 = Flag("36", "Class 2 contributions paid by choice", cites="SSCBA 1992 s. 11(6)", kept=True)


class Employment(BritishPaper):
    """One employment or office: P60 or P45, P11D. ITEPA 2003."""

    kind, name, official, group = "employment", "Employment", "SA102", "income"
    again, short, heading, main = True, "Pay", "employer", "pay"

    pay = Amount("1", "Pay from P60 or P45")
    tax = Amount("2", "UK tax taken off", negative=True)
    tips = Amount("3", "Tips and other payments not on P60")
    scheme = Text("4", "PAYE reference", longest=14, kept=True)
    employer = Text("5", "Employer", needed="The page names the employer.", longest=60, wide=True, kept=True)
    director = Flag("6", "Company director", kept=True)
    close_company = Flag("7", "Close company", kept=True)
    car = Amount("9", "Company cars and vans", cites="ITEPA 2003 ss. 120, 155", begins="Benefits from P11D")
    fuel = Amount("10", "Fuel for company cars and vans", cites="ITEPA 2003 ss. 149, 160")
    medical = Amount("11", "Private medical and dental insurance")
    vouchers = Amount("12", "Vouchers, credit cards and excess mileage")
    assets = Amount("13", "Goods and other assets provided")
    accommodation = Amount("14", "Accommodation provided")
    loan_benefit = Amount("15", "Other benefits")
    expenses_paid = Amount("16", "Expenses payments received")
    travel = Amount("17", "Business travel and subsistence", cites="ITEPA 2003 s. 337", begins="Expenses")
    fixed = Amount("18", "Fixed deductions for expenses")
    fees = Amount("19", "Professional fees and subscriptions", cites="ITEPA 2003 s. 344")
    other_expenses = Amount("20", "Other expenses and capital allowances")
    loan_begun = Amount(
        None, "Loan from the employer, when the year began", cites="ITEPA 2003 s. 175",
        begins="Interest-free or low-interest loan",
        help="Its benefit is worked out by the average of both days and the official rate.",
    )  # fmt: skip
    loan_ended = Amount(None, "When the year ended")
    loan_above = Flag(None, "Above 10,000 at some time between", cites="ITEPA 2003 s. 180")
    loan_interest = Amount(None, "Interest paid on it for the year", cites="ITEPA 2003 s. 175(3)")
    loan_deducted = Amount(None, "Student loan deducted by the employer", begins="Student loan")
    postgraduate_deducted = Amount(None, "Postgraduate loan deducted by the employer")


class Pension(BritishPaper):
    """State Pension, other pensions, retirement annuities. ITEPA 2003 Part 9."""

    kind, name, official, group = "pension", "Pension", "SA100, boxes 8 to 12", "income"
    again, short, heading, main = True, "Pension", "payer", "amount"

    payer = Text(None, "Payer", needed="It tells one pension from another.", longest=60, wide=True, kept=True)
    state = Flag(None, "State Pension", help="What was entitled to in the year, whether it was paid in it or not.", kept=True)
    amount = Amount("11", "Pension before tax")
    tax = Amount("12", "UK tax taken off", negative=True)
    lump_sum = Amount("9", "Lump sum before tax", begins="Lump sum", help="Of the State Pension it is taxed apart, at one rate.")
    lump_kind = Choice(
        None, "What it is", LUMP_SUMS, cites="ITEPA 2003 s. 636A", help="Of a pension other than the State Pension."
    )
    lump_taxed = Amount(None, "Of it, taxed with other income", cites="ITEPA 2003 ss. 636A, 636B")
    lump_tax = Amount("10", "UK tax taken off it")

    @lump_taxed.when_empty
    def _lump_taxed(self):
        """Three quarters of uncrystallised funds and small pots; of the State Pension nothing, it is taxed apart."""
        part = share(self.law.pensions.lump_sum_taxed, of=self.lump_sum)
        taxed = part if self.lump_kind == "uncrystallised" else total(self.lump_sum)
        return when(not self.state, taxed, "it is of the State Pension")


class Interest(BritishPaper):
    """Interest and alternative finance return from the UK. ITTOIA 2005 s. 369."""

    kind, name, official, group = "interest", "UK interest", "SA100, boxes 1 and 2", "income"
    again, short, heading, main = True, "Interest", "payer", "untaxed"

    payer = Text(None, "Bank or building society", needed="It tells one account from another.", longest=60, wide=True, kept=True)
    untaxed = Amount("2", "Interest, no tax taken off")
    taxed_net = Amount("1", "Taxed interest, after tax")


class Dividends(BritishPaper):
    """Dividends from UK companies, and from funds. ITTOIA 2005 ss. 383, 376."""

    kind, name, official, group = "dividends", "UK dividends", "SA100, boxes 4 and 5", "income"
    again, short, heading, main = True, "Dividends", "company", "dividends"

    company = Text(None, "Company or fund", needed="It tells one holding from another.", longest=60, wide=True, kept=True)
    dividends = Amount("4", "Dividends from UK companies")
    fund = Amount("5", "Dividends from authorised unit trusts and open-ended investment companies")


class DisallowedRow(Row):
    of = Choice(None, "Of which expenses", COSTS, needed="It is taken off those.")
    amount = Amount(None, "Disallowable", cites="ITTOIA 2005 ss. 33, 34")


class AssetRow(Row):
    what = Text(None, "What it is", longest=60, needed="It tells one from another.")
    pool = Choice(None, "Kind", POOLS, needed="The rate depends on it.")
    bought = Day(None, "Bought", needed="Allowances begin with it.")
    cost = Amount(None, "Cost")
    private = Count(None, "Private use, percent", most=100)
    before = Amount(None, "Worth when the year began", help="Of an asset with private use, once it has been written down.")
    sold = Day(None, "Sold or given away")
    proceeds = Amount(None, "For how much")


class EarlierRow(Row):
    of_year = Text(None, "Tax year, by the year it begins in", pattern=_YEAR, longest=4, pattern_says="Four digits, as 2024.",
                   needed="The loss is set against it.")  # fmt: skip
    income = Amount(None, "Income of that year", help="After other losses and pension payments deducted from it.")
    profit = Amount(None, "Of it, profit of this trade")
    tax_before = Amount(None, "Tax and class 4 of that year")
    tax_after = Amount(None, "The same with the loss set against it", help="A plan of that year with the loss gives it.")


class Trade(BritishPaper):
    """A business of one's own, on the short pages or the full ones. ITTOIA 2005 Part 2; CAA 2001."""

    kind, name, official, group = "trade", "Self-employment", "SA103S, SA103F", "income"
    again, short, heading, main = True, "Trade", "description", "turnover"

    description = Text("1", "Description of the business", needed="Box 1 asks for it.", longest=60, wide=True, kept=True)
    begun = Day("5", "Date the business began", kept=True)
    pages = Choice(None, "Pages", TRADE_PAGES, help="If empty, the short ones while turnover allows them.")
    ended = Day("6", "Date the business ceased")
    turnover = Amount("9", "Turnover", begins="Income")
    other = Amount("10", "Other business income")
    use_allowance = Flag("10.1", "Trading allowance instead of expenses", cites="ITTOIA 2005 s. 783AI")
    goods = Amount("11", COSTS["goods"], begins="Expenses")
    subcontractors = Amount(None, COSTS["subcontractors"])
    travel = Amount("12", COSTS["travel"], help="Without private use; mileage at the flat rates is below.")
    wages = Amount("13", COSTS["wages"])
    premises = Amount("14", COSTS["premises"])
    repairs = Amount("15", COSTS["repairs"])
    accountancy = Amount("16", COSTS["accountancy"])
    finance = Amount("17", COSTS["finance"])
    bank_charges = Amount(None, COSTS["bank_charges"])
    office = Amount("18", COSTS["office"])
    advertising = Amount(None, COSTS["advertising"])
    bad_debts = Amount(None, COSTS["bad_debts"])
    depreciation = Amount(None, COSTS["depreciation"], help="None of it is allowable.")
    rest = Amount("19", COSTS["rest"])
    disallowed = Rows(None, "Disallowable expenses", DisallowedRow)
    miles = Count(None, "Business miles by car or van", most=200_000, cites="ITTOIA 2005 s. 94F", begins="Flat rates")
    motorcycle_miles = Count(None, "Business miles by motor cycle", most=200_000, cites="ITTOIA 2005 s. 94F")
    home_25 = Count(None, "Months with 25 to 50 hours of work at home", most=12, cites="ITTOIA 2005 s. 94H")
    home_51 = Count(None, "Months with 51 to 100 hours", most=12)
    home_101 = Count(None, "Months with 101 hours or more", most=12)
    assets = Rows(None, "Plant, machinery and cars", AssetRow, kept=True, opens=ASSETS, begins="Capital allowances")
    main_before = Amount(None, "Main pool when the year began", cites="CAA 2001 s. 56", opens=MAIN_POOL)
    special_before = Amount(None, "Special rate pool when the year began", cites="CAA 2001 s. 104D", opens=SPECIAL_POOL)
    investment_allowance = Amount("23", "Annual Investment Allowance besides", cites="CAA 2001 s. 51A")
    small_pool = Amount("24", "Allowance for small balance of unrelieved expenditure besides", cites="CAA 2001 s. 56A")
    other_allowances = Amount("25", "Other capital allowances besides")
    balancing_charge = Amount("26", "Balancing charges besides")
    own_use = Amount("27", "Goods or services for own use", begins="Taxable profit")
    transition_part = Amount(
        "73.1", "Profit of the transition part", negative=True, cites="FA 2022 Sch. 1 para. 65", begins="Change of basis periods",
        help="Of 2023-24: from the end of the twelve months to 5 April 2024.",
    )  # fmt: skip
    overlap = Amount("69", "Overlap relief", cites="FA 2022 Sch. 1 para. 68")
    transition_more = Amount("73.4", "More of the transition profit by election", cites="FA 2022 Sch. 1 para. 73")
    transition_before = Amount("73.3", "Transition profit left to be charged", cites="FA 2022 Sch. 1 para. 72", opens=TRANSITION)
    loss_before = Amount("29", "Losses brought forward", cites="ITA 2007 s. 83", opens=TRADE_LOSS, begins="Losses")
    loss_use = Choice(None, "Loss of the year", LOSS_USES, cites="ITA 2007 ss. 64, 72, 83, 89", help="Needed where there is one.")
    end_before = Amount(
        None,
        "Loss of the last twelve months that fell in the year before",
        cites="ITA 2007 s. 90",
        help="Where the business ended.",
    )
    earlier = Rows(
        None, "Earlier years that the loss is set against", EarlierRow, cites="ITA 2007 ss. 64, 72, 89; TMA 1970 Sch. 1B"
    )
    class_4_before = Amount(
        None, "Losses set against other income before, for class 4", cites="SSCBA 1992 Sch. 2 para. 3(4)", opens=TRADE_CLASS_4
    )
    deducted = Amount("38", "Deductions of the Construction Industry Scheme", cites="FA 2004 s. 61", begins="Tax taken off")
    no_class_4 = Flag("37", "Exempt from class 4 contributions", cites="SI 2001/1004, reg. 91")


class Partnership(BritishPaper):
    """A share of a partnership's profit or loss, on the short pages or the full ones. ITTOIA 2005 Part 9."""

    kind, name, official, group = "partnership", "Partnership share", "SA104S, SA104F", "income"
    again, short, heading, main = True, "Partnership", "description", "share"

    partnership = Text(
        "1", "Partnership's Unique Taxpayer Reference", pattern=r"\d{10}", longest=10, pattern_says="Ten digits.", kept=True,
        needed="HMRC finds the partnership's return by it.",
    )  # fmt: skip
    description = Text("2", "Trade or profession", needed="Box 2 asks for it.", longest=60, wide=True, kept=True)
    begun = Day("3", "Date of becoming a partner", kept=True)
    ended = Day("4", "Date of leaving")
    share = Amount("8", "Share of the profit or loss", negative=True)
    transition_part = Amount(
        "10.1", "Share of the transition part", negative=True, cites="FA 2022 Sch. 1 para. 65", begins="Change of basis periods",
        help="Of 2023-24: from the end of the twelve months to 5 April 2024.",
    )  # fmt: skip
    overlap = Amount("11", "Overlap relief", cites="FA 2022 Sch. 1 para. 68")
    transition_more = Amount("11.2", "More of the transition profit by election", cites="FA 2022 Sch. 1 para. 73")
    transition_before = Amount(
        "11.3", "Transition profit left to be charged", cites="FA 2022 Sch. 1 para. 72", opens=PARTNER_TRANSITION
    )
    loss_before = Amount("17", "Losses brought forward", cites="ITA 2007 s. 83", opens=PARTNER_LOSS, begins="Losses")
    loss_use = Choice(None, "Loss of the year", LOSS_USES, cites="ITA 2007 ss. 64, 72, 83, 89", help="Needed where there is one.")
    end_before = Amount(
        None,
        "Loss of the last twelve months that fell in the year before",
        cites="ITA 2007 s. 90",
        help="Where the business ended.",
    )
    earlier = Rows(
        None, "Earlier years that the loss is set against", EarlierRow, cites="ITA 2007 ss. 64, 72, 89; TMA 1970 Sch. 1B"
    )
    class_4_before = Amount(
        None, "Losses set against other income before, for class 4", cites="SSCBA 1992 Sch. 2 para. 3(4)", opens=PARTNER_CLASS_4
    )
    limited = Flag(None, "Limited partner, or not active in it", cites="ITA 2007 ss. 103C, 104", kept=True)
    no_class_4 = Flag("26", "Exempt from class 4 contributions", cites="SI 2001/1004, reg. 91")
    interest = Amount("28", "Share of interest, no tax taken off", begins="Other income and tax")
    interest_taxed = Amount("70", "Share of taxed interest, after tax")
    dividends = Amount("73", "Share of dividends")
    property = Amount("37", "Share of the profit or loss of UK property", negative=True, cites="ITTOIA 2005 s. 859")
    property_before = Amount("38", "Losses of it brought forward", cites="ITA 2007 s. 118", opens=PARTNER_PROPERTY)
    other_income = Amount("51", "Share of other income")
    deducted = Amount("30", "Share of deductions of the Construction Industry Scheme", cites="FA 2004 s. 61")


class Property(BritishPaper):
    """Lettings in the UK as one property business. ITTOIA 2005 Part 3."""

    kind, name, official, group = "property", "UK property", "SA105", "income"
    single, owned = True, False

    lettings = Count("1", "Number of properties rented out", most=999)
    rents = Amount("20", "Total rents and other income", begins="Income")
    use_allowance = Flag("20.1", "Property allowance instead of expenses", cites="ITTOIA 2005 s. 783BI")
    tax = Amount("21", "Tax taken off", help="Of a landlord who lives abroad.")
    premises = Amount("24", "Rent, rates, insurance and ground rents", begins="Expenses")
    repairs = Amount("25", "Repairs and maintenance")
    finance = Amount("26", "Finance costs not of homes")
    fees = Amount("27", "Legal, management and other professional fees")
    services = Amount("28", "Costs of services provided, wages included")
    rest = Amount("29", "Other allowable expenses")
    private = Amount("30", "Private use adjustment")
    domestic_items = Amount("36", "Costs of replacing domestic items", cites="ITTOIA 2005 s. 311A")
    loss_before = Amount("39", "Losses brought forward", cites="ITA 2007 s. 118", opens=PROPERTY_LOSS)
    home_finance = Amount("44", "Finance costs of homes let", cites="ITTOIA 2005 s. 272A", begins="Relief at the basic rate")
    home_finance_before = Amount("45", "Unused finance costs brought forward", cites="ITTOIA 2005 s. 274AA", opens=HOME_FINANCE)


class Reliefs(BritishPaper):
    """Pension contributions, gifts, subscriptions for shares. FA 2004 s. 188; ITA 2007 s. 413."""

    kind, name, official, group = "reliefs", "Pensions, Gift Aid, investments", "SA100, page TR4", "reliefs"
    single, owned = True, False

    relief_at_source = Amount("1", "Payments to pensions with relief at source, as paid", cites="FA 2004 s. 192")
    gross_contributions = Amount("2", "Retirement annuity and other payments without relief, gross", cites="FA 2004 s. 194")
    vct = Amount("Ai2.1", "Shares in Venture Capital Trusts, subscribed", cites="ITA 2007 s. 261", begins="Investments")
    eis = Amount("Ai2.2", "Enterprise Investment Scheme, subscribed", cites="ITA 2007 s. 158")
    eis_knowledge = Amount(None, "Of it, in knowledge-intensive companies", cites="ITA 2007 s. 252A")
    seis = Amount("Ai2.10", "Seed Enterprise Investment Scheme, subscribed", cites="ITA 2007 s. 257AB")
    gifts = Amount("5", "Gift Aid payments, as paid", cites="ITA 2007 s. 414", begins="Gift Aid")
    gifts_to_year_before = Amount("7", "Of them, treated as made in the year before", cites="ITA 2007 s. 426")
    gifts_from_next_year = Amount("8", "Gifts after the year treated as made in it", cites="ITA 2007 s. 426")


class Foreign(BritishPaper):
    """One item of foreign income, in pounds, with the tax of the country. ITTOIA 2005 Part 4; TIOPA 2010 Part 2."""

    kind, name, official, group = "foreign", "Foreign income", "SA106", "foreign"
    short, heading, main = "Foreign", "payer", "amount"

    country = Text("A", "Country", needed="The page wants three letters.", pattern=r"[A-Z]{3}", longest=3, kept=True,
                   pattern_says="Three capital letters, as USA or FRA.", shape="USA")  # fmt: skip
    payer = Text(None, "What paid it", needed="It tells one item from another.", longest=60, wide=True, kept=True)
    income_kind = Choice(None, "Kind of income", FOREIGN_KINDS, needed="Rates and limits depend on it.", kept=True)
    amount = Amount("B", "Amount before foreign tax, in pounds")
    tax = Amount("C", "Foreign tax, in pounds")
    special_withholding = Amount("D", "Special withholding tax", cites="FA 2004 s. 107")
    claims = Flag(
        "E", "Credit for the foreign tax claimed", cites="TIOPA 2010 s. 18", help="If not, the tax is deducted from the income."
    )
    currency = Text(
        None,
        "Currency",
        pattern=r"[A-Z]{3}",
        longest=3,
        pattern_says="Three capital letters, as USD.",
        begins="Exchange",
        kept=True,
    )
    in_currency = Amount(None, "Amount in that currency")
    received = Day(None, "Received on", help="If empty, the average of the year is taken from the exchange rates.")
    rate_source = Text(None, "Rate and where it is from", longest=80)
    limit_percent = Amount(
        None, "Limit of the foreign tax in percent, set here", begins="Treaty limit", help="If empty, that of the agreement."
    )
    limit_reason = Text(None, "Why the limit is set", longest=120, wide=True)
    unremittable = Flag(None, "Could not be brought to the UK", cites="ITTOIA 2005 s. 842", begins="Unremittable",
                        help="It is not taxed, and kept until it can be remitted.", kept=True)  # fmt: skip
    kept_before = Amount(None, "Kept from years before, in pounds", cites="ITTOIA 2005 s. 843", opens=UNREMITTABLE)
    released = Amount(None, "Of that, could be remitted this year", cites="ITTOIA 2005 s. 844", help="It is taxed now.")

    @amount.when_empty
    def _in_pounds(self):
        """In pounds at the rate of its day, or at the average of the year."""
        row = self.rate_row()
        if row is None or not self.in_currency:
            return total()
        return cents(share(1 / Decimal(row.rate), of=self.in_currency))

    @rate_source.when_empty
    def _rate_taken(self):
        row = self.rate_row()
        return (
            "" if row is None or not self.in_currency else f"{row.rate}, {RATES_OF[row.what].lower()}, {row.source}".rstrip(", ")
        )

    def rate_row(self):
        """The exchange rate that fits: of the day on which it came, or else the average; None where there is none."""
        rows = self.run.single("rates").rates if self.run.papers("rates") and self.currency else ()
        fitting = [row for row in rows if row.currency == self.currency and row.rate and Decimal(row.rate) > 0]
        of_the_day = [row for row in fitting if row.what == "day" and row.day is not None and row.day == self.received]
        return next(iter([*of_the_day, *(row for row in fitting if row.what == "average")]), None)

    def comes_again(self):
        """What could not be remitted is kept from year to year."""
        return bool(self.unremittable)


class RateRow(Row):
    known_as = {
        "currency": ("currency code", "currency"), "rate": ("currency units per £1", "average for the year", "rate"),
        "day": ("date", "start date"),
    }  # fmt: skip
    currency = Text(None, "Currency", pattern=r"[A-Z]{3}", longest=3, pattern_says="Three capital letters, as USD.",
                    needed="Items name it.")  # fmt: skip
    what = Choice(None, "Rate", RATES_OF, needed="Choose which.")
    day = Day(None, "Day", help="Of a rate of one day.")
    rate = Text(None, "Currency for a pound", pattern=r"\d{1,9}(\.\d{1,6})?", longest=16, needed="Amounts are divided by it.",
                pattern_says="How much for one pound, as 1.2711.")  # fmt: skip
    source = Text(None, "Where it is from", longest=60, needed="The return says which rate was used.")


class Rates(BritishPaper):
    """Exchange rates for foreign income: averages of the year and those of single days, entered or imported."""

    kind, name, official, group = "rates", "Exchange rates", "SA106 notes", "foreign"
    single, owned = True, False

    rates = Rows(None, "Rates", RateRow)


class GainRow(Row):
    known_as = {
        "asset": ("description", "security", "asset"), "day": ("date of disposal", "disposed", "date sold"),
        "proceeds": ("proceeds", "disposal proceeds"), "costs": ("cost", "allowable costs"),
    }  # fmt: skip
    asset = Text(None, "Asset", longest=60, needed="The computation names it.")
    kind = Choice(None, "Kind of asset", KINDS_OF_ASSET, needed="Boxes and rates go by it.")
    day = Day(None, "Date of disposal", needed="The rates of 2024-25 depend on it.")
    proceeds = Amount(None, "Proceeds")
    costs = Amount(None, "Allowable costs")
    business = Flag(None, "BADR", cites="TCGA 1992 s. 169I", help="Business asset disposal relief is claimed.")
    relief = Choice(None, "Other relief", GAIN_RELIEFS, cites="TCGA 1992 ss. 58, 152, 165, 169VC, Sch. 5B")
    relieved = Amount(None, "Relieved", help="Gain held over, rolled over or deferred.")
    to_income = Flag(None, "Loss against income", cites="ITA 2007 s. 131", help="Of shares that were subscribed for.")
    subscribed = Flag(
        None, "Qualifying", cites="ITA 2007 ss. 131, 134", help="Subscribed for, in a trading company that meets the conditions."
    )


class SummaryRow(Row):
    kind = Choice(None, "Kind of asset", KINDS_OF_ASSET, needed="Boxes and rates go by it.")
    number = Count(None, "Disposals", most=9_999)
    proceeds = Amount(None, "Proceeds together")
    costs = Amount(None, "Allowable costs together")
    lost = Amount(None, "Losses among them", help="Gains are what proceeds are above costs, and these losses.")
    late = Flag(None, "From 30 October 2024", help="In 2024-25 the rates changed on that day.")


class StayRow(Row):
    why = Choice(None, "Why", STAYS, needed="Not every absence counts.")
    begun = Day(None, "From", needed="The days are counted.")
    ended = Day(None, "Until", needed="The days are counted.")


class Home(BritishPaper):
    """A home that was sold and lived in for a time: the part that is relieved, and what was paid on it within sixty days.
    TCGA 1992 ss. 222 to 224; FA 2019 Sch. 2."""

    kind, name, official, group = "home", "Home sold", "SA108", "gains"
    short, heading, main = "Home", "asset", "proceeds"

    asset = Text(None, "Home", needed="The computation names it.", longest=60, wide=True)
    bought = Day(None, "Bought", needed="The days of ownership are counted.")
    sold = Day(None, "Sold", needed="The days of ownership are counted.")
    proceeds = Amount(None, "Disposal proceeds, of all owners")
    costs = Amount(None, "Allowable costs, of all owners")
    percent = Count(None, "Part that is the taxpayer's, percent", most=100, help="If empty, all of it.")
    periods = Rows(None, "Lived in, and absences", StayRow, begins="Only or main residence")
    business_percent = Count(None, "Used for a business alone, percent", most=100, cites="TCGA 1992 s. 224")
    let_beside = Flag(None, "Part of it let while the owner lived in it", cites="TCGA 1992 s. 224B", begins="Letting")
    let_percent = Count(None, "Part let, percent", most=100)
    let_begun = Day(None, "Let from")
    let_ended = Day(None, "Let until")
    reported = Day(None, "Reported within sixty days on", cites="FA 2019 Sch. 2 para. 3", begins="Return within sixty days")
    tax_paid = Amount(None, "Tax paid with it", cites="FA 2019 Sch. 2 para. 6")


class DealRow(Row):
    day = Day(None, "Date", needed="Matching goes by it.")
    what = Choice(None, "Bought or sold", {"bought": "Bought", "sold": "Sold"}, needed="Choose which.")
    number = Text(None, "Number", pattern=r"\d{1,9}(\.\d{1,6})?", longest=16, needed="Matching goes by it.",
                  pattern_says="How many, as 500 or 12.3456.")  # fmt: skip
    amount = Amount(None, "Cost with expenses, or proceeds less expenses")


class Shares(BritishPaper):
    """All deals in shares of one kind, from the first one: the pool is kept from year to year. TCGA 1992 ss. 104 to 106A."""

    kind, name, official, group = "shares", "Shares, all deals", "SA108", "gains"
    short, heading, again = "Shares", "company", True

    company = Text(None, "Company and class of share", needed="It tells one pool from another.", longest=60, wide=True, kept=True)
    unlisted = Flag(None, "Not listed on an exchange", kept=True)
    deals = Rows(None, "Deals", DealRow, kept=True)


class Gains(BritishPaper):
    """Disposals of the year and losses of years before. TCGA 1992."""

    kind, name, official, group = "gains", "Capital gains", "SA108", "gains"
    single, owned = True, False

    disposals = Rows(None, "Disposals", GainRow)
    summaries = Rows(None, "Or sums by kind of asset", SummaryRow, help="The computation they are from is attached.")
    deferred_back = Amount(None, "Gains deferred before and chargeable now", cites="TCGA 1992 Sch. 5B para. 4")
    losses_before = Amount("45", "Losses brought forward", cites="TCGA 1992 s. 1E", opens=CAPITAL_LOSS)
    business_before = Amount(
        None, "Gains with business asset disposal relief in years before", cites="TCGA 1992 s. 169N(4)", opens=BUSINESS_LIFETIME
    )
    file_anyway = Flag(None, "File the pages although they are not needed")


class UnusedRow(Row):
    of_year = Text(None, "Tax year, by the year it begins in", pattern=_YEAR, longest=4, pattern_says="Four digits, as 2022.",
                   needed="It is lost after three years.")  # fmt: skip
    amount = Amount(None, "Unused allowance")


class PensionSavings(BritishPaper):
    """What was saved in pensions, against the annual allowance. FA 2004 ss. 227 to 238A."""

    kind, name, official, group = "pension-savings", "Pension savings", "SA101, page Ai 4", "reliefs"
    single, owned = True, False

    input = Amount(None, "Pension input amounts of the year", help="From the schemes' statements, the employer's part included.")
    own = Amount(None, "Of them, paid by the taxpayer, gross")
    net_pay = Amount(None, "Of these, taken off pay before tax", cites="FA 2004 s. 193")
    sacrificed = Amount(None, "Pay given up for pension", cites="FA 2004 s. 228ZA(5)")
    money_purchase = Amount(
        None, "Of the input, money purchase savings after flexible access", cites="FA 2004 s. 227ZA",
        help="Only if money was drawn flexibly from a pension before.",
    )  # fmt: skip
    unused = Rows(
        None,
        "Unused allowance of years before",
        UnusedRow,
        opens=ALLOWANCE_UNUSED,
        help="A year counts in which one was a member.",
    )
    scheme_pays = Amount("11", "Charge that the scheme pays", cites="FA 2004 s. 237B")


class Amendment(BritishPaper):
    """Why a return is amended. It stands on no other return. TMA 1970 s. 9ZA."""

    kind, name, official, group = "amendment", "Amendment", "SA100", "correction"
    single, owned, corrects = True, False, True

    explanation = Prose(None, "What is amended, and why", wide=True, longest=1000, needed="It goes with the amended return.")
    anyway = Flag(None, "Send it though no amount moved")


PAPERS: tuple[type[BritishPaper], ...] = (
    About, Employment, Pension, Interest, Dividends, Trade, Partnership, Property, Foreign, Rates, Reliefs, PensionSavings,
    Home, Shares, Gains, Amendment,
)  # fmt: skip
GROUPS: dict[str, str] = {
    "people": "Taxpayer",
    "income": "Income",
    "foreign": "Foreign",
    "reliefs": "Reliefs",
    "gains": "Capital gains",
    "correction": "Amendment",
}
