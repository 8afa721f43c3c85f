"""The system over time: the steady state's own components, with what they store."""
