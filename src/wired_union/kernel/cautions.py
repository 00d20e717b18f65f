"""What is said with every caution, and what nothing here checks."""

RULES = "Your local rules and a licensed practitioner come first."

NOT_CHECKED = (
    "behaviour in cold or heat beyond room temperature",
    "shock, vibration and water",
    "wiring mistakes, short circuits and electromagnetic disturbance",
    "software, and what it does when a part fails",
    "the typical values of generic parts: measure the real ones",
)
