"""Pieces as they meet: silhouettes, joins, holders, what follows a change, what is warned of."""
