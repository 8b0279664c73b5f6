"""What stands around every screen of a job: ledger, stations, what is next."""
