"""Concepts: several ways to meet one brief, side by side."""

from wired_union.kernel.subject import Subject

SUBJECT = Subject(
    id="concepts", title="Concepts", group="DEFINE",
    about=(
        "Every concept is assessed on its own under the one brief; a letter lies where its use of a limit lies on the"
        " wire. The decision is a weighted mean of scores from 0 to 10 (additive value model, Keeney & Raiffa 1976,"
        " from memory). A must-have that is “no”, a limit or a hard requirement that breaks knocks a concept out and is"
        " never scored. How sure: one weight is moved from none to all while the others keep their proportions;"
        " where two totals cross the order turns. Risk of an open question: days lost × chance of a bad answer.",
    ),
    view="view:ConceptsView", judges=False, commands="commands:add", section="section:section",
    gist="section:gist", passes_on="section:passed_on",
)  # fmt: skip
