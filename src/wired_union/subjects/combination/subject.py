"""Best mix: the best combination of several places, proven."""

from wired_union.kernel.subject import Subject

SUBJECT = Subject(
    id="combination", title="Best mix", group="CHOOSE",
    about=(
        "What is a sum (mass, money) is solved exactly as a mixed-integer program by HiGHS. Runtime, peak and sag come"
        " in as lower bounds that leave losses out, so that a combination they rule out really breaks; every answer is"
        " then assessed in full, and what it breaks is cut off with everything thirstier or weaker. Runtime is searched"
        " by branch and bound. The bound is the least score anything not looked at could have; proven means that the"
        " best is no worse. Sources: Land & Doig 1960; Hooker & Ottosson 2003; Huangfu & Hall 2018.",
    ),
    view="view:CombinationView", judges=False, commands="commands:add",
)  # fmt: skip
