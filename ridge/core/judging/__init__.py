"""Statistics of a fit, and what they say about it."""
