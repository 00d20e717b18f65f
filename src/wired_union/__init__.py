"""Wired Union: shows student teams what an edit does to every limit of their robot before they make it."""

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # the arrays are small: threads would only cost time at the start

__version__ = "0.2.0"
