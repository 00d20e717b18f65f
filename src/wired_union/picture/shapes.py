"""The few shapes that every picture is made of. Layouts return them; the window paints them, the report writes SVG.

Coordinates are in pixels from the top left, y down. Inks are roles of the palette, never colours. A text's y is the
middle of its line.
"""

from collections.abc import Callable, Sequence

from msgspec import Struct
from msgspec.structs import replace

from wired_union.picture.palette import SIZES

Ruler = Callable[[str, float, str, bool], float]
"""(text, size in px, "words" or "figures", bold) to width in px."""


class Line(Struct, frozen=True):
    x1: float
    y1: float
    x2: float
    y2: float
    ink: str
    width: float = 1.0
    dash: tuple[float, ...] = ()


class Poly(Struct, frozen=True):
    """Straight lines through points, filled where `fill` is given."""

    points: tuple[tuple[float, float], ...]
    ink: str = ""
    fill: str = ""
    width: float = 1.0
    dash: tuple[float, ...] = ()


class Ribbon(Struct, frozen=True):
    """A band that runs smoothly from (x1, y1) to (x2, y2), `thick` pixels wide."""

    x1: float
    y1: float
    x2: float
    y2: float
    thick: float
    fill: str


class Box(Struct, frozen=True):
    x: float
    y: float
    w: float
    h: float
    fill: str = ""
    ink: str = ""
    radius: float = 0.0
    width: float = 1.0
    hatch: str = ""
    dash: tuple[float, ...] = ()


class Ring(Struct, frozen=True):
    x: float
    y: float
    r: float
    ink: str
    width: float = 1.4
    dash: tuple[float, ...] = (2.5, 2.0)
    fill: str = ""


class Text(Struct, frozen=True):
    x: float
    y: float
    text: str
    ink: str = "ink"
    size: float = 13.0
    family: str = "words"
    bold: bool = False
    anchor: str = "start"


Shape = Line | Poly | Ribbon | Box | Ring | Text


class Region(Struct, frozen=True):
    """A place in a picture that can be pointed at: what it is, what it says, how it is held.

    Its id is its own in the picture; `of` is the value that it stands for, None where that is the id.
    """

    id: str
    x: float
    y: float
    w: float
    h: float
    label: str
    grip: str = ""
    """How it is held: "edge" is dragged sideways, "place" any way, "carry" onto another, over "brush" a stretch is
    drawn out; "" is only clicked."""
    of: object = None

    @property
    def stands_for(self) -> object:
        return self.id if self.of is None else self.of

    def holds(self, x: float, y: float) -> bool:
        return self.x <= x <= self.x + self.w and self.y <= y <= self.y + self.h


class Picture(Struct, frozen=True):
    width: float
    height: float
    shapes: tuple[Shape, ...]
    regions: tuple[Region, ...] = ()
    still: tuple[Shape, ...] = ()
    """What lies under the shapes and seldom changes; the very same tuple while it does not, so that it may be kept."""

    @property
    def every(self) -> tuple[Shape, ...]:
        """All that is drawn, what lies lowest first."""
        return (*self.still, *self.shapes)

    def at(self, x: float, y: float) -> Region | None:
        """The topmost region at a point."""
        return next((r for r in reversed(self.regions) if r.holds(x, y)), None)


def rough_ruler(text: str, size: float, family: str, bold: bool) -> float:
    """Widths without a font engine, a little on the wide side: for reports and tests."""
    wide = sum(0.35 if c in " .,:;|il'·" else 0.75 if c in "mwMW" else 0.56 for c in text)
    return wide * size * (0.84 if family == "figures" else 1.0) * (1.04 if bold else 1.0)


class Kit(Struct, frozen=True):
    """What a layout needs besides its data: the scale of texts and a ruler."""

    scale: float = 1.0
    ruler: Ruler = rough_ruler

    def px(self, value: float) -> float:
        return value * self.scale

    def size(self, role: str) -> float:
        return SIZES[role] * self.scale

    def words(self, x: float, y: float, text: str, role: str = "base", ink: str = "ink", *, bold: bool = False,
              anchor: str = "start") -> Text:  # fmt: skip
        return Text(x, y, text, ink, self.size(role), "words", bold, anchor)

    def figures(self, x: float, y: float, text: str, role: str = "small", ink: str = "ink", *, bold: bool = False,
                anchor: str = "start") -> Text:  # fmt: skip
        return Text(x, y, text, ink, self.size(role), "figures", bold, anchor)

    def width(self, text: str, role: str, family: str = "words", bold: bool = False) -> float:
        return self.ruler(text, self.size(role), family, bold)

    def cut(self, text: str, width: float, role: str = "base", family: str = "words", bold: bool = False) -> str:
        """The text, ended with … where it is wider than `width`."""
        if self.width(text, role, family, bold) <= width:
            return text
        low, high = 0, len(text)
        while low < high:
            middle = (low + high + 1) // 2
            if self.width(text[:middle].rstrip() + "…", role, family, bold) <= width:
                low = middle
            else:
                high = middle - 1
        return text[:low].rstrip() + "…" if low else ""

    def wrap(self, text: str, width: float, role: str = "base", family: str = "words", bold: bool = False) -> list[str]:
        """The text in lines no wider than `width`, broken at spaces."""
        lines: list[str] = []
        for word in text.split(" "):
            longer = f"{lines[-1]} {word}" if lines else word
            if lines and self.width(longer, role, family, bold) <= width:
                lines[-1] = longer
            else:
                lines.append(word)
        return lines

    def few_lines(self, text: str, width: float, most: int, role: str = "base") -> list[str]:
        """The text in at most so many lines, each no wider than `width`; the last ends with … where it goes on."""
        lines = self.wrap(text, width, role)
        kept = [*lines[: most - 1], " ".join(lines[most - 1 :])] if len(lines) > most else lines
        return [self.cut(line, width, role) for line in kept]


def hint_picture(words: str, kit: "Kit", width: float) -> Picture:
    """What to do first, on as many lines as it takes."""
    lines, high = kit.wrap(words, width, "small"), kit.px(18)
    shapes = [kit.words(0, kit.px(10) + n * high, line, "small", "mute") for n, line in enumerate(lines)]
    return Picture(width, kit.px(8) + high * len(lines), tuple(shapes))


def shifted(shapes: Sequence[Shape], dx: float, dy: float) -> tuple[Shape, ...]:
    """Shapes moved by (dx, dy)."""
    return tuple(_shift(s, dx, dy) for s in shapes)


def kept_inside(shapes: Sequence[Shape], kit: Kit, width: float) -> tuple[Shape, ...]:
    """Shapes whose texts are pushed back inside where they would leave the picture to the left or right."""
    found: list[Shape] = []
    for shape in shapes:
        if isinstance(shape, Text):
            wide = kit.ruler(shape.text, shape.size, shape.family, shape.bold)
            left = shape.x - {"start": 0.0, "middle": wide / 2, "end": wide}[shape.anchor]
            push = max(-left, 0.0) - max(left + wide - width, 0.0) if wide <= width else -left
            shape = replace(shape, x=shape.x + push)
        found.append(shape)
    return tuple(found)


def _shift(shape: Shape, dx: float, dy: float) -> Shape:
    if isinstance(shape, Line | Ribbon):
        return replace(shape, x1=shape.x1 + dx, y1=shape.y1 + dy, x2=shape.x2 + dx, y2=shape.y2 + dy)
    if isinstance(shape, Poly):
        return replace(shape, points=tuple((x + dx, y + dy) for x, y in shape.points))
    return replace(shape, x=shape.x + dx, y=shape.y + dy)
