"""Shell: folded panels meshed, assembled and solved."""
