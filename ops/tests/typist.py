"""A preparer who never touches the mouse: types into whatever has the focus, and counts keystrokes and screens."""

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from ops.tests.running import Walk


class Typist(Walk):
    """`keys` counts pressed keys (a chord is one), `screens` the pages that were opened since `count()`."""

    keys = screens = 0
    _page = ""

    def count(self) -> None:
        """Begin to count anew."""
        self.keys = self.screens = 0
        self._page = self.page()

    def page(self) -> str:
        return self.driver.current_url.split("#")[0]

    def type(self, text: str) -> "Typist":
        """Letter by letter, as fingers do."""
        ActionChains(self.driver).send_keys(text).perform()
        self.keys += len(text)
        return self

    def hit(self, *chords: str) -> "Typist":
        """Press keys one after the other; `alt+n` and `shift+Enter` are chords. Waits until what they did has arrived."""
        for chord in chords:
            *held, key = chord.split("+")
            chain = ActionChains(self.driver)
            holds = [{"alt": Keys.ALT, "shift": Keys.SHIFT, "ctrl": Keys.CONTROL}[one] for one in held]
            for one in holds:
                chain = chain.key_down(one)
            chain = chain.send_keys(getattr(Keys, key.upper()) if len(key) > 1 else key)
            for one in holds:
                chain = chain.key_up(one)
            chain.perform()
            self.keys += 1
            self.settle()
            if self.page() != self._page:
                self._page, self.screens = self.page(), self.screens + 1
        return self

    def fill(self, *values: str) -> "Typist":
        """A value and Enter for each field from the one in hand on; None leaves a field as it is."""
        for value in values:
            if value:
                self.type(value)
            self.hit("Enter")
        return self

    def on_to(self, label: str) -> "Typist":
        """Enter from field to field until that one is in hand."""
        for _ in range(40):
            if self.here() == label:
                return self
            self.hit("Enter")
        raise AssertionError(f"Enter does not lead to {label}; it led to {self.here()}")

    def here(self) -> str:
        """The label of what has the focus."""
        return self.driver.switch_to.active_element.get_attribute("aria-label") or ""

    def at(self, label: str) -> None:
        """Wait until the focus is in that field."""
        self.until(lambda: self.here() == label)

    def command(self, words: str, sees: str) -> "Typist":
        """The command line: one key, words, Enter once they are found."""
        self.driver.execute_script("document.activeElement.blur()")
        self.hit("/")
        self.type(words)
        self.sees(sees)
        self.settle()
        return self.hit("Enter")
