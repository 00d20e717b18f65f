"""The panel for a fault: what is seen, its cause and cure, what was tried, whether it is closed."""

from functools import partial
from typing import Any

from wired_union.project.notebook_model import About, Defect
from wired_union.subjects.notebook import edits
from wired_union.subjects.notebook.view_hand import PanelHand
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.pick_menu import pick_button
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import row

WORDS = {
    "seen": "what happens",
    "found_on": "found on",
    "found_by": "found by",
    "cause": "cause",
    "cure": "what mends it",
}
EMPTIES = {"cause": "not known yet", "cure": "none yet", "found_on": "not said"}


def show_fault(panel: PanelHand, fault: Defect) -> None:
    """Everything of a fault."""
    store, today, hand = panel.store, panel.desk.today(), panel.desk.hand()
    panel.add(label(fault.name, "title", wrap=True))
    state = f"closed {fault.closed_on}" if fault.closed_on else "open"
    panel.add(label(state, "mute"))

    def commit(complain: Any, field: str, new: Any) -> None:
        store.attempt_or(complain, edits.set_fault, fault.id, **{field: new})

    form = ValueForm(panel.theme, store, fault, fault.name, commit, words=WORDS, empties=EMPTIES,
                     skip=("about", "attempts", "closed_on"))  # fmt: skip
    panel.add(form)
    panel.fields |= form.fields
    if fault.attempts:
        panel.add(label("Tried", "heading"))
    for attempt in fault.attempts:
        who = " ".join(filter(None, (attempt.on, attempt.by)))
        panel.add(label(f"{who}: {attempt.text}", "mute", wrap=True))
    field = EntryField(str.strip, f"{fault.name}: tried")
    field.show_text("", "another pack; no better")
    field.committed.connect(
        lambda v: v and store.attempt_or(field.complain, edits.try_against, fault.id, v, today, hand)
    )
    more = Form(panel.theme)
    more.add("tried", field, "What was tried meanwhile, and what came of it")
    panel.fields["tried"] = field
    panel.add(more)
    parts = {i.id: About(what="part", id=i.id, name=i.name) for i in store.project.concept.items}
    for about in fault.about:
        panel.add(button(f"of {about.name}", partial(panel.desk.go_to_item, about.id), kind="link"))
    names = [(i, a.name) for i, a in parts.items()]
    link = pick_button(
        "of the part …", names, lambda v: store.attempt(edits.link_fault, fault.id, parts[v]), "Of which part"
    )
    panel.add(row(link))
    close = (button("open again", partial(store.attempt, edits.open_again, fault.id)) if fault.closed_on else
             button("Close it", partial(store.attempt, edits.close_fault, fault.id, today), kind="main"))  # fmt: skip
    panel.add(row(close), panel.back())
