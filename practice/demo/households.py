"""More of the practice's households: the self-employed, the retired, investors, students, families. All of it invented.

`papers` are (kind, owner, values in the open format); people added as dependants have the ids person1, person2 in this order.
"""

from datetime import date


def _person(first, last, number, born, occupation, **more):
    mail = f"{first.split()[0].lower()}@{last.split('-')[0].lower()}.example"
    return {
        "person": {"first_name": first, "last_name": last, "number": number, "birth_date": born, "occupation": occupation,
                   "email": mail},
        **more,
    }  # fmt: skip


def _wages(employer, owner, wages, withheld, state, **more):
    return {"employer": employer, "owner": owner, "wages": wages, "withheld": withheld, "state": state, **more}


def _household(name, trade, care_of, address, worked_at, people, wages=(), papers=(), stage="prepare", **more):
    return {
        "name": name, "trade": trade, "in_care_of": care_of, "address": address, "worked_at": worked_at, "people": people,
        "wages": list(wages), "interest": more.pop("interest", []), "papers": list(papers), "stage": stage,
        "answers": {"digital_assets": "no", "foreign_account": "no"} | more.pop("answers", {}),
        "use_tax": more.pop("use_tax", "0.00"), **more,
    }  # fmt: skip


_CHILD = {"relationship": "child", "months_at_home": "12", "resident": "yes"}
_GALENA = ("Galena", "IL", "61036")

