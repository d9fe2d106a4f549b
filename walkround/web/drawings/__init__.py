"""Core geometry turned into what a template can draw. All arithmetic of pictures happens here."""
