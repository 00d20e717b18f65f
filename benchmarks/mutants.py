"""Faults put into the program one at a time, each in a copy: which of them do the tests let live?

Prints a table and keeps it in docs/mutants.md. A fault that lives is a line that nothing guards. With --living only those
are tried again that lived the last time.
"""

import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

# ruff: noqa: E501 - a fault a line

ROOT = Path(__file__).parent.parent
SECONDS = 300


@dataclass(frozen=True)
class Fault:
    """What is wrong, the text that is changed in a file of the program, and the tests that should notice."""

    what: str
    file: str
    old: str
    new: str
    tests: str = "tests/subjects"


POWER, MOTION, TIMED = "subjects/power", "subjects/motion", "subjects/timing"

MERGES, KEPT = "tests/laws/test_merge.py tests/test_merge_commands.py", "tests/project/test_kept.py"
NOTES, HANDED = "tests/subjects/test_notebook.py", "tests/report"

FAULTS = (
    Fault("a duty-cycled starter never starts", f"{POWER}/currents.py", "(use is not None and use.duty < 1)", "(use is not None and use.duty < 0)"),
    Fault("idle is taken as sleep", f"{POWER}/tree.py", '"idle": ("idle_a", "active_a")', '"idle": ("sleep_a", "idle_a", "active_a")'),
    Fault("starters do not add up with their count", f"{POWER}/currents.py", "np.fmax(count[:, rows] * np.minimum(", "np.fmax(np.minimum("),
    Fault("all starters count where they start one after another", f"{POWER}/currents.py", "if mode.staggered:", "if False:"),
    Fault("a driver loses I instead of I²", f"{POWER}/flow.py", "loss[net.parent[n]] += current[n] ** 2 * net.channel_ohm[n]", "loss[net.parent[n]] += current[n] * net.channel_ohm[n]"),
    Fault("a lead loses nothing", f"{POWER}/flow.py", "loss[n] += current[n] ** 2 * (net.ohm[n] - net.channel_ohm[n])", "loss[n] += 0 * current[n]"),
    Fault("a pack warms with I", f"{POWER}/flow.py", "loss[n] = current[n] ** 2 * ohm", "loss[n] = current[n] * ohm"),
    Fault("a driver's rest current is forgotten", f"{POWER}/flow.py", "current[n] = current[n] + quiescent", "pass"),
    Fault("the first variant's efficiency is everybody's", f"{POWER}/net.py", "_efficiency(i, a), a.shape) for i, a in", "_efficiency(items[0], a), a.shape) for i, a in", "tests/laws/test_together_as_alone.py"),
    Fault("the first variant's pack is everybody's", f"{POWER}/instants.py", "for f in known), strict=True)", "for f in known[:1] * len(known)), strict=True)", "tests/laws/test_together_as_alone.py"),
    Fault("too much voltage is let pass", f"{POWER}/scene.py", "highest > most_v", "highest > 2 * most_v"),
    Fault("too little voltage is let pass", f"{POWER}/scene.py", "lowest < least_v", "lowest < 0.5 * least_v"),
    Fault("drop-out is forgotten", "project/part_model.py", "self.output_v + (self.dropout_v or 0.0)", "self.output_v"),
    Fault("regulators side by side share a load", f"{POWER}/checks/converters.py", "most = regulator.max_current_a", "most = regulator.max_current_a * item.count"),
    Fault("a linear regulator never runs hot", f"{POWER}/checks/converters.py", "if not regulator.passes_power:", "if False:"),
    Fault("channels are not shared", f"{POWER}/checks/converters.py", "shared = -(-wanted // channels)", "shared = 1"),
    Fault("the lowest voltage is that of the first pack", f"{POWER}/assess.py", "min((v for p in roots for v in", "min((v for p in roots[:1] for v in"),
    Fault("a missing current is no gap", f"{POWER}/missing.py", "if not currents.unknown:", "if True:"),
    Fault("the weakest logic level wins", f"{POWER}/checks/levels.py", "first is not None and all(clashes)", "first is not None and any(clashes)"),
    Fault("a remedy that helps nothing counts", "kernel/ripple.py", "return Outcome(better or eased or further, words)", "return Outcome(True, words)"),
    Fault("a hidden finding counts as mended", "kernel/ripple.py", "(Verdict.UNKNOWN if hidden else Verdict.HOLDS)", "Verdict.HOLDS"),
    Fault("a finding that holds is written among the hard ones", f"{POWER}/scene.py", "verdict is Verdict.BREAKS or not", "verdict is Verdict.TIGHT or not", "tests/laws/test_together_as_alone.py"),
    Fault("the line under a converter lies over it", f"{POWER}/bounds/minorant.py", "return lowest - 1e-12, slope", "return 0.0, slope", "tests/choose/test_minorant.py"),
    Fault("buckling has a reserve of 2", f"{MOTION}/kinds/screw.py", "BUCKLING_RESERVE = 3.0", "BUCKLING_RESERVE = 2.0"),
    Fault("whirling has no reserve", f"{MOTION}/kinds/screw.py", "WHIRL_SHARE = 0.8", "WHIRL_SHARE = 1.0"),
    Fault("a rotor counts with the ratio, not its square", f"{MOTION}/kinds/spin.py", "(motor.gear_ratio * load.ratio) ** 2", "(motor.gear_ratio * load.ratio)"),
    Fault("a bridge drops no volts", f"{POWER}/tree.py", "return self.wire_ohm + self.channel_ohm", "return self.wire_ohm"),
    Fault("one wire feeds every copy", f"{POWER}/tree.py", "wire_resistance_ohm(feed, hottest_c) / load.count", "wire_resistance_ohm(feed, hottest_c)"),
    Fault("a motor above its rating starts as rated", f"{POWER}/currents.py", "max(1.0, _source_v(i.id, items, source_of) / _rating_v(i))", "1.0"),
    Fault("what is at work never comes to its peak", f"{POWER}/currents.py", "np.fmax(active, peak)[comes]", "active[comes]"),
    Fault("a pack is never charged", f"{POWER}/packs.py", "series * self.chemistry.charge_end_v", "0.0"),
    Fault("a boost drops out", "project/part_model.py", "if self.only_steps_down else lowest", ""),
    Fault("a missing peak is fine", f"{POWER}/missing.py", "elif startup is None and load.peak_a is None:", "elif False:", "tests/laws"),
    Fault("a missing mass moves nothing", f"{MOTION}/assess.py", "if not unweighed or", "if True or", "tests/laws tests/subjects"),
    Fault("volts that are not known are", f"{MOTION}/assess.py", "(*result.missing, *gaps)) if gaps else result", "(*result.missing, *gaps)) if False else result", "tests/laws tests/subjects"),
    Fault("the last load of a motor counts alone", f"{MOTION}/usual.py", "usual, most = usual + taken.usual_n_m, most + taken.most_n_m", "pass"),
    Fault("an arm is judged one way", f"{MOTION}/kinds/arm.py", "abs(level.torque_n_m * math.cos(math.radians(angle)))", "level.torque_n_m * math.cos(math.radians(angle))"),
    Fault("all weight grips", f"{MOTION}/kinds/wheels.py", "max(slope.friction_needed, 0.0) / share", "max(slope.friction_needed, 0.0)"),
    Fault("what hangs on nothing is no gap of a pack", f"{POWER}/checks/__init__.py", "if gap is None else finding.while_unknown(gap.said)", "", "tests/laws tests/subjects"),
    Fault("a motor that lacks a figure draws what its datasheet says", f"{MOTION}/usual.py", "found[item.id] = math.nan", "pass", "tests/laws tests/subjects"),
    Fault("a part without a level matches any", f"{POWER}/checks/levels.py", "elif not scene.hard_only and brains and _is_silent(item.part):", "elif False:"),
    Fault("cells give in the frost what they give in a room", f"{POWER}/missing.py", "pack.measured_at_c is None or pack.measured_at_c > coldest_c", "False"),
    Fault("a shot of air loses nothing", f"{MOTION}/kinds/stored.py", "if load.valve_share is None:\n        found", "if False:\n        found"),
    Fault("an allowance weighs nothing where it tips", "subjects/mass/balance.py", "mass * (1 + ALLOWANCES[item.knowledge])\n    places", "mass\n    places"),
    Fault("what has no place is at the origin", "subjects/mass/balance.py", "if room is None:\n        return None", "if room is None:\n        return [*rows, (left * mass, left * most, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)]"),
    Fault("the nearest end of a room is taken for both", "subjects/mass/balance.py", "np.where(ways > 0, high, low)", "np.where(ways > 0, low, high)"),
    Fault("a wheel may pull itself to the edge", "physics/crossing.py", "good = (np.minimum(first, second) >= -1e-12) &", "good =", "tests/physics"),
    Fault("the rear axle follows without leaning", f"{MOTION}/kinds/wheel_step.py", "front, rear, x, z, steps, driven)", "front, rear, x, None, steps, driven)"),
    Fault("where nobody says which axle drives, the better one does", "subjects/mass/stance.py", 'return tuple(name for name, count in (("rear", rear), ("front", front)) if count)', 'return ("front",)'),
    Fault("a step is as if all carry alike once something lacks", "subjects/mass/stance.py", "lacks = () if axles is not None else balance.missing or (NOT_TWO_AXLES,)", "lacks = ()"),
    Fault("a pose that is not known is fine", "subjects/mass/balance.py", "(*self.missing, *(m for p in self.poses for m in p.balance.missing))", "self.missing"),
    Fault("a push does as little as to the heaviest machine", "subjects/mass/balance.py", "(balance.table.least_kg, near), (balance.table.most_kg, far)", "(balance.table.most_kg, far), (balance.table.most_kg, far)"),
    Fault("what has no place takes up no room", "subjects/mass/envelope.py", "self._between(every, axis))", "self._between(self.boxes, axis))"),
    Fault("a tube of any wall is hollow", "subjects/mass/beams.py", "(max(s - 2 * beam.wall_m, 0.0) if", "(s - 2 * beam.wall_m if"),
    Fault("a beam bears no weight of its own", "subjects/mass/beams.py", "one.moment_n_m + moment * even * b.length_m", "one.moment_n_m"),
    Fault("a beam of unknown load holds", "subjects/mass/beams.py", "return Verdict.UNKNOWN if r.missing else", "return"),
    Fault("a best place is in other parts", "subjects/mass/best_place.py", "and not any(_touch(box, b) for b in self._apart)", ""),
    Fault("a mode that goes leaves its name behind", f"{POWER}/edits.py", 'forgotten(left, "modes", mode_id)', "left", "tests/laws tests/subjects"),
    Fault("turning on the spot takes no grip", f"{MOTION}/kinds/wheels.py", "grip = 2 * turn.force_per_side_n / (scene.mass_kg * G) / share", "grip = 0.0"),
    Fault("skids carry nothing", "subjects/mass/stance.py", ".load_n)[list(mine)])", ".load_n))"),
    Fault("wheels lie on the floor by their middle", "subjects/mass/balance.py", "item.part.wheel.diameter_m / 2)", "0.0)"),
    Fault("a rolling piece takes nothing from the wheel", f"{MOTION}/kinds/spin.py", "after * (1 + grip * load.shot_mass_kg * r**2 / inertia_kg_m2)", "after"),
    Fault("a fuse never outlives its wire", f"{POWER}/checks/wires.py", "rating <= bears", "True"),
    Fault("a placed part need not fit its place", "subjects/candidates/own_place.py", "if item.requires == NOTHING:", "if True:"),
    Fault("Motion has no verdict on the rail", f"{MOTION}/subject.py", 'worst([*assessment.own_verdicts("motion"), *loads])', 'worst([*assessment.own_verdicts("motion")])'),
    Fault("a gap does not make Motion unknown", f"{MOTION}/results.py", "if self.missing and found is not Verdict.BREAKS", "if False"),
    Fault("allowances are forgotten", "subjects/mass/assess.py", "known * ALLOWANCES[item.knowledge]", "0 * known"),
    Fault("the system margin counts on known mass alone", "subjects/mass/assess.py", "(known + allowance + small + cables) * brief.mass_margin", "known * brief.mass_margin"),
    Fault("a part that is hollow hides nothing of a view from outside", "subjects/fit/sights.py", 'p.item.fills == "open inside" and not row.any()', 'p.item.fills == "open inside"'),
    Fault("what hides in a view still counts as found", "subjects/fit/findings_sight.py", "if r.hidden_share > HIDDEN:\n        lacks", "if False:\n        lacks"),
    Fault("the spacer above the last layer counts", "subjects/fit/stacks.py", "s.bottom_m + s.thick_m for s", "s.bottom_m + 2 * s.thick_m for s"),
    Fault("boxes turned in space are compared along one's axes alone", "physics/boxes.py", "np.concatenate((a, b, crossed /", "np.concatenate((a, a, crossed /", "tests/physics"),
    Fault("what only a pose makes touch is left out", "subjects/fit/boxes.py", "for pose in (p for p in self.concept.poses if p.shifts)", "for pose in ()"),
    Fault("a root of squares is counted as a plain sum", "subjects/mass/assess.py", "math.hypot(*each) if", "sum(each) if"),
    Fault("Best mix searches with a root of squares as if it were a sum", "subjects/mass/assess.py", 'if project.brief.margin_school != "root of squares":', "if True:"),
    Fault("copies on the scale count as one", "project/weigh_edits.py", "with_value(item.part, \"mass_kg\", mass_kg / copies)", "with_value(item.part, \"mass_kg\", mass_kg)"),
    Fault("the motors of further joints weigh nothing", "subjects/motion/kinds/joint.py", "ends + x.payload_kg", "x.payload_kg"),
    Fault("speeds of a chain push nothing", "physics/chain.py", "np.abs(weight) + moved + _thrown(joints, posed, loaded)", "np.abs(weight) + moved", "tests/physics"),
    Fault("a roller is judged at the usual voltage for throwing", "subjects/motion/kinds/intake.py", "scene.full_v or drive.nominal_v", "drive.nominal_v"),
    Fault("a further gear loses nothing", "project/motion_model.py", "self.ratio * (self.gear_efficiency or 1.0)", "self.ratio"),
    Fault("donated parts cost", "subjects/mass/money.py", 'by_origin["to buy"] + by_origin["bought"]', "sum(by_origin.values())"),
    Fault("a missing price is free", "subjects/mass/money.py", 'missing.append(f"{item.name}: its price")', "pass"),
    Fault("a gap does not make a limit unknown", "kernel/results.py", "if used is None or self.missing:", "if used is None:", "tests/subjects tests/choose"),
    Fault("tight begins at the limit", "kernel/results.py", "used > 1 - self.reserve + 1e-12", "used > 1 + 1e-12"),
    Fault("a must-have is met by 4 of 10", "subjects/concepts/weighing.py", "score.value < 5", "score.value < 4", "tests/subjects tests/choose"),
    Fault("a concept that breaks a limit stays in", "subjects/concepts/weighing.py", "if m.verdict is Verdict.BREAKS]", "if False]", "tests/subjects tests/choose"),
    Fault("a broken limit is not punished in the search", "choose/combination.py", "m.use is not None and m.use > 1 + 1e-12]", "m.use is not None and m.use > 2]", "tests/choose"),
    Fault("what can not be judged is taken to hold", "choose/combination.py", "m.verdict is Verdict.UNKNOWN and m.id in self.judged", "False", "tests/choose"),
    Fault("a new hard finding is let pass", "choose/combination.py", "if f.id not in self.hard_before)", "if False)", "tests/choose"),
    Fault("an unknown finding cuts others too", "choose/cuts.py", "key=self._width) if found else no_good(tried.places)\n\n    def _of_limits", "key=self._width) if found else no_good(tried.places[:1])\n\n    def _of_limits", "tests/choose tests/subjects/test_contract.py"),
    Fault("the required logic level is not asked", "choose/requirements.py", "_level_refusal(part, requires.logic_v)", "_level_refusal(part, None)", "tests/choose"),
    Fault("a converter's power goes on rising outside its two voltages", "subjects/power/bent.py", "/ (self.high_v - self.low_v), 0.0, 1.0)", "/ (self.high_v - self.low_v), -9.0, 9.0)"),
    Fault("a converter takes above its two voltages what it takes below", "subjects/power/bent.py", "np.where(side < 0, self.low_w, self.high_w)", "self.low_w", "tests/subjects tests/reference"),
    Fault("the search takes the worse of two curves", "physics/converter.py", "max(efficiency_at(one, a), efficiency_at(other, a))", "min(efficiency_at(one, a), efficiency_at(other, a))", "tests/choose"),
    Fault("half a wire is no wire", "subjects/power/missing.py", "(feed.wire_length_m is None) != (feed.wire_awg is None)", "False"),
    Fault("a bridge of which nothing is said loses nothing", "subjects/power/missing.py", "driver.on_resistance_ohm is None", "False"),
    Fault("a pump starts with its peak", "subjects/power/currents.py", " or part.kind in MOTOR_WITHIN", ""),
    Fault("unknown ground is a dry floor", "subjects/motion/kinds/wheels.py", "() if load.friction else", "() if True else"),
    Fault("half wound is half of the force", "subjects/motion/kinds/stored.py", "half * arm", "charge.force_n * arm / 2"),
    Fault("rubber is straight", "physics/stored_energy.py", "return stretch * (3 + 3 * stretch + stretch**2) / (1 + stretch) ** 2", "return stretch"),
    Fault("a step never touches the belly", "physics/crossing.py", "np.where((from_m <= top[0]) & (to_m >= top[0]), np.maximum(ends, top[1]), ends)", "0 * ends", "tests/physics/test_belly.py tests/subjects/test_belly.py"),
    Fault("a belly of unknown height clears every step", f"{MOTION}/kinds/wheel_belly.py", 'return Belly(lacks=("the height of its belly over the floor",))', "return Belly()"),
    Fault("a part in a room never touches a step", f"{MOTION}/kinds/wheel_belly.py", "if share > 1 and not u.sure", "if False"),
    Fault("only what is out of true shakes", f"{MOTION}/assess.py", "TIMES_A_TURN = (1, 2)", "TIMES_A_TURN = (1,)"),
    Fault("a full pack turns nothing faster", f"{MOTION}/kind.py", "drive.motor.speed_at(scene.full_v or drive.nominal_v, min(torques))", "drive.motor.speed_at(drive.sag_v, min(torques))"),
    Fault("what swings nobody knows how often is at rest", f"{MOTION}/findings.py", "for mount in result.unheard:", "for mount in ():"),
    Fault("upright sides stiffen nothing", "physics/floating.py", "middle * (metacentre_m + half * middle**2) < beside", "middle * metacentre_m < beside", "tests/physics/test_floating.py"),
    Fault("a hull that leans loses no freeboard", f"{MOTION}/kinds/float.py", "deep.draught_m + down_m + load.freeboard_m", "deep.draught_m + load.freeboard_m"),
    Fault("a printed hole comes out as drawn", "physics/fits.py", '"printed": Made(-0.2e-3', '"printed": Made(-0.0e-3'),
    Fault("a phase stands in the pose of another mode", "subjects/mass/along.py", "if any(m.mode == phase.mode for m in p.pose.modes)]", "if p.pose.modes]", "tests/window/test_along.py"),
    Fault("a lock below keeps nobody waiting", "physics/tasks.py", "_in_order(tasks, [t.holds_s for t in tasks], preempts=True, tick_s=0.0)", "_in_order(tasks, [0.0 for t in tasks], preempts=True, tick_s=0.0)", "tests/physics/test_tasks.py"),
    Fault("only the first instance of a task counts", "physics/tasks.py", "for q in range(max(instances, 1)):", "for q in range(1):", "tests/physics/test_tasks.py"),
    Fault("a message waits for none below it", "physics/tasks.py", "_in_order(tasks, [t.run_s for t in tasks], preempts=False, tick_s=tick_s)", "_in_order(tasks, [0.0 for t in tasks], preempts=False, tick_s=tick_s)", "tests/physics/test_tasks.py"),
    Fault("tasks alike never wait for each other", f"{TIMED}/tasks.py", "higher = [t for t in others if rank(t) <= rank(task)]", "higher = [t for t in others if rank(t) < rank(task)]"),
    Fault("a run that nobody knows takes nothing", f"{TIMED}/tasks.py", "for t in _it_waits_for(processor, task, tasks) if t.most_s is None)", "for t in ())"),
    Fault("a wait in a loop keeps nobody waiting", f"{TIMED}/tasks.py", "run = (task.most_s or 0.0) + (task.waits_s if waits else 0.0)", "run = task.most_s or 0.0"),
    Fault("a reader comes as soon as bytes do", f"{TIMED}/buses.py", "gap = reader.response_s + (0.0 if reader.task.interrupt else reader.task.period_s)", "gap = reader.response_s"),
    Fault("other messages of a bus take no time", f"{TIMED}/buses.py", "return [s.jitter_s + once for s in shared]", "return [s.jitter_s + s.run_s for s in shared]"),
    Fault("a task that is polled is never just missed", f"{TIMED}/stages.py", 'waits = result.task.period_s if stage.starts == "by its period" else 0.0', "waits = 0.0"),
    Fault("a loop's output is not held", f"{TIMED}/plants.py", "return seen + loop.dead_s + loop.sample_s / 2", "return seen + loop.dead_s"),
    Fault("a sampled loop's part of a period late is left out", "physics/sampled.py", "part = min(max(c.delay_s - late * c.period_s, 0.0), c.period_s)\n    before, first = held(space.a, space.b, part)  # the", "part = 0.0\n    before, first = held(space.a, space.b, part)  # the", "tests/physics"),
    Fault("lines that rise too slowly hold", f"{TIMED}/pull_ups.py", "return worst([self.low.verdict, self.rise.verdict])", "return worst([self.low.verdict])"),
    Fault("a loop that swings by itself has a margin", f"{TIMED}/loops.py", "if not self.settles:\n            return -180.0", "if False:\n            return -180.0"),
    Fault("the ground cancels nothing", "physics/radio.py", "return Loss(max(free, 40 * math.log10(distance_m) - 20 * math.log10(height_one_m * height_other_m)))", "return Loss(free)", "tests/physics/test_links.py"),
    Fault("a link of unknown height is known", f"{TIMED}/air.py", '("how high its antenna is", link.own_height_m is None)', '("how high its antenna is", False)'),
    Fault("a value is cut instead of rounded", "physics/packet.py", "return min(max(math.floor((held - self.least) / self.resolution + 0.5), 0), self.steps)", "return min(max(math.floor((held - self.least) / self.resolution), 0), self.steps)", "tests/physics/test_packet.py"),
    Fault("a packet of unknown size leaves its bus known", f"{TIMED}/buses.py", "    if not gaps:\n        return result\n    messages", "    if True:\n        return result\n    messages"),
    Fault("a picture waits for no turn", "physics/vision.py", "return Pictures(each, 1 / turn, youngest, turn + youngest)", "return Pictures(each, 1 / turn, youngest, youngest)", "tests/physics/test_vision.py"),
    Fault("a converter's input settles to a step instead of half of one", "physics/signals.py", "settles = source_ohm * hold_f * (bits + 1) * math.log(2)", "settles = source_ohm * hold_f * bits * math.log(2)", "tests/physics/test_signals.py"),
    Fault("a new value waits for no frame", "physics/signals.py", "return PulseTime(1 / frequency_hz + most_pulse_s", "return PulseTime(most_pulse_s", "tests/physics/test_signals.py"),
    Fault("an interrupt counts edges as close as they come", f"{TIMED}/signals.py", "gap = task.period_s if task.interrupt else", "gap = 0.0 if task.interrupt else"),
    Fault("what disturbs a converter is not asked", f"{TIMED}/signals.py", '("what disturbs it, 0 Hz for nothing", s.disturbed_hz is None)', '("what disturbs it, 0 Hz for nothing", False)'),
    Fault("an error on CAN costs no bits of its own", f"{TIMED}/buses.py", "whole.append(Shared(ERROR_BITS / bus.clock_hz + max(frames)", "whole.append(Shared(max(frames)"),
    Fault("messages by identity and by priority are compared", f"{TIMED}/buses.py", "None if math.isnan(wait) or mixed else wait", "None if math.isnan(wait) else wait"),
    Fault("a prediction takes its outputs the wrong way round", "physics/sampled.py", "return powers[-1], [p @ added for p in powers[:-1]]", "return powers[-1], [p @ added for p in powers[-2::-1]]", "tests/physics/test_sampled.py"),
    Fault("noise goes through without what the loop makes of it", "physics/sampled.py", "out = float(found.output @ spread @ found.output) + found.through**2", "out = found.through**2", "tests/physics/test_sampled.py"),
    Fault("a switching loop turns at its band", f"{TIMED}/loops.py", "left, band = math.exp(-(c.delay_s + c.period_s) / lag)", "left, band = math.exp(-c.delay_s * 0 / lag)"),
    Fault("a wrong model aims as well as a right one", f"{TIMED}/loops.py", "late = abs(self.delay_s - c.predicts_s) + abs(c.model_off) * c.predicts_s", "late = abs(self.delay_s - c.predicts_s)"),
    Fault("an inner loop has no delay", f"{TIMED}/plants.py", "whole = inside.transfer.times(law).times(pade(late))", "whole = inside.transfer.times(law)"),
    Fault("two motors with a P controller are in step", f"{TIMED}/loops.py", "return self.drifts_rad_s / (self.plant.numerator[0] * self.loop.control_gain)", "return 0.0"),
    Fault("what is in force is as young as when it was acted on", "physics/latency.py", "return ChainAge(whole, whole - before - last, whole - before)", "return ChainAge(whole, whole - before - last, whole - before - last)", "tests/physics/test_latency_spread.py"),
    Fault("a packet has to get through once", f"{TIMED}/air.py", "arrives **= link.hops", "arrives **= 1"),
    Fault("who passes a packet on keeps no channel", f"{TIMED}/air.py", 'return 1 + link.relays if link.passing == "all that hear it" else link.hops', 'return 1 if link.passing == "all that hear it" else link.hops'),
    Fault("an antenna is strong all round", f"{TIMED}/air.py", "losses = max(way_loss_db(link, distance_m) + mismatch + off_beam_db(link), 0.0)", "losses = max(way_loss_db(link, distance_m) + mismatch, 0.0)"),
    Fault("a radio on the air takes nothing", f"{POWER}/on_air.py", 'uses[item] = now.but(state="peak", duty=share', 'uses[item] = now.but(state="peak", duty=0.0'),
    Fault("a radio of unknown time leaves power known", f"{POWER}/missing.py", 'found += [Gap(f"{name}: how long it is on the air") for name in around.silent]', "found += []"),
    Fault("slips spread a way by one deviation", f"{TIMED}/ways.py", "return abs(self.across_m) + SIGMAS * self.spread_across_m", "return abs(self.across_m) + self.spread_across_m"),
    Fault("a beacon gives the heading back", f"{TIMED}/ways.py", 'if way.corrected_by == "a beacon" and at_m > since:', "if False:"),
    Fault("a field of a DBC begins at its lowest bit", f"{TIMED}/files_can.py", "start = at // 8 * 8 + 7 - at % 8", "start = at"),
    Fault("an alternative hides what breaks softly", "choose/alternatives.py", "broken = [f for f in result.after.breaks_besides if f.id not in known]", "broken = [f for f in result.after.hard_breaks if f.id not in known]", "tests/choose/test_choose.py"),
    Fault("many tasks at once are not held up", "physics/tasks.py", "    fixed = held_s[rows] + (own if preempts else 0.0)", "    fixed = 0 * held_s[rows] + (own if preempts else 0.0)", "tests/physics/test_tasks.py"),
    Fault('a pin serves two signals', 'subjects/wiring/pin_solver.py', '        if left in graph and right not in left_of and right in graph[left]:', '        if left in graph and right in graph[left]:', 'tests/subjects/test_pin_solver.py'),
    Fault('two frequencies share a timer', 'subjects/wiring/pin_solver.py', '            if option.timer is not None and need.frequency_hz is not None:', '            if False:', 'tests/subjects/test_pin_solver.py'),
    Fault('both lines of a port may be of two ports', 'subjects/wiring/pin_solver.py', '                facts += [("group", need.group, option.instance), ("instance", option.instance, need.group)]', '                facts += [("instance", option.instance, need.group)]', 'tests/subjects/test_pin_solver.py'),
    Fault('a side is skipped although its cut was to blame', 'subjects/wiring/pin_solver.py', 'if frame.sides[frame.next - 1] and not cut & blame:', 'if frame.sides[frame.next - 1]:', 'tests/subjects/test_pin_solver.py'),
    Fault('a smaller clash is not sought', 'subjects/wiring/pin_solver.py', '    for fewer in range(1, size):', '    for fewer in range(1, 1):', 'tests/subjects/test_pin_solver.py'),
    Fault('a boot pin is as good as any', 'subjects/wiring/pins.py', '(careful and tooth.starts and not kept)', 'False', 'tests/subjects/test_pins.py'),
    Fault('a kept signal wanders', 'subjects/wiring/pins.py', '(kept and {at} != kept)', 'False', 'tests/subjects/test_pins.py'),
    Fault('an address is taken twice on one bus', 'subjects/wiring/shares.py', 'taken = address is not None and address in self.addresses.values()', 'taken = False', 'tests/subjects/test_pins.py'),
    Fault('copies answer to one address', 'subjects/wiring/wishes.py', '    return others[copy - 1] if copy <= len(others) else first', '    return first', 'tests/subjects/test_pins.py'),
    Fault('a contact on a boot pin does no harm', 'subjects/wiring/findings.py', '        if pulls in {"nothing", wanted}:', '        if pulls in {"nothing", wanted, "low"}:', 'tests/subjects/test_pins.py'),
    Fault('levels are compared by the rail alone', 'subjects/wiring/levels.py', '    if m.high_v <= m.low_v:', '    if False:', 'tests/subjects/test_wiring.py'),
    Fault('a select may end at another controller', 'subjects/wiring/pins.py', 'careful, group, family_of.get(wish.device))', 'careful, group, None)', 'tests/subjects/test_pins_whole.py'),
    Fault('all that may be shared is, as soon as one has to', 'subjects/wiring/pins.py', '        if fewer.wired:', '        if False:', 'tests/subjects/test_pins_whole.py'),
    Fault('devices of other lines are never kept apart', 'subjects/wiring/shares.py', 'groups = [(0,) * len(known)] if one_has_all else', 'groups = [(0,) * len(known)] if True else', 'tests/subjects/test_pins_whole.py'),
    Fault('a clash of one way to share stands for all', 'subjects/wiring/pins.py', '    if explain and len(ways) > 1:', '    if False:', 'tests/subjects/test_pins_whole.py'),
    Fault('a divider leaves all of a signal', 'subjects/wiring/levels.py', 'return voltage_divider(1.0, line.upper_ohm, line.lower_ohm).output_v', 'return 1.0', 'tests/subjects/test_levels.py'),
    Fault('a TTL output never comes to its rail', 'subjects/wiring/levels.py', 'side.output_high_v if pulls_only else max(part_v, side.output_high_v)', 'side.output_high_v', 'tests/subjects/test_levels.py'),
    Fault('a one-way shifter passes both ways', 'project/ports.py', 'return falls == (shifter.passes == "to the low side")', 'return True', 'tests/subjects/test_levels.py'),
    Fault('what hurts a pin is not told', 'subjects/wiring/levels.py', '    if survives_v is None or gives_v <= survives_v * (1 + 1e-9):', '    if True:', 'tests/subjects/test_wiring.py'),
    Fault("a cable adds nothing to a line's capacitance", 'subjects/wiring/shared.py', '    return pins + sum((c.all_m or 0.0) * c.cable.capacitance_f_per_m for c in found.values())', '    return pins', 'tests/subjects/test_wiring.py'),
    Fault('pull-ups in parallel add like in series', 'subjects/wiring/shared.py', '        return 1 / sum(1 / r for r in ohms)', '        return sum(ohms)', 'tests/subjects/test_wiring.py'),
    Fault('a cable loses on the way there only', 'subjects/wiring/leads.py', '    drop = most * node.wire_ohm', '    drop = most * node.wire_ohm / 2', 'tests/subjects/test_wiring.py'),
    Fault('copper stays at 20 °C in hot air', 'subjects/power/tree.py', '.resistance_ohm_per_m * copper_warmth(copper_c(hottest_c))', '.resistance_ohm_per_m', 'tests/subjects/test_wiring.py'),
    Fault("a wire's own heat is forgotten", 'subjects/wiring/leads.py', 'drop_v=loss.drop_v * copper_warmth(own_c) / copper_warmth(air_c)', 'drop_v=loss.drop_v', 'tests/subjects/test_wiring.py'),
    Fault("Power's wires carry as much in hot air", 'subjects/power/checks/wires.py', 'max(hottest_c, 25.0)).ampacity_a', '25.0).ampacity_a', 'tests/subjects/test_wiring.py'),
    Fault("a wire's rise goes with its current", 'physics/wire.py', '(current_a / ampacity_a) ** 2', '(current_a / ampacity_a)', 'tests/physics/test_levels.py'),
    Fault('a bundle is as cool as one wire', 'subjects/wiring/leads.py', '    free = wire_ampacity(laid.cable.awg, max(loaded, 1)).ampacity_a', '    free = wire_ampacity(laid.cable.awg, 1).ampacity_a', 'tests/subjects/test_wiring.py'),
    Fault('a plug bears anything', 'subjects/wiring/leads.py', '    elif cable.contact_a is not None:\n        checks +=', '    elif False:\n        checks +=', 'tests/subjects/test_wiring.py'),
    Fault('a pose does not stretch a cable', 'project/cables.py', '    for pose in ("", *(p.id for p in concept.poses)):', '    for pose in ("",):', 'tests/subjects/test_wiring.py'),
    Fault('a cable weighs its copper alone', 'physics/wire.py', '    each = copper.area_m2 * COPPER_KG_M3 + sleeve * PVC_KG_M3', '    each = copper.area_m2 * COPPER_KG_M3', 'tests/physics/test_levels.py'),
    Fault('unpriced cables cost nothing', 'subjects/wiring/laid.py', 'if c.cable.price is None and not c.is_plugged)', 'if False)', 'tests/subjects/test_wiring.py'),
    Fault('a cable of no known length holds', 'subjects/wiring/assess.py', 'for c in self.cables if c.laid.length_m is None]', 'for c in self.cables if False]', 'tests/subjects/test_wiring.py'),
    Fault('what was agreed may move unseen', 'subjects/wiring/agreed.py', 'for what, (then, today) in now.items() if then != today)', 'for what, (then, today) in now.items() if False)', 'tests/subjects/test_wiring.py'),
    Fault('warm air takes nothing', 'physics/wire.py', 'math.sqrt(max(insulation_c - air_c, 0.0) / (insulation_c - 25.0))', '1.0', 'tests/physics/test_levels.py'),
    Fault('hysteresis does not widen where a cue may be so', 'subjects/interlocks/machine.py', '        edge = (at if is_not else at - cue.hysteresis, is_not)\n        low', '        edge = (at, is_not)\n        low', 'tests/subjects/test_states.py'),
    Fault('two ways of one event are not told', 'subjects/interlocks/machine.py', '            if first <= second or second <= first:', '            if False:', 'tests/subjects/test_states.py'),
    Fault('a ring that waits for an event counts', 'subjects/interlocks/machine.py', 'able = tuple(c for c in clauses if machine.is_instant(c))', 'able = tuple(clauses)', 'tests/subjects/test_states.py'),
    Fault('a dead end is no fault', 'subjects/interlocks/machine.py', 'and not machine.ways[s.id] and not (s.may_end or s.is_stop):', 'and False:', 'tests/subjects/test_states.py'),
    Fault("an urgent cue need not be heard", "subjects/interlocks/machine.py", "            if s.is_stop or s.id not in reached or s.id in heard:", "            if True:", "tests/subjects/test_states.py"),
    Fault('a stop takes no time of its time-outs', 'subjects/interlocks/stops.py', '        total += soonest.after_s or 0.0', '        total += 0.0', 'tests/subjects/test_states.py'),
    Fault('gates beside each other count as in series', 'subjects/interlocks/gates.py', '        found.setdefault(first(gate), []).append(gate)', '        found.setdefault(gate.id, []).append(gate)', 'tests/subjects/test_gates.py'),
    Fault('software gates fail one by one', 'subjects/interlocks/gates.py', '            alone = g.id if g.kind != "software" and not g.item else ""', '            alone = g.id', 'tests/subjects/test_gates.py'),
    Fault('a gate that nothing closes never fails', 'subjects/interlocks/gates.py', '        if g.id not in covered:', '        if False:', 'tests/subjects/test_gates.py'),
    Fault('states in which it is meant are searched too', 'subjects/interlocks/gates.py', '    states = [s for s in machine.reached if s not in meant] if machine.states else [""]', '    states = list(machine.reached) if machine.states else [""]', 'tests/subjects/test_gates.py'),
    Fault('a cut set that holds a smaller one is told', 'subjects/interlocks/gates.py', '    least = [cut for cut in found if not any(other < cut for other in found)]', '    least = list(found)', 'tests/subjects/test_gates.py'),
    Fault('a lost radio is still heard', 'subjects/interlocks/failing.py', '    elif failure.kind in SILENT and failure.item:', '    elif False:', 'tests/subjects/test_failing.py'),
    Fault('a program that hangs still lets times run out', 'subjects/interlocks/failing.py', 'soonest = machine.soonest.get(state) if failure.kind != HUNG else None', 'soonest = machine.soonest.get(state)', 'tests/subjects/test_failing.py'),
    Fault('an unknown time hides that a way leads to no stop', 'subjects/interlocks/stops.py', '        total += time or 0.0', '        if time is None:\n            return None, tuple(path), lacks\n        total += time', 'tests/subjects/test_failing.py'),
    Fault('what is mechanical opens when power is lost', 'subjects/interlocks/gates.py', 'for g in every if g.kind == "mechanical")', 'for g in every if False)', 'tests/subjects/test_gates.py'),
    Fault('a program that hangs lets go of its gates', 'subjects/interlocks/gates.py', 'for g in every if g.kind == "software" and f.hangs(g))', 'for g in every if False)', 'tests/subjects/test_gates.py'),
    Fault('the time to notice a failure is forgotten', 'subjects/interlocks/failing.py', 'halts, chains, machine.cues[failure.told_by].dwell_s)', 'halts, chains, 0.0)', 'tests/subjects/test_failing.py'),
    Fault('what is met counts as shown', 'subjects/trials/shown.py', 'if self.bound is not None and meets(self.bound, self.wish):', 'if self.value is not None and meets(self.value, self.wish):', 'tests/subjects/test_trials.py'),
    Fault('runs of every version count together', 'subjects/trials/shown.py', 'found.setdefault(run.version, []).append(run)', 'found.setdefault("", []).append(run)', 'tests/subjects/test_trials.py'),
    Fault('a rate shows kilograms', 'subjects/trials/assess.py', 'return limit.value if rates and limit.value <= 1 else None', 'return limit.value', 'tests/subjects/test_trials.py'),
    Fault('a struck run counts', 'subjects/trials/shown.py', '        if not run.struck and _says(trial, run):', '        if _says(trial, run):', 'tests/subjects/test_trials.py'),
    Fault('a limit is judged by its rate alone', 'kernel/results.py', 'if self.told is not None and self.limit is not None and not self.missing:', 'if False:', 'tests/subjects/test_trials.py'),
    Fault('a trial without a run hides what was measured', 'subjects/trials/assess.py', 'limit.own and r.rows and r.wish is not None:', 'limit.own and r.wish is not None:', 'tests/subjects/test_trials.py'),
    Fault('conditions make drift', 'subjects/trials/shown.py', 'if (x.condition, x.setting) == (last.condition, last.setting))', 'if True)', 'tests/subjects/test_trials.py'),
    Fault('stopping early is not told', 'subjects/trials/findings.py', 'len(row.runs) >= planned or', 'True or', 'tests/subjects/test_trials.py'),
    Fault('a valley has a best setting', 'subjects/trials/picture_boxes.py', '    if not c < 0:', '    if False:', 'tests/subjects/test_trials.py'),
    Fault("a streak forgets its first break", 'physics/runs_of_trials.py', 'none[n - 1] - none[n - length - 1] * (1 - rate) * streak', 'none[n - 1] - none[n - length - 1] * streak', 'tests/physics/test_runs_of_trials.py'),
    Fault("Fisher counts likelier tables too", 'physics/runs_of_trials.py', 'math.fsum(c for c in chances if c <= mine * (1 + 1e-7))', 'math.fsum(chances)', 'tests/physics/test_runs_of_trials.py'),
    Fault('a pole between points is looked over', 'subjects/bench/calibrations.py', ' and not low <= pole <= high', '', 'tests/subjects/test_calibration.py'),
    Fault('a curve that turns back has one quantity', 'subjects/bench/calibrations.py', 'is_monotonic(self.form, self.fit.coefficients, *self.ends)', 'True', 'tests/subjects/test_calibration.py'),
    Fault('the error forgets the slope', 'subjects/bench/calibrations.py', 'return self.band(known) / slope if slope > 0', 'return self.band(known) if slope > 0', 'tests/subjects/test_calibration.py'),
    Fault('the band forgets the doubt of the curve', 'physics/calibration.py', 'return reach * math.sqrt(1 + max(spread, 0.0)) if', 'return reach if', 'tests/physics/test_calibration.py'),
    Fault('a step comes before what feeds it', 'subjects/bench/order.py', '    yield from sources.get(item.id, ())', '    yield from ()', 'tests/subjects/test_bench.py'),
    Fault('a measured current makes a mass known', 'subjects/bench/edits.py', '    words = f"{item.name}: {plain_words(figure)} {show_named(figure, reading.value)} as measured"', '    from wired_union.project.part_edits import set_knowledge\n    after = set_knowledge(after, item.id, "measured").after\n    words = f"{item.name}: {plain_words(figure)} {show_named(figure, reading.value)} as measured"', 'tests/subjects/test_bench.py'),
    Fault('a contribution that is not known counts as nothing', 'subjects/bench/budgets.py', '        return tuple(p.lacks for p in self.parts if p.lacks)', '        return ()', 'tests/subjects/test_budgets.py'),
    Fault('averaging helps what is always the same', 'subjects/bench/budgets.py', 'return doubt.averaged if doubt.of == "repeat" else 1', 'return doubt.averaged', 'tests/subjects/test_budgets.py'),
    Fault('what moves together adds as squares', 'subjects/bench/budgets.py', 'found.setdefault(part.doubt.together.strip().lower() or n, []).append(n)', 'found.setdefault(n, []).append(n)', 'tests/subjects/test_budgets.py'),
    Fault('few readings do not widen a result', 'physics/uncertainty.py', '    if free > MANY:', '    if True:', 'tests/physics/test_calibration.py'),
    Fault('an id of two lists gives one measure', 'project/references.py', '            if taken.setdefault(value.id, room) != room:', '            if False:', 'tests/subjects/test_budgets.py'),
    Fault('the search drops what is worth more', 'subjects/trials/course_search.py', '        gain = np.where(wider > 0, most * np.minimum(STEEPEST * wider, 1.0), 0.0)', '        gain = -5.0 * np.ones_like(wider)', 'tests/subjects/test_course.py'),
    Fault('the bound of the search is too low', 'subjects/trials/course_search.py', '        bound = points + self._most(open_, usual, square)', '        bound = points + 0.8 * self._most(open_, usual, square)', 'tests/subjects/test_course.py'),
    Fault('what is left out of the course still counts', 'subjects/trials/course.py', 'tuple(k for k, t in enumerate(trip.tasks) if not t.left_out)', 'tuple(k for k, t in enumerate(trip.tasks))', 'tests/subjects/test_course.py'),
    Fault('a change between trips takes no time', 'subjects/trials/course.py', '        return self.change_s, self.change_variance_s2', '        return 0.0, 0.0', 'tests/subjects/test_course.py'),
    Fault('a course holds where it is usual', 'subjects/trials/course.py', '    if sure >= wanted - 1e-12:', '    if usual >= wanted - 1e-12:', 'tests/subjects/test_course.py'),
    Fault('a task without a place is at the start', 'subjects/trials/course.py', '    if places and task.place not in places:', '    if False:', 'tests/subjects/test_course.py'),
    Fault('a link is as good as all its packets', 'subjects/trials/shown.py', 'return tuple(min(groups.values(), key=_arrived, default=()))', 'return self.runs', 'tests/subjects/test_looks.py'),
    Fault('more packets arrive than were sent', 'subjects/trials/shown.py', 'run.received is not None and run.received <= run.sent', 'run.received is not None', 'tests/subjects/test_looks.py'),
    Fault('a pulled plug is waited for', 'instruments/serial_line.py', '            self._gone = True', '            self._gone = False', 'tests/window/test_trials.py'),
    Fault('wrong answers go on for ever', 'instruments/log.py', '            if wrong >= WRONG_IN_A_ROW:', '            if False:', 'tests/instruments/test_instruments.py'),
    Fault('out of range is a reading', 'instruments/scpi.py', '        if abs(value) >= BEYOND:', '        if False:', 'tests/instruments/test_instruments.py'),
    Fault('what does not reach the wall clears it', 'subjects/trials/throws.py', 'np.nan_to_num(self.spread.at_wall_m, nan=-1.0)', 'np.nan_to_num(self.spread.at_wall_m, nan=1e9)', 'tests/subjects/test_throws.py'),
    Fault('air does not slow a throw', 'subjects/trials/throws.py', '        return drag_per_m(t.mass_kg, t.diameter_m, t.drag_coefficient)', '        return 0.0', 'tests/subjects/test_throws.py'),
    Fault('steps that no noise hides average out', 'subjects/bench/chains.py', '        hidden = noise >= self.converter.step_v / 2', '        hidden = True', 'tests/subjects/test_maps.py'),
    Fault('a hum adds nothing', 'subjects/bench/chains.py', '* self.noise + self.hum', '* self.noise', 'tests/subjects/test_maps.py'),
    Fault('points far off count though left out', 'subjects/bench/calibrations.py', 'if calibration.far_off == "left out" else 0', 'if False else 0', 'tests/subjects/test_calibration.py'),
    Fault('a table forgets its last place', 'physics/calibration.py', '    n = min(max(bisect_right(places, x) - 1, 0), count - 2)', '    n = min(max(bisect_right(places, x) - 1, 0), count - 3)', 'tests/physics/test_calibration.py'),
    Fault('dwell is not waited for', 'subjects/interlocks/run.py', 'for_s[i] >= machine.cues[i].dwell_s - TOLERANCE_S}', 'True}', 'tests/subjects/test_states.py'),
    Fault('the C program forgets hysteresis', 'subjects/interlocks/code.py', '(m->so[{i}] ? {back} : 0.0)', '(0 ? {back} : 0.0)', 'tests/subjects/test_states.py'),
    Fault('a person is in two places', 'physics/levelling.py', '            free[thing][:many] = finish[n]\n', '            pass\n', 'tests/physics/test_levelling.py'),
    Fault('a lag between tasks is forgotten', 'physics/levelling.py', 'np.maximum(ready, finish[before] + lag, out=ready)', 'np.maximum(ready, finish[before], out=ready)', 'tests/physics/test_levelling.py'),
    Fault('work goes on over days off', 'physics/levelling.py', '    day = np.where(rate > 0, np.arange(len(rate), dtype=float), NEVER)', '    day = np.arange(len(rate), dtype=float)', 'tests/physics/test_levelling.py'),
    Fault('the latest begin forgets the effort', 'physics/levelling.py', '        target = before - effort\n', '        target = before\n', 'tests/physics/test_levelling.py'),
    Fault('the bound of a plan is what was found', 'physics/level_search.py', '    return max([worst, *(_busy(asked, thing) for thing in range(len(asked.counts)))])', '    return worst + 100.0', 'tests/physics/test_levelling.py'),
    Fault('a worse order is taken', 'physics/level_search.py', '        if score <= best[0]:', '        if score >= best[0]:', 'tests/physics/test_levelling.py'),
    Fault('durations are even between their ends', 'physics/plan_draws.py', '    density = _GRID**rise * (1 - _GRID) ** (4 - rise)', '    density = np.ones_like(_GRID)', 'tests/physics/test_levelling.py'),
    Fault('all draws come in one order', 'physics/plan_draws.py', 'np.random.default_rng(zlib.crc32(key.encode()))', 'np.random.default_rng(1)', 'tests/physics/test_levelling.py'),
    Fault('hands do not learn', 'physics/prices.py', '    power = math.log2(rate)', '    power = 0.0', 'tests/physics/test_levelling.py'),
    Fault('what lacks a figure holds', 'subjects/plan/schedule.py', '        return self.gaps + tuple(f"{r.task.name}: {x}" for r in self.rows for x in r.lacks)', '        return self.gaps', 'tests/subjects/test_plan.py'),
    Fault('milestones do not press', 'subjects/plan/schedule.py', 'for m in milestones if any(x.task == task.id for x in m.after)', 'for m in milestones if False', 'tests/subjects/test_plan.py'),
    Fault('what is late arrives today', 'subjects/plan/effort.py', '    return max(likely, least), least, []', '    return likely, least, []', 'tests/subjects/test_plan.py'),
    Fault('an overdue delivery is on its way', 'subjects/plan/effort.py', '    if longest < -begun:', '    if False:', 'tests/subjects/test_plan.py'),
    Fault('days away are worked', 'subjects/plan/calendars.py', '    return _shut(worked_days(calendar, today), person.away, today) * (person.hours_a_week / days)', '    return worked_days(calendar, today) * (person.hours_a_week / days)', 'tests/subjects/test_plan.py'),
    Fault('week-ends are worked', 'subjects/plan/calendars.py', '1.0 if d in calendar.worked else 0.0', '1.0', 'tests/subjects/test_plan.py'),
    Fault('a part in hand is waited for', 'subjects/plan/filled.py', '    if part.origin != "to buy" and not task.begun_on:', '    if False:', 'tests/subjects/test_plan.py'),
    Fault('an order may go out a day late', 'subjects/plan/orders.py', 'row.latest - (row.finish - row.start), row.latest - most', 'row.latest - (row.finish - row.start) + 1, row.latest - most', 'tests/subjects/test_plan.py'),
    Fault('tasks may wait for each other', 'subjects/plan/edits.py', '    if task is other or task_id in _all_before(tasks, before):', '    if task is other:', 'tests/subjects/test_plan.py'),
    Fault('another way costs nothing more', 'subjects/plan/edits.py', '    if not more:\n        return project', '    return project', 'tests/subjects/test_plan.py'),
    Fault('a feature leaves its parts', 'subjects/plan/acting.py', '        now = parts.remove_item(now, p.item).after', '        pass', 'tests/subjects/test_plan.py'),
    Fault('an event ends a day early', 'subjects/plan/out.py', 'event.add("DTEND", last + timedelta(days=1))', 'event.add("DTEND", last)', 'tests/subjects/test_plan.py'),
    Fault("a sheet's bad rows are taken", 'subjects/plan/read_tasks.py', '        return tuple(r for r in self.rows if r.task is not None and not r.wrong)', '        return tuple(r for r in self.rows if r.task is not None)', 'tests/subjects/test_plan.py'),
    Fault('a line and its part count twice', 'subjects/mass/money.py', '        here = min(have.get(item.part.name, 0), item.count)\n        if here:\n            have[item.part.name] -= here\n        left', '        here = 0\n        if here:\n            have[item.part.name] -= here\n        left', 'tests/subjects/test_money.py'),
    Fault('gifts cost money', 'subjects/mass/money.py', '        return Cost(line, 0.0, amount)', '        return Cost(line, amount, amount)', 'tests/subjects/test_money.py'),
    Fault('what came back is not taken off', 'subjects/mass/money.py', 'max(amount - (back or 0.0) * rate, 0.0)', 'amount', 'tests/subjects/test_money.py'),
    Fault("an unknown currency counts as the project's", 'subjects/mass/money.py', 'else rates.get(line.currency)', 'else rates.get(line.currency, 1.0)', 'tests/subjects/test_money.py'),
    Fault('a tool lasts for ever', 'subjects/ledger/making.py', 'np.ceil(pieces / way.tool_lasts) if way.tool_lasts is not None else np.ones_like(pieces)', 'np.ones_like(pieces)', 'tests/subjects/test_money.py'),
    Fault('price breaks are not reached', 'subjects/ledger/making.py', '        price = np.where(pieces >= b.least, b.price, price)', '        pass', 'tests/subjects/test_money.py'),
    Fault('it pays from one more', 'subjects/ledger/making.py', '                return first + int(found[0])', '                return first + int(found[0]) + 1', 'tests/subjects/test_money.py'),
    # Keep
    Fault("a merge takes ours where both changed", "project/merge.py", 'return theirs if self.choice(found.id) == "theirs" else ours', "return ours", MERGES),
    Fault("what theirs alone changed is lost", "project/merge.py", "            self.counts[1] += _weight(base, theirs)\n            return theirs", "            self.counts[1] += _weight(base, theirs)\n            return ours", MERGES),
    Fault("a figure gets the knowledge of another", "project/merge.py", "if group is not None and _torn(group, base, ours, theirs):", "if False:", MERGES),
    Fault("a swapped part is mixed with figures of the old one", "project/merge.py", 'return len({getattr(v, "id", "") for v in there}) == 1', "return True", MERGES),
    Fault("a run is put together from two that both changed", "project/merge.py", "return (self.conflict if changed else self.either)(where, base, ours, theirs)", "return self.either(where, base, ours, theirs)", MERGES),
    Fault("two new things under one id become one", "project/merge.py", "ours, theirs = told_apart(base, ours, theirs)", "pass", MERGES),
    Fault("what is renamed is not renamed where it is named", "project/merge_apart.py", "    named = renamed(concept, room, old, new)", "    named = concept", MERGES),
    Fault("what names a thing that is gone dangles", "project/merge_join.py", "        left = dangling(found)", "        left = []", MERGES),
    Fault("feeds in a ring are let pass by a merge", "project/merge_join.py", "            check_feeds(concept.feeds, ())", "            pass", MERGES),
    Fault("ours comes before an earlier day of theirs", "project/keyed.py", 'interleave(*runs, key=lambda k: days.get(k, ""))', "[*runs[0], *runs[1]]", MERGES),
    Fault("a half-merged file is written", "cli/merging.py", "    if not found.open:\n", "    if True:\n", MERGES),
    Fault("an open conflict exits as if all were well", "cli/merging.py", "raise typer.Exit(1 if found.open else 0)", "raise typer.Exit(0)", MERGES),
    Fault("git's temporary file keeps a copy before", "cli/merging.py", "        if not files:\n", "        if False:\n", MERGES),
    Fault("a version in common is not looked for", "project/common.py", "if version.digest in there:", "if False:", MERGES),
    Fault("what is kept is not looked into", "project/kept.py", 'if _holds(found := folder / f"{digest}.{form}", digest):', 'if (found := folder / f"{digest}.{form}").is_file():', KEPT),
    Fault("a name that is no digest leads out of the folder", "project/kept.py", 'return len(text) == 64 and all(c in "0123456789abcdef" for c in text)', "return True", KEPT),
    Fault("a bomb is unpacked", "project/kept.py", "    if len(whole) > MOST_UNPACKED:", "    if False:", KEPT),
    Fault("a version goes with the way back", "project/history.py", "needed = {s.digest for s in found} | {v.digest for v in steps[-1][1].versions}", "needed = {s.digest for s in found}", KEPT),
    Fault("a way back of another value is taken", "project/history.py", 'if not steps or steps[-1].digest != digest_of(to_text(project).encode("utf-8")):', "if not steps:", KEPT),
    Fault("every edit is a plain edit in the notebook", "kernel/diary.py", "kind=change.kind or kind_of(one, other, changed),", 'kind="edit",', NOTES),
    Fault("looking at another concept is written down", "kernel/diary.py", '_SILENT = ("notebook", "at_work",', '_SILENT = ("notebook",', NOTES),
    Fault("two members' entries share an id", "project/notebook_edits.py", "{number}|{when}|{by}|{text}", "{number}|{when}|{text}", NOTES),
    Fault("a correction forgets what was said", "subjects/notebook/edits.py", "former=(*old.former, former))", "former=old.former)", "tests/window/test_notebook.py"),
    Fault("a version brings the old notebook back", "subjects/notebook/knots.py", 'KEPT_NOW = ("notebook", "versions",', 'KEPT_NOW = ("versions",', NOTES),
    Fault("a part comes back without its feed", "subjects/notebook/knots.py", '(without(there, "items", item.id), there)', "(there, there)", NOTES),
    Fault("a subsystem keeps what came later", "subjects/notebook/knots.py", "if i.subsystem == subsystem and i.id not in had]", "if False]", NOTES),
    Fault("a version that was given up is a parent", "subjects/notebook/knots.py", "if v.concept == concept.letter and not v.dropped]", "if v.concept == concept.letter]", NOTES),
    Fault("a fault is closed without a cure", "subjects/notebook/edits.py", "    if not old.cure:\n", "    if False:\n", NOTES),
    Fault("an open fault is not told", "subjects/notebook/findings.py", "        if fault.closed_on:\n            continue", "        if True:\n            continue", NOTES),
    Fault("questions are searched word by word", "subjects/notebook/search.py", "return [w for w in words if w not in QUIET] or words", "return words", NOTES),
    Fault("the matrix says that all was shown", "report/content.py", '"shown": shown.get(measure_id, ""),', '"shown": measure.shown,', HANDED),
    Fault("figures of the report all have one number", "report/content.py", "                figure += 1\n", "                figure = 1\n", HANDED),
    Fault("a judge gets as many pages as it takes", "report/write.py", 'if level == len(SIZES) - 1 or len(_set(data, "png", COUNTING_DPI)) <= JUDGED_PAGES:', "if True:", HANDED),
    Fault("verify looks at names alone", "report/everything.py", 'elif _digest_in(archive, name) != said["sha256"]:', "elif False:", HANDED),
    Fault("verify does not see what was added", "report/everything.py", "sorted(there - set(files) - {MANIFEST})", "sorted(set())", HANDED),
    Fault("what is not in the archive is not told", "report/everything.py", '                lacks.append(f"{paper.about}: {error}")', "                pass", HANDED),
    Fault("the builder mounts after waking", "subjects/bench/builds.py", "MOUNTED, WOKEN = 10.0, 50.0", "MOUNTED, WOKEN = 60.0, 50.0", HANDED),
    Fault("screws are tightened by diameter alone", "physics/tightening.py", "0.577 * flank_m * friction", "0.577 * flank_m", "tests/reference"),
    Fault("twist does not count for a screw", "physics/tightening.py", "math.sqrt(1 + 3 * twist**2)", "1.0", "tests/reference"),
    Fault("a caution is read by nobody", "subjects/handover/edits.py", "    if not by:\n", "    if False:\n", "tests/window/test_handover.py"),
    Fault("a stopped report is written", "subjects/handover/view.py", "        self.worker.stop()\n        self._telling.stopped = True\n", "", "tests/window/test_handover.py"),
    Fault("a file changed on disk is not seen", "app/file_desk.py", "            self.changed_outside.emit()", "            pass", "tests/window/test_notebook.py"),
    Fault("pictures stay behind when a project is saved elsewhere", "app/beside_writer.py", "        missing = kept.bring(project, folder)", "        missing = ()", "tests/window/test_notebook.py"),
    Fault("a name runs as a formula in the cut list", "subjects/wiring/exports.py", "[harmless(cell) for cell in row] for row in rows", "rows", HANDED),
)  # fmt: skip


