"""The pages: one router module for each area, its templates in a folder of the same name."""
