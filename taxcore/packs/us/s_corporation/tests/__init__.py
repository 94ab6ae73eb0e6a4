"""Tests of S corporations' returns."""
