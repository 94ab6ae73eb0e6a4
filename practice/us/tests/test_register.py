"""The register of assets as a page and a file, rolled forward, and a landlord's return that goes all the way."""

import io

import openpyxl

from practice.returns import rolling
from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.returns.tests.test_pages import PageTestCase


class RegisterTests(PageTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer)

    def landlord(self):
        """A house of 275,000 without its land let since July 2024: 4,584 then, 9,999 now; a stove of 1,000 at 20%, then 32%."""
        house = add_paper(self.preparer, self.return_.pk, "rental", "taxpayer", {
            "address_line": "9 Weir Lane", "property_kind": "1", "state": "IL", "active": "yes", "rented_days": "365", "rents": "24000",
            "taxes": "3000", "insurance": "900", "mortgage_interest": "2000"})[1]  # fmt: skip
        for values in (
            {"description": "House", "sort": "residential", "cost": "325000", "land": "50000", "in_service": "2024-07-15"},
            {
                "description": "Stove",
                "sort": "appliance",
                "cost": "1000",
                "in_service": "2024-07-15",
                "no_special": "yes",
                "quarter": "0",
            },
        ):
            add_paper(self.preparer, self.return_.pk, "asset", "", values | {"used_in": house.key})
        return house

    def test_sums_tie_to_form_4562(self):
        house = self.landlord()
        page = self.client.get(f"/returns/{self.return_.pk}/assets").content.decode()
        for text in ("9 Weir Lane", "Form 4562: 10,319", "9,999", "4,584", "260,897", "<svg"):
            self.assertIn(text, page)
        form = result_of(self.again()).run.form("us.sch-e-part-i", house.key)
        self.assertEqual((form.depreciation, form.net), (10_319, 24_000 - 5_900 - 10_319))

    def test_a_state_that_writes_off_otherwise_has_its_column(self):
        """600 at once and 80 in 2024, then 32% of 400; Illinois 32% of 1,000."""
        house = self.landlord()
        page = f"/returns/{self.return_.pk}/assets"
        self.assertNotContains(self.client.get(page), "In Illinois")
        add_paper(
            self.preparer,
            self.return_.pk,
            "asset",
            "",
            {
                "description": "Fridge",
                "sort": "appliance",
                "cost": "1000",
                "in_service": "2024-07-15",
                "used_in": house.key,
                "quarter": "0",
            },
        )
        for text in ("In Illinois", ">128<", ">320<", ">10,639<"):
            self.assertContains(self.client.get(page), text)
        self.assertEqual(result_of(self.again()).run.form("us-il.il-1040").subtractions, 320 - 128)

    def test_it_leaves_as_a_file(self):
        self.landlord()
        text = b"".join(self.client.get(f"/returns/{self.return_.pk}/assets?as=csv").streaming_content).decode()
        self.assertIn("9 Weir Lane,House,Residential rental building,2024-07-15,27.5 years,", text)
        book = openpyxl.load_workbook(io.BytesIO(self.client.get(f"/returns/{self.return_.pk}/assets?as=xlsx").content))
        self.assertEqual(book.active["B3"].value, "Stove")

    def test_it_is_empty_without_assets_and_nobody_elses(self):
        self.assertContains(self.client.get(f"/returns/{self.return_.pk}/assets"), "No assets yet")
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.get(f"/returns/{self.return_.pk}/assets").status_code, 404)

    def test_the_next_year_goes_on_where_this_one_ended(self):
        self.landlord()
        after = rolling.roll(self.signer, self.return_.pk).return_
        found = {paper.values["description"]: paper.values for paper in after.papers.filter(kind="asset")}
        self.assertEqual((found["House"]["prior"], found["Stove"]["prior"]), ("14583", "520"))
        self.assertEqual(after.papers.get(kind="rental").values["address_line"], "9 Weir Lane")
        self.assertNotIn("rents", after.papers.get(kind="rental").values)
