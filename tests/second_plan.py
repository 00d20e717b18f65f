"""A plan worked out a second time: from the file, hour by hour of each day, with nothing of the program's own code."""

import json
from datetime import date, timedelta
from pathlib import Path

DAYS = 700


class SecondPlan:
    """Reads a project as JSON and walks through its days."""

    def __init__(self, text: str, today: str) -> None:
        self.p, self.today = json.loads(text), date.fromisoformat(today)
        at = self.p.get("at_work") or self.p["concepts"][0]["id"]
        self.c = next(c for c in self.p["concepts"] if c["id"] == at)
        self.tasks = {t["id"]: t for t in self.c.get("plan_tasks", [])}
        self.items = {i["id"]: i for i in self.c["items"]}

    def open_on(self, day: int, closed) -> bool:
        on = (self.today + timedelta(days=day)).isoformat()
        return not any(c["first"] <= on <= (c.get("last") or c["first"]) for c in closed)

    def hours(self, task, day: int) -> float:
        """Hours that all who do a task give to it on a day."""
        plan = self.p["plan"]
        calendar = plan.get("calendar", {})
        worked = calendar.get("worked", ["Mon", "Tue", "Wed", "Thu", "Fri"])
        on = (self.today + timedelta(days=day)).strftime("%a")
        team = on in worked and self.open_on(day, calendar.get("closed", []))
        each = []
        for hand in task.get("hands", []):
            person = next(p for p in plan["people"] if p["id"] == hand["person"])
            there = team and self.open_on(day, person.get("away", []))
            each.append(person["hours_a_week"] / len(worked) if there else 0.0)
        if task.get("machine"):
            machine = next(m for m in plan["machines"] if m["id"] == task["machine"])
            there = (team or machine.get("weekends")) and self.open_on(day, machine.get("closed", []))
            if not each:
                return machine["hours_a_day"] if there else 0.0
            if not there:
                return 0.0
        return sum(each) if each and min(each) > 0 else 0.0

    def takes(self, task) -> float:
        if task.get("kind") != "wait":
            return task["likely_h"]
        if task.get("likely_days") is not None:
            return task["likely_days"]
        item = self.items[task["item"]]
        there = item.get("origin", "to buy") != "to buy" and not task.get("begun_on")
        return 0.0 if there else item["part"]["delivery_days"]

    def walk(self, late: dict[str, float] | None = None) -> dict[str, float]:
        """When each task is done, some of them so many days later than they would be."""
        done: dict[str, float] = {}
        free: dict[str, list[float]] = {}
        for machine in self.p["plan"].get("machines", []):
            free[machine["id"]] = [0.0] * machine.get("count", 1)
        for task in self.in_order():
            done[task["id"]] = self.one(task, done, free) + (late or {}).get(task["id"], 0.0)
            for what in self.busy(task):
                free.setdefault(what, [0.0])
                free[what].remove(min(free[what]))
                free[what].append(done[task["id"]])
        return done

    @staticmethod
    def busy(task) -> list[str]:
        return [*(h["person"] for h in task.get("hands", [])), *([task["machine"]] if task.get("machine") else [])]

    def in_order(self):
        """Begun ones first, then as in the list; each after what it waits for."""
        left = sorted(self.tasks.values(), key=lambda t: not t.get("begun_on"))
        known: set[str] = set()
        while left:
            now = next(t for t in left if all(a["task"] in known for a in t.get("after", [])))
            left.remove(now)
            known.add(now["id"])
            yield now

    def one(self, task, done, free) -> float:
        if task.get("kind") == "wait":
            if task.get("begun_on"):
                begun = (date.fromisoformat(task["begun_on"]) - self.today).days
                return max(begun + self.takes(task), 1.0)
            return max([0.0, *(done[a["task"]] + a.get("lag_days", 0.0) for a in task.get("after", []))]) + self.takes(
                task
            )
        at = max([0.0, *(done[a["task"]] + a.get("lag_days", 0.0) for a in task.get("after", [])),
                  *(min(free.get(w, [0.0])) for w in self.busy(task))])  # fmt: skip
        left, day = self.takes(task), int(at)
        while day < DAYS:
            rate = self.hours(task, day)
            can = rate * (day + 1 - max(at, day))
            if rate and can >= left - 1e-9:
                return max(at, day) + left / rate
            left, day = left - can, day + 1
        raise AssertionError(f"{task['id']} is never done")

    def lateness(self, done: dict[str, float]) -> float:
        """By how much the worst of what is due is late; below 0, in hand."""
        worst = [-1e9]
        for of, at in done.items():
            task = self.tasks[of]
            due = [(date.fromisoformat(self.p["plan"]["date"]) - self.today).days]
            due += [(date.fromisoformat(task["due"]) - self.today).days + 1] if task.get("due") else []
            due += [(date.fromisoformat(m["on"]) - self.today).days for m in self.c.get("milestones", [])
                    if any(a["task"] == of for a in m.get("after", []))]  # fmt: skip
            worst.append(at - min(due))
        return max(worst)

    def slack(self) -> float:
        """The fewest days by which some task may be late before anything that is due is: sought by halving."""
        found = []
        for of in self.tasks:
            low, high = -400.0, 400.0
            for _ in range(45):
                middle = (low + high) / 2
                if self.lateness(self.walk({of: middle})) > 1e-9:
                    high = middle
                else:
                    low = middle
            found.append(low)
        return min(found)


def second(path: Path, today: str) -> SecondPlan:
    return SecondPlan(path.read_text(encoding="utf-8"), today)
