"""The panel of the Money screen: a line, making more, a part we make, an upgrade; whom to thank, what has no spare."""

from functools import partial
from typing import Any

from wired_union.project.change import Change
from wired_union.project.model import Project
from wired_union.project.money_model import Made, Purchase, Upgrade
from wired_union.subjects.ledger import edits
from wired_union.subjects.ledger.pick import MoneyPick
from wired_union.subjects.ledger.shown import broken_words, donors, exact
from wired_union.ui.fields import EntryField, Form, button, label
from wired_union.ui.pick_menu import pick_button
from wired_union.ui.value_form import ValueForm
from wired_union.ui.view import View, row
from wired_union.units import show

LINE_WORDS = {"amount": "costs, all of it", "returned": "came back", "giver": "from", "part": "for the part",
              "budget_line": "budget line", "spare": "a spare", "count": "how many", "on": "on the day"}  # fmt: skip
LINE_EMPTIES = {"amount": "not known", "returned": "nothing", "currency": "the project's", "on": "not said",
                "part": "no part", "receipt": "none", "giver": "not said"}  # fmt: skip
MAKING_WORDS = {
    "quantity": "how many",
    "labour_h": "hours of the first",
    "wage": "an hour costs",
    "fixed": "once, besides",
    "learning": "the 2nd takes",
    "margin": "margin on the price",
    "price": "price asked",
    "kit_price": "price of the package",
}
MAKING_EMPTIES = {"quantity": "not known", "labour_h": "not known", "wage": "not known", "margin": "not said",
                  "price": "by the margin"}  # fmt: skip
FEW = 5


