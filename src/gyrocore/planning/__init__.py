"""One question of the machinist a module."""
