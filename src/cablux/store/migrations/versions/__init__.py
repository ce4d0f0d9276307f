"""The versions, oldest first."""
