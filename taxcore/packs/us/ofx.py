"""Tax statements of the OFX format (tax extensions, 1099 aggregates) as papers. Names of aggregates are the standard's."""

from typing import Any

_PARTY = {"payername1": "payer"}
_FIELDS = {
    "TAX1099INT_V100": ("1099-int", {
        "intincome": "interest", "intusbndtrs": "government_interest", "fedtaxwh": "withheld", "investexp": "investment_expenses",
        "fortaxpd": "foreign_tax", "forcnt": "foreign_country", "taxexemptint": "exempt_interest",
        "specifiedpabint": "private_activity", "marketdiscount": "market_discount", "bondpremium": "premium",
        "bondpremusobligations": "treasury_premium", "tebondpremium": "exempt_premium", "cusipnum": "bond_number",
    }),
    "TAX1099DIV_V100": ("1099-div", {
        "orddiv": "dividends", "qualifieddiv": "qualified", "totcapgain": "capital_gain", "p28gain": "collectibles",
        "unrecsec1250": "unrecaptured", "sec1202": "small_business", "nontaxdist": "return_of_capital", "fedtaxwh": "withheld",
        "sec199a": "trust_dividends", "investexp": "investment_expenses", "fortaxpd": "foreign_tax", "forcnt": "foreign_country",
        "cashliq": "cash_liquidation", "noncashliq": "other_liquidation", "exemptintdiv": "exempt_interest",
        "specifiedpabintdiv": "private_activity",
    }),
    "TAX1099OID_V100": ("1099-oid", {
        "origisdisc": "discount", "otherperint": "other_interest", "erlwithpen": "early_withdrawal", "fedtaxwh": "withheld",
        "marketdiscount": "market_discount", "acqpremium": "acquisition_premium", "description": "description",
        "oidonustres": "treasury_discount", "investexp": "investment_expenses", "bondpremium": "premium",
        "taxexemptoid": "exempt_discount",
    }),
    "TAX1099B_V100": ("1099-b", {"fedtaxwh": "withheld"}),
}  # fmt: skip
_SALE = {"form8949code": "box", "secname": "description", "salespr": "proceeds", "costbasis": "basis",
         "washsalelossdisallowed": "wash_sale"}  # fmt: skip
_TOTALS = {"form8949code": "box", "sumsalespr": "proceeds", "sumcostbasis": "basis", "sumadjamt": "other_adjustment"}


def paper_of(statement: Any) -> tuple[str, dict[str, Any]] | None:
    """(kind, open-format values) of one statement as the open library reads it; None for kinds that have no paper here.

    Rows of sales keep the names that `SaleRow.take_in` reads.
    """
    found = _FIELDS.get(type(statement).__name__)
    if found is None or statement.void:
        return None
    kind, names = found
    values: dict[str, Any] = dict(_named(statement, names))
    values |= _named(statement.payeraddr, _PARTY)
    digits = "".join(character for character in str(statement.payerid or "") if character.isdigit())
    if len(digits) == 9:
        values["payer_number"] = f"{digits[:2]}-{digits[2:]}"
    if statement.recacct:
        values["account"] = str(statement.recacct)
    details = getattr(statement, "extdbinfo_v100", None)
    if details is not None:
        values["sales"] = [_sale(one) for one in details if type(one).__name__.startswith("PROCDET")]
        values["summaries"] = [_named(one, _TOTALS) for one in details if type(one).__name__.startswith("PROCSUM")]
    return kind, values


def _sale(one: Any) -> dict[str, str]:
    row = _named(one, _SALE)
    row["sold"] = one.dtsale.date().isoformat()
    if one.dtvar:
        row["acquired"] = "VARIOUS"
    elif one.dtaqd:
        row["acquired"] = one.dtaqd.date().isoformat()
    row.setdefault("description", str(one.saledescription or ""))
    if "box" not in row and one.longshort:
        row |= {"term": one.longshort.lower(), "reported": "no" if one.noncoveredsecurity or one.basisnotshown else "yes"}
    return {name: value for name, value in row.items() if value}


def _named(source: Any, names: dict[str, str]) -> dict[str, str]:
    read = {field: getattr(source, name, None) for name, field in names.items()}
    return {field: str(value) for field, value in read.items() if value not in (None, "")}
