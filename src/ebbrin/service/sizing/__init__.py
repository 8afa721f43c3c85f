"""Here Ebbrin proposes: the requirement, the search over parts, and what stands in the way."""
