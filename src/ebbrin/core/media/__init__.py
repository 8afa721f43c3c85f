"""Properties of air and coolants, and boiling."""
