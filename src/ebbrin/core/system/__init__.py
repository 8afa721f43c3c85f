"""The assembled system: parts and cases, steady state, limits, timed runs, choices."""
