"""What a study is: its state, its columns and readings, the changes that turn one state into the next, and how it is kept."""
