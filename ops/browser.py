"""Headless Chromium as the tests and the pictures use it."""

import tempfile

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

_FLAGS = (
    "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--hide-scrollbars",
    "--force-color-profile=srgb", "--lang=en-US",
)  # fmt: skip


def browser(width: int = 1280, height: int = 800, dark: bool = False) -> webdriver.Chrome:
    """A fresh browser whose page is exactly width by height. Quit it when done."""
    options = Options()
    options.binary_location = "/usr/bin/chromium"
    for flag in _FLAGS:
        options.add_argument(flag)
    options.add_argument(f"--user-data-dir={tempfile.mkdtemp(prefix='impuesto-chromium-')}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 600}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    scheme = "dark" if dark else "light"
    driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": [{"name": "prefers-color-scheme", "value": scheme}]})
    return driver
