"""Cameras with what looks through their pictures: pictures a second, age of what is known, a pixel at the target."""

from msgspec import Struct

from wired_union.kernel.results import Verdict
from wired_union.kernel.subject import Node
from wired_union.physics.vision import WORK, Pictures, Pixel, picture_age, pixel_at_target
from wired_union.project.model import Project
from wired_union.project.timing_model import Eye
from wired_union.units import show


class EyeResult(Struct, frozen=True):
    """What an eye does with its pictures; the pixel is None where nobody says how far what it looks for is."""

    eye: Eye
    pictures: Pictures
    pixel: Pixel | None

    @property
    def keeps_up(self) -> float:
        """Share of the pictures that the camera takes which are looked through."""
        return self.pictures.per_s / self.eye.rate_hz

    @property
    def verdict(self) -> Verdict:
        return Verdict.HOLDS if self.keeps_up > 0.99 else Verdict.TIGHT


def assess_eye(eye: Eye) -> EyeResult:
    """One eye, by what was measured, else by what its way of looking usually takes."""
    pixels = max(1.0, eye.pixels_wide * eye.pixels_high * eye.region)  # no region is less than a pixel
    work = WORK[eye.looks_for] if eye.frame_s is None else eye.frame_s * eye.operations_hz / pixels
    found = picture_age(pixels, work, eye.operations_hz, eye.rate_hz, eye.exposure_s, eye.transfer_s)
    pixel = None
    if eye.distance_m is not None:
        pixel = pixel_at_target(eye.distance_m, eye.wide_deg, eye.pixels_wide, eye.moves_m_s or 0.0, found.per_s)
    return EyeResult(eye, found, pixel)


def eye_words(r: EyeResult) -> str:
    """ "3 of 30 pictures a second, what it says is 0.4 s to 0.7 s old; a pixel is 2 mm" """
    p = r.pictures
    each = "measured" if r.eye.frame_s is not None else "estimated"
    said = (f"{p.per_s:.3g} of {r.eye.rate_hz:g} pictures a second, {show(p.each_s, 's')} for each, {each}; what it"
            f" says is {show(p.youngest_s, 's')} to {show(p.oldest_s, 's')} old")  # fmt: skip
    if r.pixel is None:
        return said
    moved = f", and moves {r.pixel.moved_pixels:.0f} of them between two pictures" if r.eye.moves_m_s else ""
    return f"{said}; a pixel is {show(r.pixel.pixel_m, 'm')} at {show(r.eye.distance_m, 'm')}{moved}"


EYES = Node("eyes", lambda project: (project.concept.eyes,),
            lambda project, _: _work(project))  # fmt: skip


def _work(project: Project) -> tuple[EyeResult, ...]:
    return tuple(assess_eye(e) for e in project.concept.eyes)
