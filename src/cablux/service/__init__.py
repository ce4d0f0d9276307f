"""Use cases: store, core and render joined, without HTTP; what routes, the command line and scripts call."""
