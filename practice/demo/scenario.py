"""Who works at Larkspur Row Tax, whom it serves, and what lies on the desks on 10 February 2026. All of it invented.

Numbers are from ranges that are never issued (people 9xx with middle digits 00 to 49, employers 00, banks 13 to 19), telephone
numbers 555-01xx, mail at example domains. The registers of the stand-ins are made from this file by `./impuesto schemas`.
"""

from datetime import date

from practice.demo import households

FIRM = {
    "name": "Larkspur Row Tax", "town": "Galena", "address": "14 Larkspur Row, Galena, Illinois 61036",
    "efin": "009417", "originator_pin": "30518",
    "telephone": "815-555-0114", "season": 2025, "training": True, "factor_roles": [], "training_day": date(2026, 2, 10),
}  # fmt: skip

STAFF = [
    ("bea@larkspurrow.example", "Bea Thorne", "BT", "preparer"),
    ("rafe@larkspurrow.example", "Rafe Abara", "RA", "reviewer"),
    ("sunniva@larkspurrow.example", "Sunniva Holt", "SH", "signer"),
    ("amos@larkspurrow.example", "Amos Pell", "AP", "administrator"),
    ("tilde@larkspurrow.example", "Tilde Marsh", "TM", "preparer"),
]

EMPLOYERS = {
    "kittiwake": ("Kittiwake Boatworks LLC", "00-7140362", "4 Slipway", "Savanna", "IL", "61074", "0071-4036"),
    "lock": ("Pelorus Lock Authority", "00-3318407", "1 Lower Lock Road", "Galena", "IL", "61036", "0033-1840"),
    "letterpress": ("Sandbar Letterpress Inc", "00-2905518", "22 Commerce Street", "Galena", "IL", "61036", "0029-0551"),
    "ferry": ("Tern Point Ferry Co", "00-6127745", "Ferry Landing", "East Dubuque", "IL", "61025", "0061-2774"),
    "honey": ("Driftless Honey LLC", "00-8840216", "7 Apiary Lane", "Elizabeth", "IL", "61028", "0088-4021"),
    "school": ("Bluff Ridge Unit School District", "00-4471930", "300 Schoolhouse Road", "Galena", "IL", "61036", "0044-7193"),
    "hotel": ("Chandlery Hotel LLC", "00-5562081", "9 Bench Street", "Galena", "IL", "61036", "0055-6208"),
    "gauge": ("Upper River Gauge Service", "00-1093374", "88 Levee Street", "Savanna", "IL", "61074", "0010-9337"),
    "button": ("Mussel Row Buttons Co", "00-9927650", "3 Mussel Row", "Hanover", "IL", "61041", "0099-2765"),
}
BANKS = {"savings": ("River Bend Savings", "00-3090128"), "union": ("Galena Lamplighters Credit Union", "00-7815502")}


def _person(first, last, number, born, occupation, email="", **more):
    mail = email or f"{first.split()[0].lower()}@{last.split('-')[0].lower()}.example"
    person = {
        "first_name": first,
        "last_name": last,
        "number": number,
        "birth_date": born,
        "occupation": occupation,
        "email": mail,
    }
    return {"person": person, **more}


def _wages(employer, owner, wages, withheld, state, **more):
    return {"employer": employer, "owner": owner, "wages": wages, "withheld": withheld, "state": state, **more}


_CHILD = {"relationship": "child", "months_at_home": "12", "resident": "yes"}

