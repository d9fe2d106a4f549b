"""The proving programme of an aircraft that has not flown: stages that lock, what they allow, and what causes wrong answers of the controls."""
