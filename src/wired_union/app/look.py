"""How a window looks: its theme and the size of its texts, kept from one start to the next."""

from collections.abc import Callable

from msgspec.structs import replace

from wired_union.ui.places import MOST_NAME, Places, Settings, clamped
from wired_union.ui.theme import Theme, system_scale


class Look:
    """Settings and the theme they give. `changed` is told of another look."""

    def __init__(self, places: Places, changed: Callable[[], object]) -> None:
        self._places, self._changed = places, changed
        self.read()

    def read(self) -> None:
        """Read the settings anew: another window may have written them."""
        self.settings: Settings = self._places.read_settings()
        self.theme = Theme.named(self.settings.theme, system_scale() * self.settings.text_size)

    def set_theme(self, name: str) -> None:
        """Use the "system", "light" or "dark" theme from now on."""
        self._keep(replace(self._places.read_settings(), theme=name))

    def scale_text(self, factor: float) -> None:
        """Make texts larger or smaller; 0 for the usual size."""
        size = 1.0 if factor == 0 else clamped(self.settings.text_size * factor)
        self._keep(replace(self._places.read_settings(), text_size=size))

    def set_hand(self, name: str) -> None:
        """Say who works here, for the notebook."""
        self.settings = replace(self._places.read_settings(), hand=name.strip()[:MOST_NAME])
        self._places.write_settings(self.settings)

    def _keep(self, settings: Settings) -> None:
        self._places.write_settings(settings)
        self.settings = settings
        self.theme = Theme.named(settings.theme, system_scale() * settings.text_size)
        self._changed()
