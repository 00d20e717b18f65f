"""The states of the machine as C and as Python, to take into a program; they do what `run.step` does."""

import keyword

from wired_union.project.change import plain
from wired_union.project.interlock_model import Clause, Cue, MachineState, Passage
from wired_union.subjects.interlocks.machine import Machine

TOLERANCE = "1e-9"


def names_of(texts: list[str], prefix: str) -> dict[str, str]:
    """Identifiers that C and Python take, one for each text."""
    taken: set[str] = set()
    found: dict[str, str] = {}
    for text in texts:
        plain = "".join(c if c.isascii() and c.isalnum() else "_" for c in text).strip("_").upper() or "X"
        name, n = f"{prefix}_{plain}", 2
        while name in taken or keyword.iskeyword(name):
            name, n = f"{prefix}_{plain}_{n}", n + 1
        taken.add(name)
        found[text] = name
    return found


class _Names:
    """Identifiers of states, cues and quantities."""

    def __init__(self, machine: Machine) -> None:
        self.states = names_of([s.id for s in machine.states], "STATE")
        self.cues = names_of(list(machine.cues), "CUE")
        self.quantities = names_of(list(dict.fromkeys(
            c.quantity or c.name for c in machine.cues.values() if c.kind == "threshold")), "VALUE")  # fmt: skip

    def quantity(self, cue: Cue) -> str:
        return self.quantities[cue.quantity or cue.name]


def _ordered(machine: Machine, state: str) -> list[Passage]:
    return sorted((p for p in machine.passages if p.start == state), key=lambda p: p.rank)


def _number(value: float) -> str:
    return repr(float(value))


def _comment(text: str) -> str:
    return _line(text).replace("*/", "* /").replace("/*", "/ *").replace("\\", "/").replace("??", "? ?")


def c_code(machine: Machine, title: str) -> str:
    """A header: states, cues, values, and one function that takes a step. Raises ValueError without any state."""
    if not machine.states:
        raise ValueError("There is no state to write.")
    n = _Names(machine)
    cues, values = max(len(n.cues), 1), max(len(n.quantities), 1)
    lines = [f"/* States of {_comment(title)}, written by Wired Union. Call machine_step again and again. */",
             "#ifndef MACHINE_STATES_H", "#define MACHINE_STATES_H", "#include <math.h>", "",
             _enum(list(n.states.values()), "machine_state"), _enum(list(n.cues.values()), "machine_cue"),
             _enum(list(n.quantities.values()), "machine_value"), "",
             "/* events: 1 where it happened since the last step; values: as measured, NAN where it is not. */",
             f"typedef struct {{ int events[{cues}]; double values[{values}]; }} machine_inputs;",
             f"typedef struct {{ int state; double time_s; int so[{cues}]; double for_s[{cues}]; }} machine;", "",
             "static inline void machine_begin(machine *m) {", "    int i;",
             f"    m->state = {n.states[machine.states[0].id]}; m->time_s = 0.0;",
             f"    for (i = 0; i < {cues}; i++) {{ m->so[i] = 0; m->for_s[i] = 0.0; }}", "}", "",
             "static inline int machine_go(machine *m, int state) { m->state = state; m->time_s = 0.0; return 1; }", "",
             "/* One step; 1 where a way was taken. */",
             "static inline int machine_step(machine *m, const machine_inputs *in, double dt_s) {",
             f"    int now, counts[{cues}];", "    (void)in; (void)now; (void)counts;"]  # fmt: skip
    for cue in machine.cues.values():
        lines += _c_cue(cue, n)
    lines += ["    m->time_s += dt_s;", "    switch (m->state) {"]
    for s in machine.states:
        lines.append(
            f"    case {n.states[s.id]}: /* {_comment(s.name)}{f': {_comment(s.entry)}' if s.entry else ''} */"
        )
        for p in _ordered(machine, s.id):
            lines.append(
                f"        if ({_c_when(p, n)}) return machine_go(m, {n.states[p.end]}); /* {_comment(p.name)} */"
            )
        lines.append("        break;")
    return "\n".join([*lines, "    default: break;", "    }", "    return 0;", "}", "", "#endif", ""])


def _enum(names: list[str], of: str) -> str:
    return f"enum {of} {{ {', '.join(names)} }};" if names else f"/* no {of} */"


