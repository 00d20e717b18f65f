"""Every colour and size of the program, by role. Nothing else names a colour."""

from msgspec import Struct


class Palette(Struct, frozen=True):
    """Colours by role, as #RRGGBB."""

    name: str
    pine: str
    deep: str
    rail_ink: str
    rail_mute: str
    chalk: str
    card: str
    soft: str
    line: str
    ink: str
    mute: str
    link: str
    copper: str
    copper_soft: str
    slate: str
    slate_soft: str
    plum: str
    plum_soft: str
    moss: str
    moss_soft: str
    holds: str
    tight: str
    breaks: str
    unknown: str
    holds_text: str
    tight_text: str
    breaks_text: str
    unknown_text: str
    breaks_soft: str
    tight_soft: str
    button: str
    button_ink: str
    rail_holds: str
    rail_tight: str
    rail_breaks: str
    rail_unknown: str


LIGHT = Palette(
    name="light", pine="#10332E", deep="#0B2622", rail_ink="#E9F1EE", rail_mute="#8FB0A6", chalk="#F4F7F5",
    card="#FFFFFF", soft="#EBF1EE", line="#D5DEDA", ink="#14231F", mute="#5C6F69", link="#34549A", copper="#B4622A",
    copper_soft="#D9A888", slate="#3C5A99", slate_soft="#9FAED0", plum="#7A4A8C", plum_soft="#D3BBDD",
    moss="#5E7A1F", moss_soft="#B5C592", holds="#1F7A5C", tight="#B07A00", breaks="#B3261E", unknown="#8A9A95",
    holds_text="#1B6E53", tight_text="#855C00", breaks_text="#B3261E", unknown_text="#5C6F69", breaks_soft="#FBECEA",
    tight_soft="#FBF2DF", button="#10332E", button_ink="#FFFFFF", rail_holds="#7FD3B4", rail_tight="#E9B23C",
    rail_breaks="#FF8A7E", rail_unknown="#8FB0A6",
)  # fmt: skip

DARK = Palette(
    name="dark", pine="#0D2925", deep="#081C19", rail_ink="#DFEAE6", rail_mute="#84A59B", chalk="#0F1A18",
    card="#16241F", soft="#1E302B", line="#2F4640", ink="#E4EEEA", mute="#9CB2AB", link="#9DB4EC", copper="#D6894F",
    copper_soft="#7A4E30", slate="#86A0DC", slate_soft="#44557F", plum="#B98ACB", plum_soft="#5C4368",
    moss="#A3BE5C", moss_soft="#56652F", holds="#4DB78F", tight="#E0A92E", breaks="#F0776C", unknown="#7F948D",
    holds_text="#5CC59D", tight_text="#E8B64A", breaks_text="#FF9187", unknown_text="#9CB2AB", breaks_soft="#3A1F1C",
    tight_soft="#352A12", button="#D7E7E1", button_ink="#0B2622", rail_holds="#7FD3B4", rail_tight="#E9B23C",
    rail_breaks="#FF8A7E", rail_unknown="#84A59B",
)  # fmt: skip

DISCIPLINE_INK = {"power": "copper", "structure": "slate", "thinking": "plum", "sensing": "moss"}

CONCEPT_INKS = ("ink", "copper", "slate", "plum", "moss")
"""By place among the concepts; the letter tells them apart, the colour only helps."""

# px at scale 1
SIZES = {"tiny": 10.5, "small": 11.5, "base": 13.0, "heading": 14.0, "title": 19.0}
WORDS = "Atkinson Hyperlegible Next"
FIGURES = "Barlow Semi Condensed"


def luminance(colour: str) -> float:
    """Relative luminance of a colour. Source: WCAG 2.1."""
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = ((c / 12.92) if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours, 1 to 21. Source: WCAG 2.1."""
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)
