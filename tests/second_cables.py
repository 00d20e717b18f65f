"""Cables a second time, from the project's JSON: how long each is, what it carries, what it weighs and costs.

It shares no code with the program. Sources: ASTM B258 for gauges; copper 8890 kg/m³, PVC 1350 kg/m³, common practice.
"""

import math

LINES = {"I2C": 2, "SPI": 4, "UART": 2}


class Cables:
    """All cables of a concept as it is written."""

    def __init__(self, concept: dict) -> None:
        self.c = concept
        self.items = {i["id"]: i for i in concept["items"]}
        self.cables = concept.get("cables", [])
        self.beside: dict[str, set[str]] = {}
        for cable in self.cables:
            if cable.get("length_m") == 0:
                group = {cable["start"], *self.ends(cable)}
                for one in list(group):
                    group |= self.beside.get(one, set())
                for one in group:
                    self.beside[one] = group

    def ends(self, cable) -> list[str]:
        return [r["item"] for r in cable.get("reaches", [])]

    def near(self, cable) -> set[str]:
        return self.beside.get(cable["start"], set()) | {cable["start"]}

    def feeds_in(self, cable) -> list[dict]:
        near, far = self.near(cable), set(self.ends(cable))
        if cable.get("length_m") == 0:
            own = {cable["start"], *far}
            return [f for f in self.c["feeds"] if f["source"] in own and f["load"] in own]
        return [f for f in self.c["feeds"]
                if (f["source"] in near and f["load"] in far) or (f["load"] in near and f["source"] in far)]  # fmt: skip

    def length(self, cable) -> float:
        if cable.get("length_m") is not None:
            return cable["length_m"]
        ways = [0.0]
        for pose in [{}, *self.c.get("poses", [])]:
            moved = {s["item"]: (s["dx_m"], s["dy_m"], s["dz_m"]) for s in pose.get("shifts", [])}
            spots = {i: [self.at(p, moved.get(i)) for p in self.items[i]["places"]]
                     for i in (cable["start"], *self.ends(cable))}  # fmt: skip
            for far in self.ends(cable):
                for b in spots[far]:
                    ways.append(min(sum(abs(x - y) for x, y in zip(a, b, strict=True)) for a in spots[cable["start"]]))
        return max(ways) * (1 + cable["slack"])

    @staticmethod
    def at(place, shift) -> tuple[float, ...]:
        dx, dy, dz = shift or (0.0, 0.0, 0.0)
        return place["x_m"] + dx, place["y_m"] + dy, place["z_m"] + dz

    def count(self, cable) -> int:
        if cable.get("count") is not None:
            return cable["count"]
        ends = self.ends(cable)
        return max(self.items[i].get("count", 1) for i in (cable["start"], *ends)) if len(ends) == 1 else 1

    def signals(self, cable) -> int:
        """Lines of the parts it reaches, where a controller sits at its start."""
        if not any("board" in self.items[i]["part"] for i in self.near(cable)):
            return 0
        ends, found = self.ends(cable), 0
        for i in (cable["start"], *ends):
            part = self.items[i]["part"]
            if "board" in part:
                continue
            lines = len(part.get("port", {}).get("lines", [])) or part.get("link", {}).get("pins", 0)
            found += lines * (self.items[i].get("count", 1) if len(ends) > 1 else 1)
        return found + sum(x.get("item") in ends for x in self.c.get("own_lines", []))

    def wires(self, cable) -> int:
        if cable.get("wires") is not None:
            return cable["wires"]
        feeds, signals = self.feeds_in(cable), self.signals(cable)
        several = len(self.ends(cable)) > 1
        power = sum(2 * (self.items[f["load"]].get("count", 1) if several else 1) for f in feeds)
        return power + signals + (1 if signals and not feeds else 0)

    def mass(self) -> float:
        """With ten per cent of growth where nobody weighed it."""
        total = 0.0
        for cable in self.cables:
            if cable.get("mass_kg") is not None:
                total += cable["mass_kg"] * self.count(cable)
            elif (metres := self.length(cable)) > 0:
                wide = 0.127e-3 * 92 ** ((36 - cable["awg"]) / 39)
                inner, outer = 1.25 * wide, 1.25 * wide + 0.65e-3
                each = math.pi / 4 * (wide**2 * 8890 + (outer**2 - inner**2) * 1350)
                total += 1.1 * 1.25 * each * metres * self.wires(cable) * self.count(cable)
        return total

    def money(self) -> float:
        return sum(c.get("price", 0.0) * self.count(c) for c in self.cables)

    def laid(self) -> list[dict]:
        """Feeds with the wire of their cable."""
        found = []
        for feed in self.c["feeds"]:
            cable = next((c for c in self.cables if feed in self.feeds_in(c)), None)
            wire = {"wire_length_m": self.length(cable), "wire_awg": cable.get("awg")} if cable is not None else {}
            found.append({**feed, **wire})
        return found
