"""Django's backend for SQLite; while somebody else holds the database for long, other requests have their turn."""
