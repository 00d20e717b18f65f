"""A second, independent solver: from the project's JSON to the figures of its limits, by other methods than the program's.

Circuits by sweeps up and down until nothing moves, missions by small steps, motion by moments. It shares no code with
the program but the typical cells of a chemistry, which are data. Sources: Kirchhoff's laws, statics.
"""

import json
import math

import numpy as np
from scipy.optimize import newton

from second_cables import Cables
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project.file import to_text
from wired_union.project.model import Project

G = 9.80665
ALLOWANCE = {"measured": 0.0, "datasheet": 0.05, "estimate": 0.10, "guess": 0.20}
NEXT = {"sleep": ("sleep_a", "idle_a", "active_a"), "idle": ("idle_a", "active_a"), "active": ("active_a", "peak_a"),
        "peak": ("peak_a", "startup_a"), "off": ()}  # fmt: skip
RUNNING = ("active", "peak")


def passed(load):
    """Torque at the load for one at the shaft: the ratio, less what that gear loses."""
    return load.get("ratio", 1.0) * (load.get("gear_efficiency") or 1.0)


class Reference:
    def __init__(self, project: Project) -> None:
        self.project = json.loads(to_text(project))
        at_work = self.project.get("at_work", "")
        self.c = next((c for c in self.project["concepts"] if c["id"] == at_work), self.project["concepts"][0])
        self.items = {i["id"]: i for i in self.c["items"]}
        self.cables = Cables(self.c)
        self.feeds = {f["load"]: f for f in self.cables.laid()}
        self.fed_by = {s: [f["load"] for f in self.c["feeds"] if f["source"] == s] for s in self.items}
        self.ways = {}
        self.reserve = self.project["brief"].get("energy_reserve", 0.15)
        self.root = next(i for i in self.items if "pack" in self.part(i) and i not in self.feeds)
        self.mass = self._mass()
        self.usual = self._usual()

    # figures of parts

    def part(self, name):
        return self.items[name]["part"]

    def count(self, name):
        return self.items[name].get("count", 1)

    def children(self, name):
        return self.fed_by.get(name, [])

    def _mass(self):
        total = sum(
            i["part"].get("mass_kg", 0.0) * i.get("count", 1) * (1 + ALLOWANCE[i.get("knowledge", "datasheet")])
            for i in self.items.values()
        )
        return (total + self.cables.mass()) * (1 + self.project["brief"].get("mass_margin", 0.0))

    def money(self):
        paid = [i for i in self.items.values() if i.get("origin", "to buy") in {"to buy", "bought"}]
        return sum(i["part"].get("price", 0.0) * i.get("count", 1) for i in paid) + self.cables.money()

    # what moves, by moments

    def motor(self, name):
        m = self.part(name)["motor"]
        ohm = m["rated_voltage_v"] / m["stall_current_a"]
        kt = m["stall_torque_n_m"] / (m["stall_current_a"] - m["no_load_current_a"])
        ke = (m["rated_voltage_v"] - m["no_load_current_a"] * ohm) / m["no_load_speed_rad_s"]
        return ohm, kt, ke, m["no_load_current_a"]

    def slope_torque(self, load, degrees):
        radius = self.part(load["wheel"])["wheel"]["diameter_m"] / 2
        force = self.mass * G * (math.sin(math.radians(degrees)) + load.get("rolling_resistance", 0.1)
                                 * math.cos(math.radians(degrees)))  # fmt: skip
        return max(force, 0.0) * radius / self.count(load["actuator"]) / passed(load)

    def arm_torque(self, load):
        angles = np.radians(np.linspace(load.get("from_deg", -30), load.get("to_deg", 60), 20001))
        weight = G * (load["payload_kg"] * load["reach_m"] + load.get("link_mass_kg", 0.0) * load["reach_m"] / 2)
        inertia = (load["payload_kg"] + load.get("link_mass_kg", 0.0) / 3) * load["reach_m"] ** 2
        held = 0.0 if load.get("axis") == "upright" else np.abs(weight * np.cos(angles)).max()
        share = passed(load) * (load.get("motors") or self.count(load["actuator"]))
        return (held + inertia * load.get("acceleration_rad_s2", 0.0)) / share

    def _usual(self):
        found = {}
        for load in self.c.get("loads", []):
            name = load.get("actuator", "")
            if load["kind"] == "wheels":
                torque = self.slope_torque(load, load.get("usual_slope_deg", 0.0))
            elif load["kind"] == "arm":
                torque = self.arm_torque(load)
            else:
                continue
            _, kt, _, idle = self.motor(name)
            found[name] = min(idle + torque / kt, self.part(name)["motor"]["stall_current_a"])
        return found

    def wheel_speed(self, load):
        radius = self.part(load["wheel"])["wheel"]["diameter_m"] / 2
        ohm, kt, ke, idle = self.motor(load["actuator"])
        torque = self.slope_torque(load, load.get("slope_deg", 10.0))
        modes = [m for m in self.c["modes"] if self.use(m, load["actuator"])[0] in RUNNING
                 and load.get("mode", "") in {"", m["id"]}]  # fmt: skip
        volts = min(self.solve(m, self.reserve, worst=True)[0][load["actuator"]] for m in modes)
        return max((volts - (idle + torque / kt) * ohm) / ke, 0.0) / load.get("ratio", 1.0) * radius

    # what each part draws

    def use(self, mode, name):
        use = next((u for u in mode.get("uses", []) if u["item"] == name), None)
        if use is None:
            return mode.get("otherwise", "idle"), 1.0, "idle"
        return use["state"], use.get("duty", 1.0), use.get("rest", "idle")

    def of_state(self, name, state):
        load = self.part(name)["load"]
        if state == "active" and name in self.usual:
            return self.usual[name]
        return next((load[k] for k in NEXT[state] if load.get(k) is not None), 0.0)

    def average(self, mode, name):
        state, duty, rest = self.use(mode, name)
        return duty * self.of_state(name, state) + (1 - duty) * self.of_state(name, rest)

    def startup(self, name):
        part = self.part(name)
        given = part["load"].get("startup_a") or part.get("motor", {}).get("stall_current_a")
        if given is None and "thrust" in part:
            given = part["load"].get("peak_a")
        return given

    def hardest(self, mode, name):
        state, duty, rest = self.use(mode, name)
        states = {state, rest} if duty < 1 else {state}
        found = [self.of_state(name, s) for s in states]
        if "active" in states and self.startup(name) is None:
            found.append(self.part(name)["load"].get("peak_a") or 0.0)
        return max(found)

    def starts(self, mode, name):
        state, duty, rest = self.use(mode, name)
        runs = state in RUNNING or (duty < 1 and rest in RUNNING)
        if self.startup(name) is None or not runs:
            return False
        phases = [p["mode"] for p in self.c["mission"].get("phases", [])]
        if duty < 1 or not phases:
            return True
        modes = {m["id"]: m for m in self.c["modes"]}
        before = [phases[n - 1] if n else None for n, p in enumerate(phases) if p == mode["id"]]
        return any(b is None or self.use(modes[b], name)[0] not in RUNNING for b in before)

    def source_v(self, name):
        while name in self.feeds:
            name = self.feeds[name]["source"]
            if "regulator" in self.part(name):
                return self.part(name)["regulator"]["output_v"]
        return self.open_v(1.0)

    def draws(self, mode, worst):
        """Current of each load at its rated voltage, all copies."""
        loads = [n for n in self.items if "load" in self.part(n)]
        if not worst:
            return {n: self.average(mode, n) * self.count(n) for n in loads}
        level = {n: self.hardest(mode, n) * self.count(n) for n in loads}
        risen = {}
        for n in loads:
            if self.starts(mode, n):
                rated = self.part(n)["load"].get("rated_v")
                raised = max(1.0, self.source_v(n) / rated) if rated else 1.0
                risen[n] = max(self.startup(n) * raised * self.count(n), level[n])
        if mode.get("staggered") and risen:
            first = max(risen, key=lambda n: (risen[n] - level[n]) / self.count(n))
            risen = {first: level[first] + (risen[first] - level[first]) / self.count(first)}
        return {**level, **risen}

    # the circuit, by sweeps

    def cells(self):
        pack = self.part(self.root)["pack"]
        return pack, pack.get("parallel", 1) * self.count(self.root), CHEMISTRIES[pack["chemistry"]]

    def open_v(self, charge):
        pack, _, cell = self.cells()
        return pack["series"] * float(np.interp(charge, cell.charge, cell.open_circuit_v))

    def ohm(self):
        pack, strings, _ = self.cells()
        return pack["series"] * pack["cell_resistance_ohm"] / strings

    def way_ohm(self, name):
        feed, source = self.feeds[name], self.part(self.feeds[name]["source"])
        wire = 0.0
        if feed.get("wire_awg") is not None and feed.get("wire_length_m"):
            diameter = 0.127e-3 * 92 ** ((36 - feed["wire_awg"]) / 39)
            warm = 1 + 0.00393 * (
                max(self.project["brief"].get("hottest_c", 25.0), 20.0) - 20.0
            )  # IEC 60028, from memory
            wire = 2 * feed["wire_length_m"] * 1.7241e-8 * warm / (math.pi * diameter**2 / 4) / self.count(name)
        driver = source.get("driver") if "regulator" not in source else None
        if driver is None:
            return wire
        ways = min(self.count(name), driver["channels"] * self.count(feed["source"]))
        return wire + driver.get("on_resistance_ohm", 0.0) / ways

    def own(self, name, volts, drawn):
        """What a part takes at its input for itself, at a voltage."""
        part, amperes = self.part(name), 0.0
        if "load" in part:
            load, current = part["load"], drawn[name]
            law, rated = load.get("draw", "current"), load.get("rated_v")
            amperes += current if law == "current" or not rated else (
                current * rated / volts if law == "power" else current * volts / rated)  # fmt: skip
        takes = part.get("regulator") or part.get("driver")
        return amperes + (takes.get("quiescent_a", 0.0) * self.count(name) if takes else 0.0)

    def taken(self, name, volts, drawn):
        """Current into a part, and voltages below it."""
        regulator = self.part(name).get("regulator")
        made = regulator["output_v"] if regulator else volts
        given, below = 0.0, {name: volts}
        for child in self.children(name):
            amperes, deeper = self.through(child, made, drawn)
            given += amperes
            below |= deeper
        if regulator and regulator["topology"] != "linear":
            given = self.watts_in(regulator, given, given / self.count(name), volts) / volts
        return given + self.own(name, volts, drawn), below

    def watts_in(self, regulator, given, each, volts):
        """Input power: output power over efficiency, and straight between two input voltages that have a curve each."""
        curves = [(regulator.get("curve_input_v"), regulator.get("efficiency_curve") or [[0, 1.0]])]
        if regulator.get("second_efficiency_curve"):
            curves.append((regulator["second_curve_input_v"], regulator["second_efficiency_curve"]))
        watts = [(v, given * regulator["output_v"] / np.interp(each, *zip(*curve, strict=True))) for v, curve in curves]
        return np.interp(volts, *zip(*sorted(watts), strict=True)) if len(watts) > 1 else watts[0][1]

    def through(self, name, volts, drawn):
        """Current through the way to a part from a voltage; the voltage behind it by substitution until it rests."""
        if name not in self.ways:
            self.ways[name] = self.way_ohm(name)
        way, here = self.ways[name], volts
        for _ in range(200):
            amperes, below = self.taken(name, here, drawn)
            new = volts - way * amperes
            if abs(new - here) < 1e-9:
                break
            here = new
        return amperes, below

    def solve(self, mode, charge, *, worst):
        """Voltages and the pack's current."""
        drawn, open_v, ohm = self.draws(mode, worst), self.open_v(charge), self.ohm()
        volts = float(newton(lambda v: v - (open_v - ohm * self.taken(self.root, v, drawn)[0]), open_v, tol=1e-11))
        amperes, below = self.taken(self.root, volts, drawn)
        return below, amperes

    def peak(self):
        worst = [self.solve(m, self.reserve, worst=True) for m in self.c["modes"]]
        return max(a for _, a in worst), min(v[self.root] for v, _ in worst)

    # the mission, by small steps

    def rates(self):
        """For each mode, charge lost in an hour over charge, and the charge at which it ends."""
        pack, strings, cell = self.cells()
        capacity = pack["cell_capacity_ah"] * strings
        cutoff = pack["series"] * (pack.get("cutoff_cell_v") or cell.cutoff_v)
        grid = np.array(
            sorted({*cell.charge, *np.linspace(0.0, 1.0, 21)}, reverse=True)
        )  # with every corner of the cell
        found = {}
        for mode in self.c["modes"]:
            solved = [self.solve(mode, q, worst=False) for q in grid]
            plain = np.array([a for _, a in solved]) / capacity
            stretch = np.maximum(plain * cell.rated_time_h, 1.0) ** (cell.peukert_exponent - 1.0)
            volts = np.array([v[self.root] for v, _ in solved])
            empty = float(np.interp(cutoff, volts[::-1], grid[::-1])) if volts[-1] < cutoff else 0.0
            found[mode["id"]] = (plain * stretch, max(empty, self.reserve))
        return grid[::-1], {m: (r[::-1], end) for m, (r, end) in found.items()}

    def runtime(self):
        """With what the cells lose by themselves from the second day on, at the mean rate."""
        plain, end = self.plain_runtime()
        lost = (self.cells()[0].get("self_discharge_a_month") or 0.0) / 730.0 / 3600
        if plain <= 86400 or lost <= 0:
            return plain
        rate = (1 - end) / plain
        return 86400 + (1 - end - rate * 86400) / (rate + lost)

    def plain_runtime(self):
        grid, rates = self.rates()
        phases = self.c["mission"]["phases"]
        cycle_h = sum(p["duration_s"] for p in phases) / 3600
        mean = sum(rates[p["mode"]][0] * p["duration_s"] / 3600 for p in phases) / cycle_h
        end = max(rates[p["mode"]][1] for p in phases)
        charge = np.linspace(end, 1.0, 20001)
        whole = float(np.trapezoid(1 / np.interp(charge, grid, mean), charge))
        if whole / cycle_h > 300:
            return whole * 3600, end
        q, t = 1.0, 0.0
        while True:
            for phase in phases:
                rate, stop = rates[phase["mode"]]
                steps = 40
                h = phase["duration_s"] / 3600 / steps
                for _ in range(steps):
                    middle = q - h / 2 * np.interp(q, grid, rate)
                    lost = h * np.interp(middle, grid, rate)
                    if q - lost <= stop:
                        return (t + h * max(q - stop, 0.0) / lost) * 3600, stop
                    q, t = q - lost, t + h
