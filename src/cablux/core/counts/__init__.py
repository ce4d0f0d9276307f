"""How many stitches each segment takes: the integer program for counts, clashing wishes, arrangements, squares."""
