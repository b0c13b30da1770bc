"""What is judged and predicted, recomputed from its definition with plain loops, refits and general libraries."""
