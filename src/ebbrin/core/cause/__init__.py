"""Why it runs hot: causes that are there or not, what each does to what one sees, and what to look at next."""
