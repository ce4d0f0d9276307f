"""What is knitted, as plain values: pieces, bands, segments, parts, and how wide each will be."""
