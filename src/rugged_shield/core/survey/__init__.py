"""Survey: the bike and its plates as measured, folded and drawn."""
