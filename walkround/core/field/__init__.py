"""Fields: where they are, what is drawn on their plan, and what follows from it for a flight."""
