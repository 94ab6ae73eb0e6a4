"""What axe-core finds against WCAG 2.2 AA on the page that a walk is at."""

from ops.making import AXE
from ops.tests.running import Walk

_RUN = """
const done = arguments[arguments.length - 1];
axe.run(document, {runOnly: arguments[0], resultTypes: ["violations"], preload: false}).then(
  found => done(found.violations.map(v => v.id + ": " + v.nodes.slice(0, 3).map(n => n.target.join(" ")).join(" | "))));
"""
_LAWS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


def faults(walk: Walk, only: list[str] = _LAWS) -> list[str]:
    """Each rule that is broken, with the first places."""
    if not walk.driver.execute_script("return 'axe' in window"):
        walk.driver.execute_cdp_cmd("Runtime.evaluate", {"expression": AXE.read_text()})
    return walk.driver.execute_async_script(_RUN, only)
