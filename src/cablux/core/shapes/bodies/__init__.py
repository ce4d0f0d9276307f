"""Bodies that things are made for: published tables of heads, hands, feet and garment sizes."""
