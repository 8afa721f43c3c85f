"""The build as people write it: its parts and cases, what may stand in them, and what is taken where nothing does."""
