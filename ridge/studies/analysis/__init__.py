"""What is computed from a study: fits, answers and lenses, and what is said of them."""
