"""The rules and the computation of cabled knitting: no interface, no database, no clock."""
