"""Where the files are that ship with the program."""

from pathlib import Path

HOME = Path(__file__).parent
ASSETS = HOME / "assets"
FONTS = ASSETS / "fonts"
DEMOS = ASSETS / "demo"
PARTS = HOME / "catalogue" / "data"
PINS = HOME / "catalogue" / "pins"
REPORT = HOME / "report" / "templates"
STARTS = ASSETS / "starts"
DESKTOP = ASSETS / "desktop"
