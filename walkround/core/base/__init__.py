"""Values, units, phrases, findings, errors, geodesy."""
