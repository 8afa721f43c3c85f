"""Long work, taken from the queue by workers: any number of them, on any machine that reaches the database."""
