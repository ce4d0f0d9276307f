"""The demo's data: invented projects of an invented knitter."""
