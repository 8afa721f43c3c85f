"""From the build to the core and back: the one place in Python where units are converted."""
