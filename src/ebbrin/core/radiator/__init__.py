"""The core: its geometry, both of its sides, and the heat that it exchanges."""
