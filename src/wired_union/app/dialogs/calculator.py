"""A calculator for one declared method: its inputs, its result, its source."""

from PyQt6.QtWidgets import QDialog, QLineEdit, QVBoxLayout, QWidget

from wired_union import units
from wired_union.physics.method import Input, Method, MethodError, shown
from wired_union.ui.fields import Form, button, label
from wired_union.ui.theme import Theme


class Calculator(QDialog):
    """Works a method as it is typed."""

    def __init__(self, method: Method, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._method = method
        self.setWindowTitle(method.name)
        self.setMinimumWidth(theme.px(460))
        column = QVBoxLayout(self)
        column.addWidget(label(method.name, "title"))
        column.addWidget(label(method.summary, "mute", wrap=True))
        form = Form(theme)
        self.inputs: dict[str, QLineEdit] = {}
        for wanted in method.inputs:
            line = QLineEdit()
            line.setPlaceholderText(_hint(wanted))
            line.setAccessibleName(wanted.name)
            line.textChanged.connect(self._work)
            self.inputs[wanted.name] = line
            form.add(
                f"{units.plain_words(wanted.name)}{f' ({wanted.unit})' if wanted.unit else ''}", line, wanted.meaning
            )
        column.addWidget(form)
        self.answer = label("", "heading", wrap=True)
        column.addWidget(self.answer)
        limits = f" Limits: {method.limits}." if method.limits else ""
        column.addWidget(label(f"Source: {method.cited}.{limits}", "mute", wrap=True))
        column.addWidget(button("Close", self.accept))
        self._work()

    def _work(self) -> None:
        texts = {name: line.text() for name, line in self.inputs.items() if line.text().strip()}
        lacking = [units.plain_words(i.name) for i in self._method.inputs if i.required and i.name not in texts]
        if lacking:
            self.answer.setText(f"Still to give: {', '.join(lacking)}")
            return
        try:
            _, outputs = self._method.work(texts)
        except MethodError as error:
            self.answer.setText(str(error).removeprefix(f"{self._method.name}: "))
            return
        self.answer.setText("\n".join(f"{units.plain_words(k)}: {shown(k, v)}" for k, v in outputs.items()))


def _hint(wanted: Input) -> str:
    if wanted.required:
        return ""
    usual = {True: "yes", False: "no"}.get(wanted.default, wanted.default) if wanted.kind == "flag" else wanted.default
    return f"usually {usual}" if usual is not None else "may stay empty"
