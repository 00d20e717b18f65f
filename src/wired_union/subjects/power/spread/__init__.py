"""What is not known well: thousands of missions at once, the chance to last, and which unknown matters most."""
