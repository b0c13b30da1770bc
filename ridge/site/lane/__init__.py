"""The long lane: requests that take their time run in processes of their own, one after the other, so that no short one waits for
them."""
