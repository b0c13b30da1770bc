"""Numbers, equations and findings as text; all in one place so that they can be translated."""
