"""Wired Union: shows student teams what an edit does to every limit of their robot before they make it."""

__version__ = "0.1.0"
