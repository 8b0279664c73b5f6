"""One blueprint a station."""
