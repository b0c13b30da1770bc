"""What goes out: report, figure, tables, script and study file."""
