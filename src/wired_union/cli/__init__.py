"""The command line: everything the window computes, for scripts."""
