"""How a count changes: spread over a row, or by columns that begin and end, in the rows of a schedule."""