def _c_cue(cue: Cue, n: _Names) -> list[str]:
    """Whether it is so, for how long, and whether that counts."""
    i = n.cues[cue.id]
    if cue.kind == "event":
        now = f"in->events[{i}] != 0"
    elif cue.threshold is None:
        now = "0"
    else:
        value, back = f"in->values[{n.quantity(cue)}]", _number(cue.hysteresis)
        sign, beyond = ("-", ">") if cue.side == "above" else ("+", "<")
        now = f"{value} {beyond} {_number(cue.threshold)} {sign} (m->so[{i}] ? {back} : 0.0)"
    return [f"    now = {now}; /* {_comment(cue.name)} */",
            f"    m->for_s[{i}] = now && m->so[{i}] ? m->for_s[{i}] + dt_s : 0.0; m->so[{i}] = now;",
            f"    counts[{i}] = now && m->for_s[{i}] >= {_number(cue.dwell_s)} - {TOLERANCE};"]  # fmt: skip


def _c_when(p: Passage, n: _Names) -> str:
    ways = [f"m->time_s >= {_number(p.after_s)} - {TOLERANCE}"] if p.after_s is not None else []
    ways += [_c_clause(c, n) for c in p.clauses]
    return " || ".join(f"({w})" for w in ways) or "1"


def _c_clause(clause: Clause, n: _Names) -> str:
    return " && ".join(f"{'!' if x.is_not else ''}counts[{n.cues[x.cue]}]" for x in clause.parts) or "1"


def python_code(machine: Machine, title: str) -> str:
    """A module with the same names and one class. Raises ValueError without any state."""
    if not machine.states:
        raise ValueError("There is no state to write.")
    n = _Names(machine)
    said = _line(title).replace("\\", "/").replace('"', "'")
    lines = [f'"""States of {said}, written by Wired Union. Call step again and again."""', ""]
    for names in (n.states, n.cues, n.quantities):
        lines += [f"{name} = {k}" for k, name in enumerate(names.values())]
    lines += _py_head(n.states[machine.states[0].id], len(n.cues))
    for cue in machine.cues.values():
        lines += _py_cue(cue, n)
    lines.append("        self.time_s += dt_s")
    for s in machine.states:
        lines += _py_state(machine, s, n)
    return "\n".join([*lines, "        return False", ""])


def _py_head(first: str, cues: int) -> list[str]:
    """The class down to where a step begins."""
    return [
        "",
        "",
        "class Machine:",
        '    """Where it is: the state, how long; of every cue whether it is so, for how long."""',
        "",
        "    def __init__(self):",
        f"        self.state, self.time_s = {first}, 0.0",
        f"        self.so, self.for_s = [False] * {cues}, [0.0] * {cues}",
        "",
        "    def _cue(self, i, now, dwell_s, dt_s):",
        "        self.for_s[i] = self.for_s[i] + dt_s if now and self.so[i] else 0.0",
        "        self.so[i] = now",
        f"        return now and self.for_s[i] >= dwell_s - {TOLERANCE}",
        "",
        "    def step(self, events, values, dt_s):",
        '        """One step: events that happened, values by number; True where a way was taken."""',
        f"        counts = [False] * {cues}",
    ]


def _py_state(machine: Machine, s: MachineState, n: _Names) -> list[str]:
    """The ways out of one state."""
    lines = [f"        if self.state == {n.states[s.id]}:  # {_line(s.name)}{f': {_line(s.entry)}' if s.entry else ''}"]
    for p in _ordered(machine, s.id):
        lines += [
            f"            if {_py_when(p, n)}:  # {_line(p.name)}",
            f"                self.state, self.time_s = {n.states[p.end]}, 0.0",
            "                return True",
        ]
    return [*lines, "            return False"]


def _line(text: str) -> str:
    """On one line, without control characters."""
    return " ".join(plain(text).split())


def _py_cue(cue: Cue, n: _Names) -> list[str]:
    i = n.cues[cue.id]
    if cue.kind == "event":
        now = f"{i} in events"
    elif cue.threshold is None:
        now = "False"
    else:
        sign, beyond = ("-", ">") if cue.side == "above" else ("+", "<")
        q = n.quantity(cue)
        back = f"({_number(cue.hysteresis)} if self.so[{i}] else 0.0)"
        now = f"{q} in values and values[{q}] {beyond} {_number(cue.threshold)} {sign} {back}"
    return [f"        counts[{i}] = self._cue({i}, {now}, {_number(cue.dwell_s)}, dt_s)  # {_line(cue.name)}"]


def _py_when(p: Passage, n: _Names) -> str:
    ways = [f"self.time_s >= {_number(p.after_s)} - {TOLERANCE}"] if p.after_s is not None else []
    ways += [" and ".join(f"{'not ' if x.is_not else ''}counts[{n.cues[x.cue]}]" for x in c.parts) or "True"
             for c in p.clauses]  # fmt: skip
    return " or ".join(f"({w})" for w in ways) or "True"
