"""Tests of partnerships' returns."""
