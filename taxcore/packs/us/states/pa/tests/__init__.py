"""Tests of Pennsylvania."""
