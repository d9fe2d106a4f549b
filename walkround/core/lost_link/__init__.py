"""What happens when the signal is lost: flown many times in today's wind, from one place or from the whole flying area; and the tests of it."""
