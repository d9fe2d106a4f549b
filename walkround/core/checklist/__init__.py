"""What a check is, the library, the pilot's changes to it, what was done before."""
