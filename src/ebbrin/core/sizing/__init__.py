"""From what the cases ask to what would do: the requirement, and the search over parts."""
