"""FastAPI routes, Jinja templates and static files: a route parses, calls one use case, renders."""
