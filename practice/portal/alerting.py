"""News for clients who opted in: what became of a return, by email or text message. Sent in the background, once."""

import re

from django.db import transaction

from practice.clients.models import News, Person
from practice.firm.events import record
from practice.portal.models import Alert
from taxcore.engine import BadValue


@transaction.atomic
def choose_news(link, way, telephone):
    """What the client of a link wants to hear. BadValue where a text message has no number to go to."""
    person = Person.objects.across_firms("the client's own").select_for_update().get(pk=link.client_id)
    if way not in News.values:
        raise BadValue("Choose how.", way)
    telephone = telephone.strip() or person.telephone
    if way == News.TEXT and not 10 <= len(re.sub(r"[^0-9]", "", telephone)) <= 15:
        raise BadValue("Enter a mobile number with its area code.", telephone)
    if way == News.MAIL and not person.email:
        raise BadValue("We have no email address of yours. Please call the office.", "")
    person.news = way
    if way == News.TEXT:
        person.telephone = telephone[:20]
    person.save(update_fields=["news", "telephone"])
    record(None, "news by", link.of, says=person.get_news_display(), by=person.full_name)
    return person


@transaction.atomic
def tell(return_, people, says):
    """Have those among `people` told who asked for it. `says` names no amount and no number."""
    from practice.portal.tasks import alert

    for person in people:
        if not person.news or (person.news == News.MAIL and not person.email):
            continue
        text = f"{return_.firm.name}: {says}"[:160]
        made = Alert.objects.create(firm=return_.firm, of=return_, client=person, way=person.news, says=text)
        alert.ask(alert_id=made.pk)
