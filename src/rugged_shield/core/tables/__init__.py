"""Published data as printed, each row with its source and how sure it is."""
