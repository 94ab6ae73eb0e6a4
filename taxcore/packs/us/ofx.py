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
    """(kind, open-format values) of one statement, an element of the file; None for kinds that have no paper here.

    Rows of sales keep the names that `SaleRow.take_in` reads.
    """
    found = _FIELDS.get(statement.tag)
    if found is None or _text(statement, "void") == "Y":
        return None
    kind, names = found
    values: dict[str, Any] = dict(_named(statement, names))
    payer = statement.find("PAYERADDR")
    values |= _named(payer, _PARTY) if payer is not None else {}
    digits = "".join(character for character in _text(statement, "payerid") if character in "0123456789")
    if len(digits) == 9:
        values["payer_number"] = f"{digits[:2]}-{digits[2:]}"
    if account := _text(statement, "recacct"):
        values["account"] = account
    details = statement.find("EXTDBINFO_V100")
    if details is not None:
        values["sales"] = [_sale(one) for one in details if str(one.tag).startswith("PROCDET")]
        values["summaries"] = [_named(one, _TOTALS) for one in details if str(one.tag).startswith("PROCSUM")]
    return kind, values


def _sale(one: Any) -> dict[str, str]:
    row = _named(one, _SALE) | {"sold": _day(one, "dtsale"), "acquired": _day(one, "dtaqd")}
    if _text(one, "dtvar") == "Y":
        row["acquired"] = "VARIOUS"
    row.setdefault("description", _text(one, "saledescription"))
    term = _text(one, "longshort")
    if "box" not in row and term:
        uncovered = "Y" in (_text(one, "noncoveredsecurity"), _text(one, "basisnotshown"))
        row |= {"term": term.lower(), "reported": "no" if uncovered else "yes"}
    return {name: value for name, value in row.items() if value}


def _named(source: Any, names: dict[str, str]) -> dict[str, str]:
    read = {field: _text(source, name) for name, field in names.items()}
    return {field: value for field, value in read.items() if value}


def _text(source: Any, name: str) -> str:
    return (source.findtext(name.upper()) or "").strip()


def _day(source: Any, name: str) -> str:
    """YYYYMMDD, with a time and a zone behind it or not, as the open format writes days; what is no day stays as it is."""
    text = _text(source, name)
    return f"{text[:4]}-{text[4:6]}-{text[6:8]}" if text[:8].isdigit() and len(text) >= 8 else text
