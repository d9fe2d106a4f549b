"""Compass, accelerometer and barometer measured: samples fitted, judged against the field, the gravity and the pressure of the place."""