class MoneyPanel:
    """Fills the panel."""

    def __init__(self, view: View) -> None:
        self.view, self.store, self.theme = view, view.store, view.theme
        self.fields: dict[str, Any] = {}

    def show(self) -> None:
        """What is selected, then what there is to say."""
        self.view.panel.clear()
        self.fields = {}
        picked, project = self.store.picked(MoneyPick), self.store.project
        line = next((p for p in project.ledger if p.id == picked.line), None)
        made = next((m for m in project.concept.making.made if m.id == picked.made), None)
        upgrade = next((u for u in project.upgrades if u.id == picked.upgrade), None)
        if line is not None:
            self._line(line)
        elif made is not None:
            self._made(made)
        elif upgrade is not None:
            self._upgrade(upgrade)
        elif picked.making:
            self._making()
        else:
            self._add(label("Money", "title"))
            hint = "Select a line of the ledger to say how far it has got."
            self._add(label(hint, "mute", wrap=True))
        found = [f for f in self.store.assessment.findings if f.subject == "ledger" or f.check == "money"]
        found.sort(key=lambda f: f.of not in {picked.line, picked.made} - {""})
        self.view.finding_cards(found[:FEW])
        if len(found) > FEW:
            self._add(label(f"and {len(found) - FEW} more, in the report", "mute"))
        self._besides()
        self.view.panel.column.addStretch(1)

    def _add(self, *widgets: Any) -> None:
        for widget in widgets:
            self.view.panel.column.addWidget(widget)

    def _money(self, *names: str) -> dict[str, str]:
        """Fields that are amounts of the project's currency."""
        return dict.fromkeys(names, self.store.project.brief.currency)

    def _line(self, line: Purchase) -> None:
        self._add(label(line.name, "title", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_purchase, line.id, **{field: new})

        unit = line.currency or self.store.project.brief.currency
        form = ValueForm(self.theme, self.store, line, line.name, commit, words=LINE_WORDS, empties=LINE_EMPTIES,
                         measured_in={"amount": unit, "returned": unit})  # fmt: skip
        names = dict.fromkeys(i.part.name for i in self.store.project.concept.items)
        form.add("", pick_button("choose the part …", [(n, n) for n in names],
                                 lambda v: self.store.attempt(edits.set_purchase, line.id, part=v),
                                 f"{line.name}: for the part"))  # fmt: skip
        self._add(form)
        self.fields |= form.fields
        self._add(row(button(f"take {line.name} out", partial(self.store.attempt, edits.remove_purchase, line.id),
                             kind="link")))  # fmt: skip

    def _making(self) -> None:
        self._add(label("If more are made", "title"))
        making = self.store.project.concept.making

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_making, **{field: new})

        form = ValueForm(self.theme, self.store, making, "If more are made", commit, words=MAKING_WORDS,
                         empties=MAKING_EMPTIES, skip={"parts", "made", "rivals", "kit", "beyond"},
                         measured_in=self._money("wage", "fixed", "price", "kit_price")
                         | {"learning": "share", "margin": "share"})  # fmt: skip
        for name, text, told, edit in (("rivals", "a buyer could have", making.rivals, edits.set_rivals),
                                       ("kit", "the package holds", making.kit, edits.set_kit)):  # fmt: skip
            field = EntryField(str.strip, f"If more are made: {text}")
            field.show_text(edits.named_text(told), "a case: 30; …")
            field.committed.connect(lambda v, f=field, e=edit: self.store.attempt_or(f.complain, e, v))
            form.add(text, field, "name, colon, amount; between semicolons")
            self.fields[name] = field
        self._add(form)
        self.fields |= form.fields
        self._add(label("Prices by number", "heading"))
        self._breaks()

    def _breaks(self) -> None:
        """What each part costs from so many on."""
        making = self.store.project.concept.making
        by_item = {p.item: p for p in making.parts}
        own = {m.item for m in making.made if m.ways}
        form = Form(self.theme)
        for item in (i for i in self.store.project.concept.items if i.id not in own):
            field = EntryField(str.strip, f"{item.name}: price by number")
            now = show(item.part.price, self.store.project.brief.currency)
            field.show_text(edits.breaks_text(by_item.get(item.id)), f"{now} for any")
            field.committed.connect(
                lambda v, f=field, i=item.id: self.store.attempt_or(f.complain, edits.set_breaks, i, v)
            )
            form.add(item.name, field, "from how many on, colon, price: “10: 20; 100: 17.50”")
            self.fields[f"breaks {item.id}"] = field
        self._add(form)

    def _made(self, made: Made) -> None:
        self._add(label(made.name, "title", wrap=True))
        items = [(i.id, i.name) for i in self.store.project.concept.items]
        names = dict(items)
        stands = f"stands for {names[made.item]}" if made.item in names else "besides the parts"
        self._add(label(f"{stands}, {made.each} in one machine", "mute", wrap=True))
        self._add(row(pick_button("stands for …", items, lambda v: self.store.attempt(edits.stands_for, made.id, v),
                                  f"{made.name}: stands for")))  # fmt: skip
        for way in made.ways:
            currency = self.store.project.brief.currency
            lasts = f", a tool lasts {way.tool_lasts:,}" if way.tool_lasts else ""
            words = f"{way.process}: {exact(way.tool, currency)} once, {exact(way.each, currency)} each{lasts} ×"
            self._add(button(words, partial(self.store.attempt, edits.remove_way, made.id, way.process), kind="link",
                             tip="No longer one of the ways"))  # fmt: skip
        field = EntryField(str.strip, f"{made.name}: one more way")
        field.show_text("", "print; 0; 4.20")
        field.committed.connect(lambda v: v and self.store.attempt_or(field.complain, edits.add_way, made.id, v))
        form = Form(self.theme)
        form.add("one more way", field, "how; the tool once; each piece; pieces a tool lasts")
        self._add(form)
        self.fields["way"] = field
        self._add(label(f"How is one of: {', '.join(edits.PROCESSES)}.", "mute", wrap=True))
        self._add(row(button(f"take {made.name} away", partial(self.store.attempt, edits.remove_made, made.id),
                             kind="link")))  # fmt: skip

    def _upgrade(self, upgrade: Upgrade) -> None:
        self._add(label(upgrade.name, "title", wrap=True))

        def commit(complain: Any, field: str, new: Any) -> None:
            self.store.attempt_or(complain, edits.set_upgrade, upgrade.id, **{field: new})

        form = ValueForm(self.theme, self.store, upgrade, upgrade.name, commit,
                         measured_in=self._money("cost") | {"points": "points"})  # fmt: skip
        self._add(form)
        self.fields |= form.fields
        self._add(row(button(f"take {upgrade.name} out", partial(self.store.attempt, edits.remove_upgrade, upgrade.id),
                             kind="link")))  # fmt: skip

    def _besides(self) -> None:
        """Whom to thank, what a broken part costs in days, upgrades to go to."""
        project = self.store.project
        thanks = donors(project)
        if thanks:
            self._add(label("Thanks", "heading"), label(", ".join(thanks), "", wrap=True))
        self._add(label("If one breaks", "heading"))
        for name, days in broken_words(project)[:4]:
            lost = f"{show(days, 'days')} until another is here" if days is not None else "days not known"
            self._add(label(f"{name}: {lost}, no spare", "mute", wrap=True))
        unbought = [(i.id, i.name) for i in project.concept.items if i.origin == "to buy" and i.part.price is not None]
        today = self.view.desk.today()
        if unbought:
            self._add(row(pick_button("order a part …", unbought, lambda v: self.store.attempt(_order, v, today),
                                      "Order a part", "A line for it, ordered today")))  # fmt: skip
        for u in project.upgrades:
            self._add(button(u.name, partial(self.store.pick, MoneyPick(upgrade=u.id)), kind="link"))


def _order(project: Project, item_id: str, today: str) -> Change:
    return edits.buy_item(project, item_id, today)
