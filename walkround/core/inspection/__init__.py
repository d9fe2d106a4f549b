"""The parts of an aircraft as a hand meets them: what each does, how it is drawn close up, what damage to it means, how long it lasts."""
