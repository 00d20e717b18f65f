"""Sixty kills at random moments: nothing older than a tenth of a second is lost, and no file is torn.

Each round starts the real window offscreen, makes an edit every few milliseconds and saves now and then, and is killed
with SIGKILL. What the next start would find is then compared with what had been done a tenth of a second before.
"""

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from wired_union.catalogue.demo import demo
from wired_union.project.change import find_item
from wired_union.project.file import backup_of, load, save
from wired_union.project.journal import find_unsaved

GRACE_S = 0.1
WORKER = """
import sys, time
from pathlib import Path
from PyQt6.QtCore import QTimer
from wired_union.app.run import make_app, make_window
from wired_union.project.edits import set_count
from wired_union.ui.places import Places
app = make_app(["x"])
window = make_window(Places.within(Path(sys.argv[1])))
window.open_path(Path(sys.argv[2]))
window.show()
count = [1]
def edit():
    count[0] += 1
    window.store.attempt(set_count, "battery", count[0])
    if count[0] % 17 == 0:
        window.files.save(window.files.path)
    print(count[0], time.time(), flush=True)
timer = QTimer()
timer.timeout.connect(edit)
timer.start(7)
app.exec()
"""


def one_kill(rng: random.Random, folder: Path) -> tuple[bool, str]:
    """Whether all was kept, and what was found."""
    path = folder / "a.union.json"
    save(demo(), path)
    log = folder / "log"
    with log.open("w") as out:
        process = subprocess.Popen([sys.executable, "-c", WORKER, str(folder), str(path)], stdout=out,
                                   env={**os.environ, "QT_QPA_PLATFORM": "offscreen"})  # fmt: skip
        while log.stat().st_size == 0:
            time.sleep(0.01)
        time.sleep(rng.uniform(0.0, 0.8))
        killed = time.time()
        os.kill(process.pid, signal.SIGKILL)
        process.wait()
    done = [
        (int(a), float(b)) for a, b in (line.split() for line in log.read_text().splitlines() if line.count(" ") == 1)
    ]
    wanted = max((n for n, at in done if at < killed - GRACE_S), default=1)
    found = [load(path)]
    if backup_of(path).exists():
        found.append(load(backup_of(path)))
    found += [u.project for u in find_unsaved(folder / "recovery")]
    kept = max(find_item(p, "battery").count for p in found)
    return kept >= wanted, f"{done[-1][0]} edits, {wanted} of them older than {GRACE_S} s, {kept} kept"


def main() -> None:
    rng, lost = random.Random(60), 0
    for n in range(int(sys.argv[1]) if len(sys.argv) > 1 else 60):
        with tempfile.TemporaryDirectory() as name:
            fine, said = one_kill(rng, Path(name))
        lost += not fine
        print(f"{n + 1:3} {'kept' if fine else 'LOST'}: {said}", flush=True)
    sys.exit(1 if lost else 0)


if __name__ == "__main__":
    main()
