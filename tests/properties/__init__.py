"""Properties that hold for everything the program may meet, tried with generated cases."""
