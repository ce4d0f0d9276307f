"""What lies on the needle: columns, the chart rows in which they are worked, and the rows in which a count changes."""
