"""Flight time: ``power`` from momentum theory, ``estimate`` with what the logbook says, ``flight`` the plan."""
