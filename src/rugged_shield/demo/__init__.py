"""The demo scenario: an invented bike, its plates, and jobs at every stage."""
