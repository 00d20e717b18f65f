"""Notebook: what happened and why, faults, versions, and two members' files put together."""
