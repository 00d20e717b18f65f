"""Where the program keeps its settings and its recovery journal, and what the settings are."""

import json
from dataclasses import asdict, dataclass, field, replace
from pathlib import Path

import platformdirs

from wired_union.project.file import write_whole

MOST_RECENT = 8


@dataclass(frozen=True)
class Settings:
    """What a person has set: theme "system", "light" or "dark"; size of texts; files opened last, newest first."""

    theme: str = "system"
    text_size: float = 1.0
    recent: tuple[str, ...] = field(default=())

    def opened(self, path: Path) -> "Settings":
        """The settings after a file was opened or saved."""
        kept = (str(path), *(r for r in self.recent if r != str(path)))
        return replace(self, recent=kept[:MOST_RECENT])


@dataclass(frozen=True)
class Places:
    """Folders of this user."""

    settings_file: Path
    journals: Path
    library: Path
    """The store's parts of this user, which no project depends on."""

    @classmethod
    def usual(cls) -> "Places":
        name = "wired-union"
        return cls(
            platformdirs.user_config_path(name) / "settings.json",
            platformdirs.user_state_path(name) / "recovery",
            platformdirs.user_data_path(name) / "store.parts.sqlite",
        )

    @classmethod
    def within(cls, folder: Path) -> "Places":
        """Everything in one folder, such as a temporary one."""
        return cls(folder / "settings.json", folder / "recovery", folder / "store.parts.sqlite")

    def read_settings(self) -> Settings:
        """The settings; the usual ones where the file is missing or broken."""
        try:
            data = json.loads(self.settings_file.read_text(encoding="utf-8"))
            return Settings(str(data["theme"]), float(data["text_size"]), tuple(map(str, data["recent"])))
        except (OSError, ValueError, KeyError, TypeError):
            return Settings()

    def write_settings(self, settings: Settings) -> None:
        """Keep the settings; a folder that cannot be written costs no more than the settings."""
        try:
            self.settings_file.parent.mkdir(parents=True, exist_ok=True)
            write_whole(self.settings_file, json.dumps(asdict(settings), indent=1))
        except OSError:
            return
