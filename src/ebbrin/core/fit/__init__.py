"""Fitting, filling and proving in numbers: the order of a job, what a warm-up should look like, what a pressure hold says."""