HOUSEHOLDS = [
    _household(
        "Halloran-Voss, Ione and Perrin", "boat surveyor, hotel clerk", "BT", ("52 Slip Lane", *_GALENA), "Chandlery Hotel LLC",
        [_person("Ione", "Halloran-Voss", "924-11-4402", date(1986, 2, 11), "Boat surveyor"),
         _person("Perrin", "Halloran-Voss", "925-18-0937", date(1984, 9, 23), "Hotel clerk")],
        [_wages("hotel", "spouse", "44820.00", "2210.00", "2218.59")],
        [("business", "taxpayer", {"business_name": "Halloran Surveys", "activity": "Boat surveys", "code": "541990",
                                   "method": "cash", "participates": "yes", "service_trade": "no", "receipts": "31400.00",
                                   "advertising": "640.00", "insurance": "2150.00", "supplies": "1184.20", "travel": "910.00",
                                   "meals": "420.00", "miles": "6120", "car_evidence": "yes", "car_method": "miles",
                                   "home_method": "simplified", "home_area": "140", "health_insurance": "5400.00", "sep": "4000.00"}),
         ("1099-nec", "taxpayer", {"payer": "Tern Point Ferry Co", "payer_number": "00-6127745", "pay": "38250.00"}),
         ("care", "", {"provider": "Willow Landing Nursery", "provider_address": "8 Willow Landing, Galena", "number": "00-4419027",
                       "costs": [{"person": "person1", "amount": "3900.00"}, {"person": "person2", "amount": "2650.00"}]}),
         ("estimates", "", {"rows": [{"paid": "2025-04-15", "amount": "1500.00"}, {"paid": "2025-06-16", "amount": "1500.00"},
                                     {"paid": "2025-09-15", "amount": "1500.00"}, {"paid": "2026-01-15", "amount": "1500.00"}]}),
         ("prior-year", "", {"adjusted_gross_income": "88410.00", "tax": "7944.00", "itemised": "no"})],
        dependants=[{"first_name": "Moss", "last_name": "Halloran-Voss", "number": "926-03-1188", "birth_date": "2018-05-05", **_CHILD},
                    {"first_name": "Fable", "last_name": "Halloran-Voss", "number": "926-03-1189", "birth_date": "2021-10-30", **_CHILD}],
    ),
    _household(
        "Marchetti, Silvio and Ada", "retired ferrymen", "BT", ("9 Bench Street", *_GALENA), "Tern Point Ferry Co",
        [_person("Silvio", "Marchetti", "927-26-5501", date(1950, 4, 2), "Retired"),
         _person("Ada", "Marchetti", "927-26-5502", date(1952, 12, 19), "Retired")],
        papers=[
            ("ssa-1099", "taxpayer", {"paid": "27480.00", "medicare_premiums": "2220.00", "withheld": "2400.00"}),
            ("ssa-1099", "spouse", {"paid": "19860.00", "medicare_premiums": "2220.00"}),
            ("1099-r", "taxpayer", {"payer": "River Pilots Pension", "payer_number": "00-7123344", "gross": "26400.00",
                                    "undetermined": "yes", "code": "7", "ira": "no", "withheld": "2640.00", "start": "2015-05-01",
                                    "age_at_start": "65", "joint_age_at_start": "62", "total_contributions": "37200.00",
                                    "months_paid": "12", "recovered_before": "13920.00"}),
            ("1099-r", "spouse", {"payer": "Lamplighters IRA", "payer_number": "00-7815502", "gross": "11200.00",
                                  "taxable": "11200.00", "code": "7", "ira": "yes", "charity": "3000.00", "withheld": "1120.00"}),
            ("1099-div", "joint", {"payer": "Heron Income Fund", "payer_number": "00-3345120", "dividends": "3140.22",
                                   "qualified": "2890.10", "capital_gain": "410.00", "trust_dividends": "120.00"}),
        ],
        interest=[("savings", "joint", "2204.90", "880.00")], stage="review",
    ),
    _household(
        "Ngata, Bellamy", "chartmaker", "TM", ("77 Levee Street", "Savanna", "IL", "61074"), "Upper River Gauge Service",
        [_person("Bellamy", "Ngata", "928-31-7740", date(1978, 7, 7), "Chartmaker")],
        [_wages("gauge", "taxpayer", "188200.00", "34110.00", "9315.90", codes=[("D", "23500.00"), ("DD", "8804.00")])],
        [("1099-div", "taxpayer", {"payer": "Heron Growth Fund", "payer_number": "00-3345121", "dividends": "14210.55",
                                   "qualified": "11980.00", "capital_gain": "6120.40", "foreign_tax": "214.60",
                                   "foreign_income": "2140.00"}),
         ("1099-b", "taxpayer", {"payer": "Sandbar Brokers", "payer_number": "00-5512300",
                                 "summaries": [{"box": "A", "proceeds": "41200.10", "basis": "44905.75"},
                                               {"box": "D", "proceeds": "96318.44", "basis": "61240.02"}],
                                 "sales": [{"box": "A", "description": "400 Quay Freight", "acquired": "02/11/2025",
                                            "sold": "2025-06-02", "proceeds": "8140.00", "basis": "10922.00", "code": "W",
                                            "adjustment": "1391.00"},
                                           {"box": "E", "description": "60 Old Lock Bonds", "acquired": "VARIOUS",
                                            "sold": "2025-11-20", "proceeds": "5980.00", "basis": "6000.00"}]}),
         ("capital-carryover", "", {"short_term": "2210.00"}),
         ("prior-year", "", {"adjusted_gross_income": "201880.00", "tax": "38240.00", "itemised": "no"})],
        stage="review",
    ),
    _household(
        "Okonjo-Reyes, Thea", "museum guide", "TM", ("5 Commerce Street", *_GALENA), "Sandbar Letterpress Inc",
        [_person("Thea", "Okonjo-Reyes", "929-08-3316", date(1996, 1, 29), "Museum guide")],
        [_wages("letterpress", "taxpayer", "37150.00", "2490.00", "1838.93", codes=[("AA", "1500.00")])],
        [("1098-e", "taxpayer", {"lender": "Prairie Loan House", "interest": "1304.17"}),
         ("1098-t", "", {"payer": "Galena Evening College", "payer_number": "00-8812345", "student": "taxpayer", "paid": "2860.00",
                         "half_time": "no", "books_from_school": "210.00"})],
    ),
    _household(
        "Szabo, Fern", "school cook", "TM", ("18 Quarry Road", *_GALENA), "Bluff Ridge Unit School District",
        [_person("Fern", "Szabo", "930-14-2298", date(1990, 10, 10), "School cook")],
        [_wages("school", "taxpayer", "29480.00", "610.00", "1459.26")],
        [("care", "", {"provider": "Bluff Ridge After School", "provider_address": "300 Schoolhouse Road, Galena",
                       "number": "00-4471930", "costs": [{"person": "person1", "amount": "2100.00"}]})],
        answers={"status": "head_of_household", "kept_home": "yes"},
        dependants=[{"first_name": "Pim", "last_name": "Szabo", "number": "930-14-2299", "birth_date": "2016-03-14", **_CHILD}],
    ),
    _household(
        "Lindqvist, Arvid and Mira", "cheesemaker, bookkeeper", "TM", ("1 Dairy Road", "Elizabeth", "IL", "61028"),
        "Driftless Honey LLC",
        [_person("Arvid", "Lindqvist", "931-22-6603", date(1972, 3, 3), "Cheesemaker"),
         _person("Mira", "Lindqvist", "931-22-6604", date(1975, 8, 15), "Bookkeeper")],
        papers=[
            ("business", "taxpayer", {"business_name": "Lindqvist Cheese", "activity": "Cheese making", "code": "311500",
                                      "number": "00-6632190", "method": "accrual", "participates": "yes", "service_trade": "no",
                                      "receipts": "184300.00", "returns": "1250.00", "inventory_start": "14200.00",
                                      "purchases": "61240.00", "materials": "8300.00", "inventory_end": "15900.00",
                                      "wages": "31200.00", "utilities": "7410.00", "repairs": "2290.00", "taxes": "2611.00",
                                      "property_basis": "92000.00"}),
            ("business", "spouse", {"business_name": "Mira's Ledgers", "activity": "Bookkeeping", "code": "541219", "method": "cash",
                                    "participates": "yes", "service_trade": "yes", "receipts": "42600.00", "office": "1180.00",
                                    "professional": "600.00", "home_method": "regular", "home_area": "150", "home_total": "1850",
                                    "home_insurance": "1610.00", "home_utilities": "3320.00", "home_repairs": "800.00"}),
            ("estimates", "", {"rows": [{"paid": "2025-04-15", "amount": "4500.00"}, {"paid": "2025-06-16", "amount": "4500.00"},
                                        {"paid": "2025-09-20", "amount": "4500.00"}]}),
            ("prior-year", "", {"adjusted_gross_income": "96200.00", "tax": "21840.00", "itemised": "no"}),
        ],
        interest=[("union", "joint", "611.43", "")],
    ),
    _household(
        "Tolliver, Dune", "kayak guide", "TM", ("14 Foundry Street", "Savanna", "IL", "61074"), "Kittiwake Boatworks LLC",
        [_person("Dune", "Tolliver", "932-40-5120", date(1993, 6, 21), "Guide")],
        [_wages("kittiwake", "taxpayer", "33900.00", "2030.00", "1678.05")],
        [("1095-a", "", {"marketplace": "Prairie Exchange", "policy": "PX-4410",
                         "months": [{"first": "1", "last": "12", "premium": "412.00", "benchmark": "448.00", "advance": "355.00"}]})],
        stage="review",
    ),
    _household(
        "Ashgrove, Percival and Wynn", "consultant, potter", "BT", ("3 Heron Street", *_GALENA), "Pelorus Lock Authority",
        [_person("Percival", "Ashgrove", "933-05-9911", date(1969, 2, 2), "Consultant"),
         _person("Wynn", "Ashgrove", "933-05-9912", date(1971, 5, 30), "Potter")],
        [_wages("lock", "spouse", "246000.00", "48200.00", "12177.00"),
         _wages("gauge", "taxpayer", "96000.00", "17100.00", "4752.00")],
        [("k1-1120s", "taxpayer", {"entity": "Ashgrove Advisers Inc", "entity_number": "00-6671210", "participates": "yes",
                                   "ordinary": "82400.00", "interest": "212.00", "cash_gifts": "500.00",
                                   "qualified_income": "82400.00", "qualified_wages": "96000.00", "service_trade": "yes"}),
         ("prior-year", "", {"adjusted_gross_income": "391200.00", "tax": "61100.00", "itemised": "no"})],
        stage="review",
    ),
    _household(
        "Beaumont-Ito, Clover and Hugo", "teacher, harbour master", "BT", ("60 Prospect Street", *_GALENA),
        "Bluff Ridge Unit School District",
        [_person("Clover", "Beaumont-Ito", "935-17-4456", date(1981, 11, 11), "Teacher"),
         _person("Hugo", "Beaumont-Ito", "935-17-4457", date(1980, 4, 4), "Harbour master")],
        [_wages("school", "taxpayer", "71200.00", "5900.00", "3524.40"),
         _wages("lock", "spouse", "88400.00", "8300.00", "4375.80", codes=[("W", "1500.00"), ("D", "6000.00")])],
        [("1098", "joint", {"lender": "River Bend Savings", "interest": "15820.33", "principal": "402000.00", "origin": "2021-08-12",
                            "property_tax": "9140.00", "use": "main"}),
         ("gift", "joint", {"charity": "Galena Lamplighters Fund", "gift_kind": "cash", "amount": "6200.00", "acknowledged": "yes"}),
         ("gift", "joint", {"charity": "Second Lock Thrift", "gift_kind": "property", "amount": "720.00", "cost": "2400.00",
                            "description": "Clothes and a dresser", "given": "2025-09-14", "acquired": "VARIOUS",
                            "how_acquired": "Purchase", "method": "Thrift shop value", "acknowledged": "yes"}),
         ("adjustments", "taxpayer", {"educator": "410.00"}),
         ("hsa", "spouse", {"paid_in": "4200.00", "coverage": [{"kind": "family", "first": "1", "last": "12"}]}),
         ("1099-sa", "spouse", {"payer": "River Bend Savings", "payer_number": "00-3090128", "gross": "2140.00", "code": "1",
                                "account_kind": "hsa", "medical": "2140.00"})],
        deposit=("138150000", "5520019943", "checking"),
    ),
    _household(
        "Caddick, Rowan", "courier", "TM", ("29 Mill Street", "Hanover", "IL", "61041"), "Mussel Row Buttons Co",
        [_person("Rowan", "Caddick", "936-29-8085", date(1999, 9, 9), "Courier")],
        [_wages("button", "taxpayer", "18240.00", "1105.00", "902.88")],
        [("business", "taxpayer", {"activity": "Deliveries", "code": "492000", "method": "cash", "participates": "yes",
                                   "receipts": "310.00", "miles": "11240", "commuting_miles": "900", "other_miles": "3100",
                                   "car_evidence": "yes", "car_method": "miles", "car_placed": "2023-03-01"}),
         ("1099-k", "taxpayer", {"payer": "Parcel Web", "payer_number": "00-9012233", "gross": "21480.00"})],
    ),
    _household(
        "Dunmore, Isolde", "between jobs", "TM", ("4 Bridge Street", "East Dubuque", "IL", "61025"), "Tern Point Ferry Co",
        [_person("Isolde", "Dunmore", "937-33-1204", date(1987, 5, 17), "Deckhand")],
        [_wages("ferry", "taxpayer", "21900.00", "1840.00", "1084.05")],
        [("1099-g", "taxpayer", {"payer": "State benefits office", "payer_number": "00-1100220", "unemployment": "9120.00",
                                 "withheld": "912.00"}),
         ("1099-r", "taxpayer", {"payer": "Tern Point 401(k)", "payer_number": "00-6127746", "gross": "12000.00",
                                 "taxable": "12000.00", "code": "1", "ira": "no", "withheld": "2400.00"})],
    ),
    _household(
        "Eastlake, Orson and Pia", "engineers", "BT", ("12 Overlook Drive", *_GALENA), "Upper River Gauge Service",
        [_person("Orson", "Eastlake", "938-41-6670", date(1979, 10, 1), "Engineer"),
         _person("Pia", "Eastlake", "938-41-6671", date(1983, 1, 12), "Engineer")],
        [_wages("gauge", "taxpayer", "214000.00", "41200.00", "10593.00"),
         _wages("kittiwake", "spouse", "152300.00", "26900.00", "7538.85")],
        [("minimum-tax", "", {"stock_options": "186000.00"}),
         ("1099-b", "joint", {"payer": "Sandbar Brokers", "payer_number": "00-5512300",
                              "summaries": [{"box": "D", "proceeds": "64100.00", "basis": "22300.00"}]}),
         ("prior-year", "", {"adjusted_gross_income": "351000.00", "tax": "63900.00", "itemised": "no"})],
    ),
    _household(
        "Faulkner-Obi, Juno", "waiter", "BT", ("31 Commerce Street", *_GALENA), "Chandlery Hotel LLC",
        [_person("Juno", "Faulkner-Obi", "939-02-3348", date(1994, 8, 28), "Waiter")],
        [_wages("hotel", "taxpayer", "46310.00", "3900.00", "2292.35",
                others=[("tips", "TIPS", "14220.00"), ("overtime", "OT PREM", "1910.40")])],
        [("car-loan", "taxpayer", {"lender": "Lock Street Motors", "vin": "1HGCM82633A004352", "interest": "1840.25",
                                   "loan_date": "2025-02-20", "new_for_owner": "yes", "assembled_here": "yes", "personal": "yes"})],
    ),
    _household(
        "Garrow, Lettice", "pupil", "TM", ("6 Overlook Drive", *_GALENA), "Galena",
        [_person("Lettice", "Garrow", "940-12-7755", date(2012, 2, 24), "Pupil", claimed=True)],
        papers=[
            ("1099-div", "taxpayer", {"payer": "Heron Growth Fund", "payer_number": "00-3345121", "dividends": "4120.00",
                                      "qualified": "4120.00", "capital_gain": "2360.00"}),
            ("parent", "", {"parent_name": "Hale Garrow", "parent_number": "940-12-7700", "status": "joint",
                            "taxable_income": "212400.00"}),
        ],
        interest=[("savings", "taxpayer", "1980.00", "")],
    ),
    _household(
        "Ibsen-Clay, Nell", "partner in a quay", "BT", ("2 Quay House", "Savanna", "IL", "61074"), "Kittiwake Boatworks LLC",
        [_person("Nell", "Ibsen-Clay", "941-20-9036", date(1976, 12, 6), "Wharfinger")],
        papers=[
            ("k1-1065", "taxpayer", {"entity": "Savanna Quay Partners", "entity_number": "00-4455668", "participates": "yes",
                                     "ordinary": "41200.00", "guaranteed": "36000.00", "self_employment": "77200.00",
                                     "qualified_income": "41200.00", "qualified_wages": "21000.00", "service_trade": "no",
                                     "interest": "88.00", "health_insurance": "6100.00"}),
            ("1099-da", "taxpayer", {"payer": "Coin Wharf", "payer_number": "00-2290011",
                                     "sales": [{"box": "H", "description": "0.4 units", "acquired": "05/01/2025",
                                                "sold": "2025-10-11", "proceeds": "11800.00", "basis": "9150.00"}]}),
            ("ira", "taxpayer", {"traditional": "7000.00", "covered": "no", "value_at_end": "61200.00"}),
            ("estimates", "", {"rows": [{"paid": "2025-04-15", "amount": "3000.00"}, {"paid": "2025-06-16", "amount": "3000.00"},
                                        {"paid": "2025-09-15", "amount": "3000.00"}, {"paid": "2026-01-15", "amount": "3000.00"}]}),
            ("prior-year", "", {"adjusted_gross_income": "70110.00", "tax": "15210.00", "itemised": "no"}),
        ],
        answers={"digital_assets": "yes"},
    ),
    _household(
        "Haverford, Bram", "widower, carpenter", "BT", ("44 Willow Landing", *_GALENA), "Kittiwake Boatworks LLC",
        [_person("Bram", "Haverford", "942-07-2218", date(1982, 6, 16), "Carpenter")],
        [_wages("kittiwake", "taxpayer", "67200.00", "4100.00", "3326.40")],
        answers={"status": "surviving_spouse", "spouse_died": "2024"},
        dependants=[{"first_name": "Tansy", "last_name": "Haverford", "number": "942-07-2219", "birth_date": "2013-07-07", **_CHILD}],
    ),
]  # fmt: skip