def copy_of_program(folder: Path) -> None:
    for name in ("src", "tests", "docs", "script", "benchmarks"):
        shutil.copytree(ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__", "screenshots"))
    for name in ("pyproject.toml", "README.md"):
        shutil.copy(ROOT / name, folder / name)


def lives(fault: Fault, folder: Path) -> bool:
    """Whether the tests pass with the fault in the copy. Raises ValueError where the text is not there once."""
    path = folder / "src" / "wired_union" / fault.file
    text = path.read_text(encoding="utf-8")
    if text.count(fault.old) != 1:
        raise ValueError(f"{fault.file} has the text {text.count(fault.old)} times: {fault.old}")
    path.write_text(text.replace(fault.old, fault.new), encoding="utf-8")
    env = {**os.environ, "PYTHONPATH": str(folder / "src"), "QT_QPA_PLATFORM": "offscreen"}
    command = [sys.executable, "-m", "pytest", "-x", "-m", "not slow", *fault.tests.split()]
    try:
        return subprocess.run(command, cwd=folder, env=env, capture_output=True, timeout=SECONDS).returncode == 0
    except subprocess.TimeoutExpired:
        return False
    finally:
        path.write_text(text, encoding="utf-8")


def main() -> None:
    rows, living = [], 0
    page = ROOT / "docs" / "mutants.md"
    last = page.read_text(encoding="utf-8") if "--living" in sys.argv[1:] and page.exists() else ""
    with tempfile.TemporaryDirectory() as name:
        copy_of_program(Path(name))
        for fault in FAULTS:
            known = f"| {fault.what} | `{fault.file}` | caught |" in last
            alive = not known and lives(fault, Path(name))
            living += alive
            rows.append(f"| {fault.what} | `{fault.file}` | {'**lives**' if alive else 'caught'} |")
            print(rows[-1], flush=True)
    head = (
        "# Faults that the tests must catch\n\n"
        f"Made by `script/mutants`: each fault is put into a copy of the program, alone, and the tests of its room are run.\n"
        f"**{len(FAULTS) - living} of {len(FAULTS)} are caught.**\n\n| fault | file | |\n|---|---|---|\n"
    )
    page.write_text(head + "\n".join(rows) + "\n", encoding="utf-8")
    sys.exit(1 if living else 0)


if __name__ == "__main__":
    main()
