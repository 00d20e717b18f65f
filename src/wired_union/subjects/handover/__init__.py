"""Handover: what is missing before it is handed over, the reports, and everything in one archive."""
