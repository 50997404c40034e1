"""The practice bench: levels, runs and results per person."""
