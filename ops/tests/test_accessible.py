"""axe-core finds nothing against WCAG 2.2 AA on any main view, in light and dark; pages stay light, still, and usable when small."""

from ops.tests.accessing import faults
from ops.tests.running import RunningTestCase

_OF_COLOR = ["color-contrast", "link-in-text-block"]
_WEIGHTS = """
const all = [...performance.getEntriesByType("resource"), ...performance.getEntriesByType("navigation")];
const ours = all.filter((one) => one.name.endsWith(".mjs"));
return {total: all.reduce((sum, one) => sum + one.transferSize, 0), ours: ours.reduce((sum, one) => sum + one.decodedBodySize, 0)};
"""
_SHIFTS = """
const done = arguments[arguments.length - 1];
let sum = 0;
new PerformanceObserver((list) => { for (const one of list.getEntries()) sum += one.value; }).observe({type: "layout-shift", buffered: true});
setTimeout(() => done(sum), 300);
"""
_WIDER = """
return [...document.querySelectorAll("main *, header *, footer *")].filter((one) => one.checkVisibility() && !one.closest(".across, .long, .list, .graph, .pages, .sr, dialog, svg")
  && one.getBoundingClientRect().right > innerWidth + 1).slice(0, 3).map((one) => one.outerHTML.slice(0, 90));
"""


class AccessibleTests(RunningTestCase):
    PAGES = ["/", "/households/", "/households/1", "/households/new", "/dispatch", "/returns/1/papers", "/returns/8/papers",
             "/returns/1/papers?beside=1", "/returns/1/forms?at=us.1040.16", "/returns/1/forms?at=us.1040.19", "/returns/1/flow",
             "/returns/17/papers/table/w2", "/returns/1/guide", "/returns/1/changes", "/returns/1/import", "/returns/8/review",
             "/returns/1/review", "/returns/1/review/last-year", "/returns/1/review/diligence", "/returns/9/review/others",
             "/returns/1/review/print", "/returns/1/review/since", "/returns/9/advice", "/returns/9/advice/page",
             "/practice/diagnostics?kind=carried", "/practice/answers", "/returns/1/places", "/returns/25/places", "/returns/26/more-time",
             "/returns/26/forms?at=us-wi.form-1.10", "/returns/1/what-if", "/returns/1/what-if/both-ways", "/returns/12/what-if/choices", "/returns/1/what-if/entity",
             "/returns/5/sign", "/returns/5/filing", "/returns/5/sign/attachments",
             "/requests?which=waiting", "/fees", "/returns/2/invoice", "/practice/prices", "/account", "/practice/staff",
             "/practice/staff/1", "/account/second-factor", "/practice/log", "/practice/begin", "/practice/sets", "/practice/steps", "/practice/certificate", "/practice/letterhead", "/practice/retention", "/practice/requests", "/ready?which=locked", "/incoming", "/returns/1/documents",
             "/returns/5/sets", "/returns/30/requests", "/returns/27/places", "/more-time",
             "/next-year?year=2024", "/clients/bring", "/returns/30/carried", "/returns/30/papers", "/households/28",
             "/returns/30/forms?at=us.capital-loss-carryover.13"]  # fmt: skip

    def test_main_views_in_both_themes_at_1024_pixels_and_at_twice_the_size(self):
        walk = self.walk()
        walk.go("/sign-in")
        self.check(walk, "/sign-in")
        walk.sign_in_by_hand("sunniva")
        for page in self.PAGES:
            walk.driver.resize(1280, 800)
            walk.go(page)
            walk.settle()
            self.check(walk, page)
            walk.driver.execute_script("document.documentElement.dataset.theme = 'dark'")  # as the server writes it
            self.check(walk, f"{page}, dark", _OF_COLOR)
            for width, height, name in ((1024, 768, "1024 px"), (640, 400, "200%")):
                walk.driver.resize(width, height)
                with self.subTest(f"{page} at {name}"):
                    wider = walk.driver.execute_script("return document.documentElement.scrollWidth - innerWidth")
                    self.assertLessEqual(wider, 0)
                    self.assertEqual(walk.driver.execute_script(_WIDER), [])

    def test_a_chosen_theme_is_all_that_a_page_knows_of_it(self):
        """So that colors are all that has to be looked at in the second theme."""
        walk = self.walk()
        walk.sign_in("sunniva")
        walk.go("/households/")  # cookies are a site's
        drawn = {}
        for theme in ("light", "dark"):
            walk.driver.add_cookie({"name": "theme", "value": theme})
            walk.go("/households/")
            drawn[theme] = walk.driver.execute_script(
                "return document.documentElement.dataset.theme + document.querySelector('main').innerHTML"
            )
        self.assertEqual(drawn["dark"], drawn["light"].replace("light", "dark", 1))

    def check(self, walk, name, *only):
        with self.subTest(name):
            self.assertEqual(faults(walk, *only), [])

    def test_pages_are_light_and_stand_still(self):
        for page in ("/returns/17/papers", "/returns/17/forms?at=us.1040.24", "/returns/17/flow"):
            fresh = self.walk()
            fresh.sign_in("sunniva")
            fresh.driver.execute_cdp_cmd("Network.clearBrowserCache", {})
            fresh.go(page)
            fresh.settle()
            weights, shifts = fresh.driver.execute_script(_WEIGHTS), fresh.driver.execute_async_script(_SHIFTS)
            with self.subTest(page, **weights, shifts=shifts):
                self.assertGreater(weights["ours"], 5_000)
                self.assertLess(weights["ours"], 40_000)
                self.assertLess(weights["total"], 300_000)
                self.assertLess(shifts, 0.01)
