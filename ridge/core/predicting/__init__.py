"""y at an x, and x at a y, each with its limits."""
