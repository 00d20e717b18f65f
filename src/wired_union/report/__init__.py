"""Documents made from a project and its assessment."""
