"""Places: what the page shows, and amounts shared out over states as one act that is undone as one."""

from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.returns.models import FieldChange
from practice.returns.undoing import undo_last
from practice.tests.office import OfficeTestCase
from practice.us.allocating import share_out
from taxcore.engine import BadValue

MOVED = {"rows": [
    {"person": "taxpayer", "state": "IL", "last": "2025-05-31"}, {"person": "taxpayer", "state": "OH", "first": "2025-06-01"}]}  # fmt: skip


class PlacesTests(OfficeTestCase):
    def rows(self):
        self.paper.refresh_from_db()
        return {row["state"]: row.get("wages") for row in self.paper.values["states"]}

    def share(self, way, percent=""):
        return share_out(self.preparer, self.return_.pk, self.paper.pk, way, percent)

    def move(self):
        add_paper(self.preparer, self.return_.pk, "residency", "", MOVED)

    def test_by_days_makes_the_whole_to_the_cent_and_keeps_what_was_withheld(self):
        self.move()
        saved = self.share("days")
        self.assertEqual(self.rows(), {"IL": "25434.19", "OH": "36045.81"})  # 61,480 by 151 and 214 of 365 days
        self.assertEqual(self.paper.values["states"][0]["withheld"], "3043.26")
        self.assertIn("OH 36,045.81", saved.says)

    def test_by_percent_replaces_what_was_shared_before(self):
        self.share("percent", "IL 60, MO 40%")
        self.assertEqual(self.rows(), {"IL": "36888.00", "MO": "24592.00"})
        self.share("percent", "MO 25")
        self.assertEqual(self.rows(), {"IL": "0.00", "MO": "15370.00"})

    def test_undo_takes_all_of_it_back(self):
        federal = self.line("us.1040.1a")
        self.share("percent", "IL 60, OH 30, TX 10")
        self.assertEqual(self.line("us.1040.1a"), federal)
        self.assertIn("us.unsupported.state", {one.code for one in result_of(self.again()).findings})
        undo_last(self.preparer, self.return_.pk)
        self.assertEqual(self.rows(), {"IL": "61480.00"})
        self.assertNotIn("us.unsupported.state", {one.code for one in result_of(self.again()).findings})

    def line(self, address):
        return result_of(self.again())[address].value

    def test_what_cannot_be_shared_says_why_and_changes_nothing(self):
        before = FieldChange.objects.for_firm(self.firm).exclude(how="added").count()
        for way, percent, says in (
            ("percent", "half IL", "not a state"),
            ("percent", "", "Enter states"),
            ("percent", "ZZ 50", "not a state"),
        ):
            with self.subTest(percent), self.assertRaisesRegex(BadValue, says):
                self.share(way, percent)
        _, deposit = add_paper(self.preparer, self.return_.pk, "deposit")
        with self.assertRaisesRegex(BadValue, "not allocated"):
            share_out(self.preparer, self.return_.pk, deposit.pk, "days")
        self.assertEqual(FieldChange.objects.for_firm(self.firm).exclude(how="added").count(), before)

    def test_the_page_tells_stays_income_and_wanted_returns(self):
        self.client.force_login(self.preparer)
        url = f"/returns/{self.return_.pk}/places"
        self.assertContains(self.client.get(url), "lived there all year")
        self.move()
        page = self.client.get(url)
        self.assertContains(page, "IL 151")
        self.assertContains(page, "part-year")
        self.assertContains(page, "not supported here")
        refused = self.client.post(f"{url}/{self.paper.pk}/share", {"way": "percent", "percent": "all of it"})
        self.assertEqual(refused.status_code, 422)
        self.assertContains(refused, "all of it", status_code=422)
        self.assertIn("Paper,What,Amount", self.client.get(f"{url}?as=csv").getvalue().decode())

    def test_a_move_makes_the_part_year_return_and_stops_by_name_where_there_is_none(self):
        self.move()
        says = [one.says for one in result_of(self.again()).findings if one.code == "us.unsupported.state"]
        self.assertEqual(len(says), 1)
        self.assertIn("part-year return of Ohio", says[0])
        lines = [line.authority.code for line in result_of(self.again()).bottom_lines]
        self.assertEqual(lines, ["us", "us-il"])  # Illinois' part is made
