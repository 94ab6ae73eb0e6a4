"""Pages and fragments of a return: what a save answers, lineage and overrides, addresses that open."""

from django.urls import reverse

from practice.tests.office import OfficeTestCase
from taxcore.engine.words import why_zero


class PageTestCase(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def save(self, path, value, was, **more):
        url = reverse("save-field", args=[self.return_.pk, self.paper.pk])
        return self.client.post(url, {"path": path, "value": value, "was": was} | more, headers={"HX-Request": "true"})

    def get(self, name, *args, **query):
        return self.client.get(reverse(name, args=[self.return_.pk, *args]), query)


class SaveAnswerTests(PageTestCase):
    def test_it_holds_the_field_what_follows_from_it_the_ripple_and_the_bottom_line(self):
        page = self.save("wages", "62000", "61480.00").content.decode()
        for part in (
            f'id="f-{self.paper.pk}-wages"',
            "= 62,000.00",
            'id="ripples" hx-swap-oob',
            'id="bottom" hx-swap-oob',
            'id="stops" hx-swap-oob',
            f'id="ix-{self.paper.pk}"',
        ):
            self.assertIn(part, page)
        self.assertIn("61,480", page)

    def test_what_cannot_be_read_comes_back_with_what_was_typed(self):
        answer = self.save("wages", "lots", "61480.00")
        self.assertContains(answer, 'value="lots"', status_code=422)
        self.assertContains(answer, "takes an amount", status_code=422)

    def test_a_conflict_shows_both(self):
        self.save("wages", "62000", "61480.00")
        answer = self.save("wages", "63000", "61480.00")
        self.assertContains(answer, "Bea Thorne entered 62,000.00", status_code=409)
        self.assertContains(answer, "you entered 63000", status_code=409)

    def test_a_correction_beside_a_form_draws_the_form_again(self):
        page = self.save("wages", "62000", "61480.00", at="us.1040.1a", form="us.1040").content.decode()
        self.assertIn('id="form" hx-swap-oob', page)
        self.assertIn("1040 line 1a · 62,000", page)

    def test_rows_are_added_and_taken_out(self):
        added = self.client.post(reverse("add-row", args=[self.return_.pk, self.paper.pk]), {"rows": "codes"})
        self.assertContains(added, f"f-{self.paper.pk}-codes-1-amount")
        removed = self.client.post(reverse("remove-row", args=[self.return_.pk, self.paper.pk]), {"rows": "codes", "row": "1"})
        self.assertNotContains(removed, f"f-{self.paper.pk}-codes-1-amount")


class LineageTests(PageTestCase):
    def test_any_figures_address_opens(self):
        for address in ("us.1040.16", "us.standard-deduction.5", "us-il.il-1040.12", f"us.w2[{self.paper.key}].1"):
            with self.subTest(address):
                self.assertContains(self.get("forms", at=address), "To the bottom line")

    def test_an_address_that_is_not_there_says_what_to_do(self):
        self.assertContains(self.get("forms", at="us.1040.999"), "Choose a line")

    def test_a_fields_panel_says_who_keyed_it(self):
        self.key("wages", "62000")
        page = self.get("lineage", at=f"us.w2[{self.paper.key}].1")
        self.assertContains(page, "61480.00 → 62000.00")
        self.assertContains(page, "Bea Thorne")

    def test_a_zero_says_why(self):
        self.assertContains(
            self.get("forms", at="us.1040.13a"),
            "Zero because</b> nothing on this return calls for 8995, qualified business income deduction",
        )
        from practice.returns.computing import result_of

        self.assertIn("there is no dependent", why_zero(result_of(self.return_)["us.1040.21"]))
        self.assertEqual(
            why_zero(result_of(self.return_)["us.1040.37"]), "1040 24 Total tax 5,249 is not above 1040 33 Payments 5,812"
        )


class FormsMarginTests(PageTestCase):
    def test_a_line_is_marked_by_the_weight_of_what_is_said_of_it(self):
        """Tax not withheld is a check at the amount owed: no line says that it stops filing."""
        self.key("federal_withheld", "0")
        page = self.client.get(reverse("forms", args=[self.return_.pk]) + "?at=us.1040.37")
        self.assertContains(page, 'class="dot check" title="to check"')
        self.assertNotContains(page, 'class="dot stops"')


class OverridePageTests(PageTestCase):
    def post(self, **form):
        return self.client.post(reverse("override", args=[self.return_.pk]), {"at": "us.1040.16", "form": "us.1040"} | form)

    def test_both_amounts_stay_visible_and_it_can_be_released(self):
        page = self.post(amount="5,200", reason="letter of 3 March").content.decode()
        self.assertIn("<s>5,249</s>", page)
        self.assertIn("5,200", page)
        self.assertNotIn("<s>5,249</s>", self.post(release="1").content.decode())

    def test_no_override_without_a_reason(self):
        answer = self.post(amount="5200", reason=" ")
        self.assertContains(answer, "Enter the reason", status_code=422)
        self.assertContains(answer, 'value="5200"', status_code=422)


class FindTests(PageTestCase):
    def find(self, words):
        return self.client.get(reverse("find"), {"q": words, "in": self.return_.pk}).content.decode()

    def test_finds_papers_to_add_lines_and_clients(self):
        self.assertIn("Add: Wage statement", self.find("wage st"))
        self.assertIn("1040 line 16", self.find("1040 16"))
        self.assertIn("Abernathy, Lorna", self.find("aber"))
        self.assertIn("Nothing is called", self.find("zebra"))


class HouseholdTests(PageTestCase):
    def test_a_new_household_opens_with_its_return(self):
        form = {"first_name": "Wren", "last_name": "Tarn", "spouse_first_name": "Ada", "birth_date": "3/4/1990", "year": "2025"}
        answer = self.client.post(reverse("new-household"), form, follow=True)
        self.assertContains(answer, "Tarn, Wren and Ada")
        self.assertContains(answer, "married filing jointly")

    def test_a_number_that_is_known_already_loses_nothing(self):
        form = {"first_name": "Wren", "last_name": "Tarn", "number": "921175580", "year": "2025"}
        answer = self.client.post(reverse("new-household"), form)
        self.assertContains(answer, "belongs to a client already", status_code=422)
        self.assertContains(answer, 'value="Wren"', status_code=422)

    def test_desk_filters_sorts_and_leaves_as_csv(self):
        self.assertContains(self.client.get("/?q=abern"), "Abernathy, Lorna")
        self.assertContains(self.client.get("/?q=nobody"), "No matches")
        self.assertIn("Abernathy", self.client.get("/?as=csv").getvalue().decode())

    def test_the_open_document_leaves_and_is_an_event(self):
        document = self.get("download-return").json()
        self.assertEqual(document["people"][0]["number"], "921-17-5580")
        self.assertEqual(self.events("return exported").count(), 1)


class IndexTests(PageTestCase):
    def test_a_finding_deep_in_any_table_marks_its_paper(self):
        from practice.returns.computing import result_of
        from practice.returns.index import index_view

        self.client.post(reverse("add-row", args=[self.return_.pk, self.paper.pk]), {"rows": "others"})
        groups = index_view(self.again(), [self.paper], result_of(self.return_))
        self.assertEqual([item.weight for group in groups for item in group.items], ["stops"])


class ManyPapersTests(PageTestCase):
    def added(self, kind, **values):
        from practice.returns.entry import add_paper

        return add_paper(self.preparer, self.return_.pk, kind, "taxpayer" if kind != "care" else "", values)[1]

    def test_a_long_paper_is_divided_into_parts(self):
        page = self.get("paper", self.added("business", activity="Repair").pk).content.decode()
        for heading in ("Income", "Expenses", "Cost of goods sold", "Vehicle", "Home office", "Owner"):
            self.assertIn(f'<h2 class="part">{heading}</h2>', page)

    def test_a_reference_offers_what_is_on_the_return_and_says_which_is_meant(self):
        self.added("business", activity="Repair", business_name="Quarry Repairs")
        paper = self.added("1099-nec", payer="Ferry", pay="500.00")
        page = self.get("paper", paper.pk).content.decode()
        self.assertIn('placeholder="= Quarry Repairs, Schedule C business"', page)
        self.assertIn('<option value="business1">Quarry Repairs, Schedule C business</option>', page)

    def test_a_reference_is_chosen_by_its_words_on_papers_and_in_rows(self):
        self.added("business", activity="Repair", business_name="Quarry Repairs")
        self.paper = self.added("1099-nec", payer="Ferry", pay="500.00")
        self.assertEqual(self.save("business", "Quarry Repairs, Schedule C business", "").status_code, 200)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["business"], "business1")
        child = {"first_name": "Ada", "last_name": "Abernathy", "number": "914-33-0001", "relationship": "child"}
        self.added("person", **child)
        self.paper = self.added("care", provider="Heron House", costs=[{"amount": "900.00"}])
        page = self.get("paper", self.paper.pk).content.decode()
        self.assertIn('data-list="list-of-person"', page)
        self.assertIn('<datalist id="list-of-person">', page)
        self.assertEqual(self.save("costs.1.person", "Ada, dependent", "").status_code, 200)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["costs"][0]["person"], "person1")
        self.assertContains(self.save("costs.1.person", "Nobody", "person1"), "is not one of this return", status_code=422)

    def test_a_reference_to_nothing_is_refused_at_its_field(self):
        self.paper = self.added("1099-nec", payer="Ferry", pay="500.00")
        self.save("business", "business9", "")
        self.assertContains(self.get("review"), "is not one of this return")

    def test_papers_of_other_years_are_not_offered(self):
        page = self.get("papers").content.decode()
        self.assertIn("Vehicle loan interest", page)
        self.return_.__class__._base_manager.filter(pk=self.return_.pk).update(year=2024)
        page = self.get("papers").content.decode()
        self.assertNotIn("Vehicle loan interest", page)
        self.assertIn("Residential energy credits", page)

    def test_keys_are_unique_within_the_return(self):
        first, second = self.added("k1-1065", entity="Quay"), self.added("k1-1041", entity="Estate")
        self.assertNotEqual(first.key, second.key)

    def test_the_missing_checklist_is_added_from_review(self):
        child = {"first_name": "Ada", "last_name": "Abernathy", "number": "914-33-0001", "birth_date": "2015-04-01",
                 "relationship": "child", "months_at_home": "12", "resident": "yes"}  # fmt: skip
        from practice.returns.entry import add_paper

        add_paper(self.preparer, self.return_.pk, "person", "", child)
        page = self.get("review").content.decode()
        self.assertIn("due diligence is required (Form 8867)", page)
        self.assertIn('value="diligence"', page)
