"""``./run bench``: own medians beside a reference in the same run."""

from bench import interface, line

if __name__ == "__main__":
    line.run()
    interface.run()
