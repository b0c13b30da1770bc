"""What page, report, tables and clipboard say of what was computed: the last step, from numbers to words."""
