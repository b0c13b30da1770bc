"""A class: worksheets that a teacher makes, a copy for each student, and all copies at a glance."""
