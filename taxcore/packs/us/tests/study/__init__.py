"""Forty returns that are right, and over a hundred slips made in them one at a time: what do the diagnostics say?"""
