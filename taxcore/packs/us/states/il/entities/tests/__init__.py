"""Tests of Illinois' returns of partnerships and corporations."""
