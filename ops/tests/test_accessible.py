"""axe-core finds nothing against WCAG 2.2 AA on any main view, in light and dark."""

from ops.making import AXE
from ops.tests.running import RunningTestCase

_RUN = """
const done = arguments[arguments.length - 1];
axe.run(document, {runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]}).then(
  found => done(found.violations.map(v => v.id + ": " + v.nodes.slice(0, 3).map(n => n.target.join(" ")).join(" | "))));
"""


class AccessibleTests(RunningTestCase):
    PAGES = ["/", "/households/", "/households/1", "/households/new", "/dispatch", "/returns/1/papers", "/returns/8/papers",
             "/returns/1/forms?at=us.1040.16", "/returns/8/review", "/returns/5/sign"]  # fmt: skip

    def test_main_views_in_both_themes(self):
        walk = self.walk()
        walk.go("/sign-in")
        self.check(walk, "/sign-in")
        walk.sign_in("sunniva")
        for theme in ("light", "dark"):
            walk.driver.add_cookie({"name": "theme", "value": theme})
            for page in self.PAGES:
                walk.go(page)
                walk.settle()
                self.check(walk, f"{page}, {theme}")

    def check(self, walk, name):
        walk.driver.execute_cdp_cmd("Runtime.evaluate", {"expression": AXE.read_text()})
        with self.subTest(name):
            self.assertEqual(walk.driver.execute_async_script(_RUN), [])
