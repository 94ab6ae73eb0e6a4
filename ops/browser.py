"""Headless Chromium as the tests and the pictures use it."""

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

# Debian's Chromium without windows, menus and extensions: half the processor time of `chromium --headless`.
SHELL = "/usr/lib/chromium/chromium-headless-shell"
_FLAGS = (
    "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--hide-scrollbars",
    "--force-color-profile=srgb", "--lang=en-US",
)  # fmt: skip


class Browser(webdriver.Chrome):
    """Chromium with a profile of its own, which ChromeDriver makes and takes away again."""

    def __init__(self) -> None:
        options = Options()
        options.binary_location = SHELL
        for flag in _FLAGS:
            options.add_argument(flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        super().__init__(options=options, service=Service("/usr/bin/chromedriver"))

    def resize(self, width: int, height: int) -> None:
        """Make the page exactly that large; one that is narrow is a phone's."""
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600}
        self.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def forget(self) -> None:
        """As if it had just been started: one empty window, nothing kept of any site, nothing in the console."""
        for window in self.window_handles[1:]:
            self.switch_to.window(window)
            self.close()
        self.switch_to.window(self.window_handles[0])
        self.get("about:blank")
        self.execute_cdp_cmd("Network.clearBrowserCookies", {})
        self.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": "*", "storageTypes": "all"})
        self.get_log("browser")


def browser(width: int = 1280, height: int = 800, dark: bool = False) -> Browser:
    """A fresh browser whose page is exactly width by height. Quit it when done."""
    driver = Browser()
    driver.resize(width, height)
    scheme = "dark" if dark else "light"
    driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": [{"name": "prefers-color-scheme", "value": scheme}]})
    return driver
