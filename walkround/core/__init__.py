"""The job: rules and arithmetic. No interface, no storage, no clock, no globals that change."""