HOUSEHOLDS = [
    {
        "name": "Quist, Marlow and Odile", "trade": "boatbuilder, letterpress printer", "in_care_of": "BT",
        "address": ("41 Heron Street", "Galena", "IL", "61036"), "worked_at": "Kittiwake Boatworks LLC",
        "people": [
            _person("Marlow", "Quist", "912-04-3371", date(1983, 5, 19), "Boatbuilder"),
            _person("Odile", "Quist", "913-22-8046", date(1985, 11, 2), "Printer"),
        ],
        "wages": [
            _wages("kittiwake", "taxpayer", "61480.00", "5212.00", "3043.26", codes=[("D", "3200.00"), ("DD", "11846.20")]),
            _wages("letterpress", "spouse", "38905.00", "2918.00", "1925.80"),
        ],
        "interest": [("savings", "joint", "1126.40", "")],
        "dependants": [
            {"first_name": "Wren", "last_name": "Quist", "number": "914-10-2217", "birth_date": "2014-09-12", **_CHILD},
            {"first_name": "Tobias", "last_name": "Quist", "number": "915-37-6604", "birth_date": "2017-02-28", **_CHILD},
        ],
        "stage": "prepare", "answers": {"digital_assets": "no"}, "use_tax": "",
        "deposit": ("138150000", "4471002396", "checking"),
    },
    {
        "name": "Abernathy-Osei, Lorna", "trade": "lock keeper", "in_care_of": "BT",
        "address": ("6 Quarry Road", "Galena", "IL", "61036"), "worked_at": "Pelorus Lock Authority",
        "people": [_person("Lorna", "Abernathy-Osei", "921-17-5580", date(1979, 3, 8), "Lock keeper")],
        "wages": [_wages("lock", "taxpayer", "58215.75", "5604.00", "2881.68", codes=[("DD", "7310.00")], box_3="58251.75")],
        "interest": [("union", "taxpayer", "212.18", "")],
        "stage": "review", "answers": {"digital_assets": "no"}, "use_tax": "0.00",
    },
    {
        "name": "Brandt, Ottoline", "trade": "retired music teacher", "in_care_of": "BT",
        "address": ("19 Willow Landing", "Galena", "IL", "61036"), "worked_at": "Bluff Ridge Unit School District",
        "people": [_person("Ottoline", "Brandt", "934-40-1127", date(1957, 9, 30), "Music teacher, retired")],
        "wages": [_wages("school", "taxpayer", "23860.00", "1102.00", "1181.07")],
        "interest": [("savings", "taxpayer", "3418.55", "640.00"), ("union", "taxpayer", "902.10", "")],
        "stage": "file", "answers": {"digital_assets": "no"}, "use_tax": "14.00",
        "deposit": ("138150000", "2093300417", "savings"),
    },
    {
        "name": "Fennimore, Hollis", "trade": "ferry pilot", "in_care_of": "BT",
        "address": ("2 Tern Avenue", "East Dubuque", "IL", "61025"), "worked_at": "Tern Point Ferry Co",
        "people": [_person("Hollis", "Fennimore", "945-08-6614", date(1991, 1, 1), "Ferry pilot")],
        "wages": [_wages("ferry", "taxpayer", "72340.00", "8290.00", "3580.83", codes=[("DD", "6904.50")])],
        "interest": [],
        "stage": "file", "answers": {"digital_assets": "no"}, "use_tax": "0.00", "number_used_before": True,
    },
    {
        "name": "Pilcrow, Ines and Dov", "trade": "beekeepers", "in_care_of": "TM",
        "address": ("7 Apiary Lane", "Elizabeth", "IL", "61028"), "worked_at": "Driftless Honey LLC",
        "people": [
            _person("Ines", "Pilcrow", "956-31-0092", date(1974, 7, 14), "Beekeeper"),
            _person("Dov", "Pilcrow", "957-12-4439", date(1971, 12, 25), "Beekeeper"),
        ],
        "wages": [
            _wages("honey", "taxpayer", "47500.00", "3275.00", "2351.25"),
            _wages("honey", "spouse", "44100.00", "2904.00", "2182.95"),
        ],
        "interest": [("savings", "joint", "388.02", "")],
        "stage": "sign", "answers": {"digital_assets": "no"}, "use_tax": "38.00",
    },
    {
        "name": "Roake, Tamsin", "trade": "apprentice chandler", "in_care_of": "TM",
        "address": ("11 Chandlery Lane", "Galena", "IL", "61036"), "worked_at": "Chandlery Hotel LLC",
        "people": [_person("Tamsin", "Roake", "968-45-7703", date(2005, 4, 27), "Apprentice", claimed=True)],
        "wages": [], "interest": [], "stage": "gather", "answers": {}, "use_tax": "",
    },
    {
        "name": "Ferreira-Lund, Caspian", "trade": "river gauge reader", "in_care_of": "TM",
        "address": ("30 Foundry Street", "Savanna", "IL", "61074"), "worked_at": "Upper River Gauge Service",
        "people": [_person("Caspian", "Ferreira-Lund", "972-26-3018", date(1988, 8, 6), "Hydrographer")],
        "wages": [_wages("gauge", "taxpayer", "84900.00", "10416.00", "4202.55", codes=[("AA", "4200.00"), ("DD", "9120.00")])],
        "interest": [("union", "taxpayer", "1640.77", "")],
        "stage": "file", "answers": {"digital_assets": "no"}, "use_tax": "0.00",
        "deposit": ("138150000", "7702214586", "checking"),
    },
    {
        "name": "Vantongeren, Mabel", "trade": "pearl button cutter", "in_care_of": "BT",
        "address": ("3 Mussel Row", "Hanover", "IL", "61041"), "worked_at": "Mussel Row Buttons Co",
        "people": [_person("Mabel", "Vantongeren", "983-33-2260", date(1969, 6, 3), "Button cutter")],
        "wages": [
            _wages("button", "taxpayer", "41260.00", "3381.00", "2042.37", codes=[("C", "88.40")], no_number=True),
            _wages("hotel", "taxpayer", "6120.50", "0.00", "302.96"),
        ],
        "interest": [],
        "stage": "prepare", "answers": {}, "use_tax": "",
    },
    *households.HOUSEHOLDS,
]  # fmt: skip


def state_rows(wages, number):
    """Boxes 15 to 17: as the entry has them, else all of it in Illinois."""
    given = wages.get("rows") or [("IL", wages["wages"], wages["state"])]
    return [{"state": state, "state_number": number, "wages": there, "withheld": tax} for state, there, tax in given]


def _digits(number):
    return number.replace("-", "")


def authority_register():
    """People, employers and claims as the simulated authorities know them."""
    people = [
        (household, person)
        for household in HOUSEHOLDS
        for person in [*(entry["person"] for entry in household["people"]), *household.get("dependants", [])]
    ]
    return {
        "people": [{"number": _digits(p["number"]), "last_name": p["last_name"]} for _, p in people],
        "employers": [{"number": _digits(e[1]), "name": e[0]} for e in EMPLOYERS.values()],
        "claims": [
            {"authority": "us", "year": 2025, "number": _digits(p["number"]), "role": "dependent"}
            for household, p in people
            if household.get("number_used_before")
        ],
    }


def identity_register():
    """People as the identity service knows them."""
    return {
        "people": [
            {
                "number": _digits(entry["person"]["number"]),
                "last_name": entry["person"]["last_name"],
                "birth_date": entry["person"]["birth_date"].isoformat(),
                "birth_month": entry["person"]["birth_date"].strftime("%B"),
                "street": household["address"][0].lstrip("0123456789 "),
                "worked_at": household["worked_at"],
            }
            for household in HOUSEHOLDS
            for entry in household["people"]
        ]
    }
