"""The panel for one entry: what it says, why, what it is about, its pictures, what it said before."""

from functools import partial

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QPlainTextEdit

from wired_union.project.notebook_edits import give_reason
from wired_union.project.notebook_model import About, Entry, Photo
from wired_union.subjects.notebook import edits
from wired_union.subjects.notebook.view_hand import PanelHand
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.pick_menu import pick_button
from wired_union.ui.thumbs import PhotoLabel
from wired_union.ui.view import row

LARGE_W, LARGE_H = 260.0, 190.0


def show_entry(panel: PanelHand, entry: Entry) -> None:
    """Everything of an entry, to be corrected; what it said before stays to be read."""
    store, today, hand = panel.store, panel.desk.today(), panel.desk.hand()
    by = f" by {entry.by}" if entry.by else ""
    panel.add(label(f"{entry.when}{by}", "title", wrap=True))
    text = QPlainTextEdit(entry.text)
    text.setAccessibleName("Entry")
    text.setTabChangesFocus(True)
    text.setFixedHeight(panel.theme.px(72))
    panel.fields["entry"] = text
    panel.add(text)

    def correct() -> None:
        store.attempt(edits.correct_entry, entry.id, text.toPlainText(), today, hand)

    panel.add(row(button("Correct it", correct, tip="What it said before stays with it")), panel.back())
    if entry.moved:
        panel.add(label(entry.moved, "mute", wrap=True))
    form = Form(panel.theme)
    why = EntryField(str.strip, "Why")
    why.show_text(entry.why, "nobody said")
    why.committed.connect(lambda v: store.attempt_or(why.complain, give_reason, entry.id, v))
    struck = EntryField(str.strip, "Struck out because")
    struck.show_text(entry.struck, "it counts")
    struck.committed.connect(lambda v: store.attempt_or(struck.complain, edits.strike_entry, entry.id, v))
    form.add("why", why, "The reason, for whoever reads this next year")
    form.add("struck out", struck, "Why it does not count; it stays to be read")
    panel.fields |= {"why": why, "struck": struck}
    panel.add(form)
    _pictures(panel, entry)
    _about(panel, entry)
    for former in reversed(entry.former):
        by = f" by {former.corrected_by}" if former.corrected_by else ""
        panel.add(label(f"until {former.corrected_on}{by}: {former.text}", "mute", wrap=True))
    out = entry.when in store.project.days_left_out
    word = f"tell {entry.when} in the report" if out else f"leave {entry.when} out of the report"
    panel.add(row(button(word, partial(store.attempt, edits.leave_out_day, entry.when), kind="link")))


def _pictures(panel: PanelHand, entry: Entry) -> None:
    """Each picture, larger, with what it shows; pressing it opens it."""
    for photo in entry.photos:
        path = panel.desk.kept().find(photo.digest, photo.form)
        if path is None:
            panel.add(label(f"{photo.caption or 'picture'}: not found beside the file. Copy its folder along.", "mute",
                            wrap=True))  # fmt: skip
            continue
        size = (panel.theme.px(LARGE_W), panel.theme.px(LARGE_H))
        shown = PhotoLabel(panel.thumbs, photo.digest, photo.form, size, photo.caption or "picture")
        caption = EntryField(str.strip, f"What the picture shows: {photo.caption}")
        caption.show_text(photo.caption, "what does it show?")
        caption.committed.connect(partial(_call, panel, entry, photo))
        open_it = button("open", partial(QDesktopServices.openUrl, QUrl.fromLocalFile(str(path))), kind="link")
        panel.add(shown, caption, row(open_it))
    panel.add(row(button("Add a picture", partial(_add, panel, entry), kind="link")))


def _call(panel: PanelHand, entry: Entry, photo: Photo, caption: str) -> None:
    panel.store.attempt(edits.call_photo, entry.id, photo.digest, caption)


def _add(panel: PanelHand, entry: Entry) -> None:
    def take(photos: list[Photo]) -> None:
        for photo in photos:
            panel.store.attempt(edits.add_photo, entry.id, photo)

    panel.choose_photos(take)


def _about(panel: PanelHand, entry: Entry) -> None:
    """What it is about: each leads there, and can be taken off; more can be added."""
    store, project = panel.store, panel.store.project
    if entry.about:
        panel.add(label("About", "heading"))
    there = {i.id for i in project.concept.items}
    for about in entry.about:
        leads = about.what == "limit" or (about.what == "part" and about.id in there)
        called = about.name or about.id
        name = button(called, partial(_go, panel, about), kind="link") if leads else label(called)
        off = button("×", partial(store.attempt, edits.link_entry, entry.id, about), kind="link",
                     tip=f"Not about {about.name}")  # fmt: skip
        off.setAccessibleName(f"Not about {about.name}")
        panel.add(row(name, off))
    linked = {(a.what, a.id) for a in entry.about}
    could = [*(About(what="part", id=i.id, name=i.name) for i in project.concept.items),
             *(About(what="limit", id=x.measure, name=x.name) for x in project.brief.limits),
             *(About(what="trial", id=t.id, name=t.name) for t in project.trials)]  # fmt: skip
    values = {f"{a.what} {a.id}": a for a in could if (a.what, a.id) not in linked}
    free = [(key, a.name) for key, a in values.items()]
    panel.add(row(pick_button("about …", free, lambda v: store.attempt(edits.link_entry, entry.id, values[v]),
                              "What the entry is about")))  # fmt: skip


def _go(panel: PanelHand, about: About) -> None:
    if about.what == "part":
        panel.desk.go_to_item(about.id)
    else:
        panel.desk.go_to_stage(about.id)
