"""How many rows a piece has: heights, room, endings, and each band row by row."""
