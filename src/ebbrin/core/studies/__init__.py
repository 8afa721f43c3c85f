"""Questions asked of a whole system: assessment, levers, chances, sampling, curves, the common controls."""
