"""The flow: situation -> plan -> evidence -> finding -> verdict -> record, and the rules that need a whole situation."""
