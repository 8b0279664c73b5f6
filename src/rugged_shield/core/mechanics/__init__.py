"""What several stations need and none owns: frames, threads, joint strength."""
