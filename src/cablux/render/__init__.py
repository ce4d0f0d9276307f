"""Core results to pictures: drawing primitives first, SVG from them."""
