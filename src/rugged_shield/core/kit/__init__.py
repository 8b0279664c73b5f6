"""Kit: hardware as listed, as counted, and as the joints need it."""
