"""How a piece begins and ends: borders, the cast-on, the rows that change a count between two parts."""
