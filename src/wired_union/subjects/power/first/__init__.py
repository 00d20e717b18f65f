"""The first half second: what starts in a mode, and how far pack and rails dip while it does."""
