"""F1: what a screen computes, from which source."""

from html import escape

from PyQt6.QtWidgets import QDialog, QTextBrowser, QVBoxLayout, QWidget

from wired_union import units
from wired_union.app.theme.theme import Theme
from wired_union.app.widgets.fields import button
from wired_union.assess.cautions import NOT_CHECKED, RULES
from wired_union.physics.method import Method
from wired_union.physics.methods import find_method

_SCREENS: dict[str, tuple[str, tuple[str, ...]]] = {
    "brief": (
        "Each limit is a wire from zero to a post. Its use is value ÷ limit for “at most”, limit ÷ value for “at"
        " least”. It breaks above 1, is tight within the share kept in hand, and is unknown while a figure is missing:"
        " what is missing is listed and never counts as zero.",
        ("success-interval", "trials-for-proof"),
    ),
    "concepts": (
        "Every concept is assessed on its own under the one brief; a letter lies where its use of a limit lies on the"
        " wire. The decision is a weighted mean of scores from 0 to 10 (additive value model, Keeney & Raiffa 1976,"
        " from memory). A must-have that is “no”, a limit or a hard requirement that breaks knocks a concept out and is"
        " never scored. How sure: one weight is moved from none to all while the others keep their proportions;"
        " where two totals cross the order turns. Risk of an open question: days lost × chance of a bad answer.",
        (),
    ),
    "candidates": (
        "A part fits when it meets every figure the place asks and what the concept gives: the supply of its rail, the"
        " voltage a regulator must make. A figure that is not given refuses. Motors are judged at the voltage they get:"
        " speed and torque follow it (linear motor model). Each candidate is then assessed in the whole project. The"
        " line of the chart joins candidates that no other equals in both measures and betters in one.",
        (),
    ),
    "combination": (
        "What is a sum (mass, money) is solved exactly as a mixed-integer program by HiGHS. Runtime, peak and sag come"
        " in as lower bounds that leave losses out, so that a combination they rule out really breaks; every answer is"
        " then assessed in full, and what it breaks is cut off with everything thirstier or weaker. Runtime is searched"
        " by branch and bound. The bound is the least score anything not looked at could have; proven means that the"
        " best is no worse. Sources: Land & Doig 1960; Hooker & Ottosson 2003; Huangfu & Hall 2018.",
        (),
    ),
    "motion": (
        "Each load is worked out by statics: wheels on the slope and at the step, an arm over its angles, a screw with"
        " its friction. The motor is the linear model: current follows torque, speed follows voltage. The usual current"
        " stands for the motor's current at work in Power; the voltage that Power finds there sets the speed here, on"
        " average and at the worst instant. All day: root mean square current against what the motor carries, 30 % of"
        " its stall current where nothing says otherwise (common practice). The spiral scales motors by torque and the"
        " pack by energy. What turns keeps 20 % away from what swings (common practice).",
        (
            "dc-motor",
            "drive-torque",
            "step-climb",
            "leadscrew",
            "euler-buckling",
            "screw-critical-speed",
            "joint-torque",
            "spring-energy",
            "tank-shot",
            "spin-up-time",
            "best-gear-ratio",
            "reaction-wheel-slew",
            "descent-rate",
            "standard-atmosphere",
            "airflow-flap",
            "natural-frequency",
        ),
    ),
    "parts": (
        "An alternative is worked out by assessing the whole project with it in place. Order: what helps the limits"
        " that break comes first, what breaks a hard requirement last. Supply range, logic level (high from 0.7 of the"
        " supply, common practice), driver and regulator ratings (20 % in hand, common practice) are checked; fit in"
        " space is not.",
        ("linear-regulator", "switching-converter", "voltage-drop", "wire-gauge"),
    ),
    "power": (
        "Currents of each mode run up the tree: a linear regulator passes current, a switching one power through its"
        " efficiency curve, a wire its voltage drop. At the pack the loop V = E − R·(I + P/V + G·V) is solved exactly."
        " Runtime: charge runs down at the rate that the loaded current sets, phase by phase, until the reserve, the"
        " cut-off, or what the pack cannot deliver; the mission repeats until then. Peak: everything that starts in a"
        " mode at its start-up current, the rest at work, near the end of the charge. Open-circuit voltages are typical"
        " of the chemistry at 20 °C, from memory.",
        ("pack", "constant-power-sag", "peukert-runtime", "linear-regulator", "switching-converter", "duty-average"),
    ),
    "mass": (
        "Mass is the sum of parts times their count, each with the growth allowance that its knowledge calls for, and"
        " the system margin on top. Money counts what is bought or to buy.",
        ("mass-growth",),
    ),
    "timing": (
        "Worst: every stage at its most, every sample just missed. Typical: every stage in its middle. Least: every"
        " stage at its shortest. Stages are taken as not synchronised with each other.",
        ("chain-latency", "uart-time", "i2c-time", "spi-time", "response-times", "lora-airtime"),
    ),
}


def help_text(stage: str, title: str) -> str:
    """The page of a screen, as HTML made from the methods' declarations."""
    about, names = _SCREENS.get(stage, ("Open or start a project; then each screen says here what it computes.", ()))
    methods = "".join(_method(find_method(n)) for n in names)
    gaps = "".join(f"<li>{escape(x)}</li>" for x in NOT_CHECKED)
    return (
        f"<h2>{escape(title)}: what this screen computes</h2><p>{escape(about)}</p>{methods}"
        f"<h3>What nothing here checks</h3><ul>{gaps}</ul><p>{escape(RULES)}</p>"
        "<p>Keys: Alt+1…9 stages, Ctrl K find, Ctrl Z and Ctrl Shift Z back and forth, Ctrl S save, arrows inside"
        " lanes and charts, Enter to choose, Esc to step back.</p>"
    )


def _method(method: Method) -> str:
    inputs = ", ".join(units.plain_words(i.name) for i in method.inputs)
    limits = f" Limits: {escape(method.limits)}." if method.limits else ""
    return (
        f"<p><b>{method.name}</b>: {escape(method.summary)} From {escape(inputs)}."
        f" <i>Source: {escape(method.source)}.</i>{limits}</p>"
    )


class Help(QDialog):
    """The page of one screen."""

    def __init__(self, stage: str, title: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"About {title}")
        self.resize(theme.px(620), theme.px(520))
        self.page = QTextBrowser()
        self.page.setHtml(help_text(stage, title))
        column = QVBoxLayout(self)
        column.addWidget(self.page, 1)
        column.addWidget(button("Close", self.accept, kind="main"))
