"""Tests of what returns of entities share."""
