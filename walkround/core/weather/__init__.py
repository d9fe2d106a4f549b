"""Reports, forecasts, atmosphere, wind."""
