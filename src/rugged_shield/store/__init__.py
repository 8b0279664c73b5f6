"""What people entered, recorded and decided, kept in SQLite."""
