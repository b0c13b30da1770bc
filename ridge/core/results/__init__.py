"""What a solve leaves behind: plain values, nothing that computes further."""
