"""Harmonic tide prediction for a handful of stations."""
