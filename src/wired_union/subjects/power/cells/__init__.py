"""Packs from cells: how they are arranged, what another arrangement would do, and what a measured discharge says."""
