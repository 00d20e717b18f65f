"""A picture as SVG text, for reports."""

from xml.sax.saxutils import escape, quoteattr

from wired_union.kernel.subject import Block
from wired_union.picture.palette import FIGURES, LIGHT, WORDS, Palette
from wired_union.picture.shapes import Box, Line, Picture, Poly, Ribbon, Ring, Shape, Text


def to_svg(picture: Picture, palette: Palette = LIGHT, *, label: str = "") -> str:
    """Self-contained SVG with the palette's colours; `label` is its accessible name."""
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {picture.width:.1f} {picture.height:.1f}"'
        f' width="{picture.width:.0f}" height="{picture.height:.0f}" role="img" aria-label={quoteattr(label)}>'
    )
    hatches = sorted({s.hatch for s in picture.every if isinstance(s, Box) and s.hatch})
    defs = "".join(
        f'<pattern id="hatch-{ink}" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
        f'<line x1="0" y1="0" x2="0" y2="5" stroke="{getattr(palette, ink)}" stroke-width="1.2"/></pattern>'
        for ink in hatches
    )
    body = "".join(_shape(s, palette) for s in picture.every)
    return f"{head}{f'<defs>{defs}</defs>' if defs else ''}{body}</svg>"


def drawn(picture: Picture, caption: str) -> Block:
    """A picture as a piece of a report, with what stands under it."""
    return Block(svg=to_svg(picture, label=caption), caption=caption)


def _colour(palette: Palette, role: str) -> str:
    return getattr(palette, role) if role else "none"


def _stroke(palette: Palette, ink: str, width: float, dash: tuple[float, ...]) -> str:
    dashes = f' stroke-dasharray="{" ".join(f"{d:g}" for d in dash)}"' if dash else ""
    return f'stroke="{_colour(palette, ink)}" stroke-width="{width:g}"{dashes}'


def _shape(shape: Shape, palette: Palette) -> str:
    if isinstance(shape, Line):
        stroke = _stroke(palette, shape.ink, shape.width, shape.dash)
        return f'<line x1="{shape.x1:.1f}" y1="{shape.y1:.1f}" x2="{shape.x2:.1f}" y2="{shape.y2:.1f}" {stroke}/>'
    if isinstance(shape, Poly):
        points = " ".join(f"{x:.1f},{y:.1f}" for x, y in shape.points)
        stroke = _stroke(palette, shape.ink, shape.width, shape.dash)
        return f'<polyline points="{points}" fill="{_colour(palette, shape.fill)}" {stroke}/>'
    if isinstance(shape, Ribbon):
        bend = (shape.x1 + shape.x2) / 2
        path = f"M{shape.x1:.1f},{shape.y1:.1f} C{bend:.1f},{shape.y1:.1f} {bend:.1f},{shape.y2:.1f}"
        stroke = _stroke(palette, shape.fill, shape.thick, ())
        return f'<path d="{path} {shape.x2:.1f},{shape.y2:.1f}" fill="none" {stroke}/>'
    if isinstance(shape, Ring):
        stroke = _stroke(palette, shape.ink, shape.width, shape.dash)
        return f'<circle cx="{shape.x:.1f}" cy="{shape.y:.1f}" r="{shape.r:g}" fill="none" {stroke}/>'
    if isinstance(shape, Box):
        fill = f"url(#hatch-{shape.hatch})" if shape.hatch else _colour(palette, shape.fill)
        stroke = _stroke(palette, shape.ink, shape.width, shape.dash)
        place = f'x="{shape.x:.1f}" y="{shape.y:.1f}" width="{shape.w:.1f}" height="{shape.h:.1f}"'
        return f'<rect {place} rx="{shape.radius:g}" fill="{fill}" {stroke}/>'
    return _text(shape, palette)


def _text(shape: Text, palette: Palette) -> str:
    family = WORDS if shape.family == "words" else FIGURES
    fallback = "sans-serif" if shape.family == "words" else "Barlow, sans-serif"
    weight = 600 if shape.bold else (400 if shape.family == "words" else 500)
    return (
        f'<text x="{shape.x:.1f}" y="{shape.y + shape.size * 0.35:.1f}" font-family="{family}, {fallback}"'
        f' font-size="{shape.size:g}" font-weight="{weight}" fill="{_colour(palette, shape.ink)}"'
        f' text-anchor="{shape.anchor}">{escape(shape.text)}</text>'
    )
