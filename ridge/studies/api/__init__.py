"""The API: one router a resource, with its schemas."""
