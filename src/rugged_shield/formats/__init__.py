"""Readers and writers of files: the job file and the kit list."""
