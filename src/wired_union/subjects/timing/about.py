"""What F1 says of Timing, and the methods that its figures come from."""

ABOUT = (
    "Worst: every stage at its most, every sample just missed. Typical: every stage in its middle. Least: every"
    " stage at its shortest. Stages are taken as not synchronised with each other. The spread takes each stage as"
    " anywhere between its least and its most, alike and by itself: how it is mixed inside is not known. Reaction is"
    " from the event on, age from the first sample on.",
    "Tasks: the worst response over all instances of the longest busy period, by their priorities; alike, each may"
    " have to wait for the other. Cores are looked at one by one. A wait counts as if the task kept the processor:"
    " true of a plain loop, a bound elsewhere. A plain loop answers after a whole pass at the worst. The lanes show"
    " everything due at once and each run at its longest.",
    "Buses: CAN exactly by priority, frames stuffed at the worst, as many errors a minute as are given, evenly"
    " apart; several frames as if others could come in between. Other buses one after the other as they are asked"
    " for. A UART's receiver loses what it cannot keep until its task has read. Pull-ups of I²C lines by their rise"
    " and by what parts sink, where figures are given. A wait that is meant is never offered as a gain. Not checked:"
    " what a task costs to switch, caches, locks across cores.",
    "Pulses, samples and edges: a new value waits for the frame under way and for its own pulse; a converter's"
    " input settles to half a step through one resistor and one capacitor; what lies above half the sample rate"
    " folds; edges as many as Motion's fastest turns give, downhill not counted. Left out: jitter of a timer's"
    " clock, a converter's own errors, contacts that bounce.",
    "Loops: linear plants of one lag, with an integrator or without; a motor's from its winding, its load and its"
    " inertia. The delay is the chain's worst with half a period that each output is held. The margin is that of"
    " the crossover that bears the least; 45° is asked for (common practice). The response is of the sampled"
    " controller itself, with its limit. Left out: noise, backlash, friction.",
    "Dead reckoning: what is always the same bends the way, what slips spreads it, twice its standard deviation is"
    " taken. A line or a wall gives back place across and heading, a beacon only the place. Left out: turns on the way,"
    " bumps that are no slip.",
    "Air: time of a chirp packet by its published formula. Flat ground cancels what low antennas send, where that"
    " is more than free space; an edge stands halfway. Senders do not listen first, and who collides is lost; a"
    " packet has to get through on each hop. An antenna loses off its strongest direction; what was heard on a trial"
    " says what stands in the way besides. Of a phone or satellite network only its time is known. Left"
    " out: reflections, rain, other users of the band. How long and how loud a sender may be is for local rules.",
)

METHODS = (
    "chain-latency", "chain-spread", "chain-age",
    "uart-time", "i2c-time", "i2c-pull-up", "spi-time", "one-wire-time", "response-times",
    "utilisation-bound",
    "audsley-order", "super-loop", "can-frame-bits", "can-response-times", "loop-delay", "simc-tuning",
    "ziegler-nichols", "lambda-tuning",
    "placement-tuning", "pid-step", "prediction-gain", "step-fit",
    "lora-airtime", "airtime-share", "slotted-aloha", "lora-sensitivity", "free-space-loss",
    "plane-earth-loss", "knife-edge-loss", "fresnel-clearance", "antenna-match", "antenna-pattern", "heard-fit",
    "link-budget", "packet-bits",
    "picture-age", "pulse-time", "sampling", "encoder-edges", "dead-reckoning", "pixel-at-target",
)  # fmt: skip
