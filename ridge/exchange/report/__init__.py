"""The report of a study: its content, and that content as HTML, PDF and DOCX."""
