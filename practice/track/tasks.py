"""Tracks that are missing, made in the background a few hundred at a time."""

from procrastinate.contrib.django import app

from practice.firm.jobs import fresh_connection
from practice.track.keeping import make_missing

_AT_ONCE = 300


@app.periodic(cron="* * * * *")
@app.task(name="practice:tracks", queueing_lock="tracks")
def tracks(timestamp):
    fresh_connection()
    make_missing(_AT_ONCE)
