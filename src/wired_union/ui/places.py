"""Where the program keeps its settings and its recovery journal, and what the settings are."""

from pathlib import Path
from typing import Any

from msgspec import DecodeError, Struct
from msgspec import json as fast_json
from msgspec.structs import asdict, replace
from PyQt6.QtCore import QStandardPaths

from wired_union.project.file import read_plain, write_whole

MOST_RECENT = 8
MOST_BYTES = 1_000_000
THEMES = ("system", "light", "dark")
LEAST_TEXT, MOST_TEXT = 0.7, 2.0
MOST_NAME = 60


def clamped(size: float) -> float:
    """A size of texts that can be read and fits a window."""
    return min(max(size, LEAST_TEXT), MOST_TEXT) if size == size else 1.0


class Settings(Struct, frozen=True):
    """What a person has set: theme "system", "light" or "dark"; size of texts; files opened last, newest first."""

    theme: str = "system"
    text_size: float = 1.0
    recent: tuple[str, ...] = ()
    hand: str = ""
    """who works here, for the notebook"""

    def opened(self, path: Path) -> "Settings":
        """The settings after a file was opened or saved."""
        kept = (str(path), *(r for r in self.recent if r != str(path)))
        return replace(self, recent=kept[:MOST_RECENT])


def _within(data: dict[str, Any]) -> Settings:
    """Settings as they were kept; what is out of range is brought into it."""
    theme, size, recent = data.get("theme"), data.get("text_size", 1.0), data.get("recent", ())
    number = isinstance(size, int | float) and not isinstance(size, bool)
    files = tuple(r for r in recent if isinstance(r, str) and "\0" not in r) if isinstance(recent, list) else ()
    hand = data.get("hand", "")
    return Settings(
        theme if theme in THEMES else "system", clamped(float(size)) if number else 1.0, files[:MOST_RECENT],
        hand[:MOST_NAME] if isinstance(hand, str) else "",
    )  # fmt: skip


def _read(text: bytes) -> Any:
    try:
        return fast_json.decode(text)
    except DecodeError:  # such as the name of a file that is not UTF-8
        import json

        return json.loads(text)


class Places(Struct, frozen=True):
    """Folders of this user."""

    settings_file: Path
    journals: Path
    library: Path
    """The store's parts of this user, which no project depends on."""
    kept: Path
    """Pictures and versions of projects, those in no file yet among them."""

    @classmethod
    def usual(cls) -> "Places":
        place = QStandardPaths.StandardLocation
        settings, state, data = (
            Path(QStandardPaths.writableLocation(kind)) / "wired-union"
            for kind in (place.GenericConfigLocation, place.GenericStateLocation, place.GenericDataLocation)
        )
        return cls(settings / "settings.json", state / "recovery", data / "store.parts.sqlite",
                   data / "kept")  # fmt: skip

    @classmethod
    def within(cls, folder: Path) -> "Places":
        """Everything in one folder, such as a temporary one."""
        return cls(folder / "settings.json", folder / "recovery", folder / "store.parts.sqlite", folder / "kept")

    def read_settings(self) -> Settings:
        """The settings; the usual ones where the file is missing or broken."""
        try:
            return _within(_read(read_plain(self.settings_file, MOST_BYTES)))
        except (OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError):
            return Settings()

    def write_settings(self, settings: Settings) -> None:
        """Keep the settings; a folder that cannot be written costs no more than the settings."""
        try:
            self.settings_file.parent.mkdir(parents=True, exist_ok=True)
            import json

            write_whole(self.settings_file, json.dumps(asdict(settings), indent=1))
        except OSError:
            return
