"""Tests of corporations' returns."""
