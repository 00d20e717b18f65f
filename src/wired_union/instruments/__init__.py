"""Instruments behind one door: it is opened, gives figures, and says in words why it gives none.

Real ones are a serial line, a SCPI instrument and a CAN bus; a subject's simulated ones keep the same promise. The
libraries that speak to them are imported when the first is opened.
"""
