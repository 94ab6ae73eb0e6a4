"""What American returns add to what all returns share."""

from django.apps import AppConfig


class UsConfig(AppConfig):
    name = "practice.us"

    def ready(self):
        from practice.dispatch import tasks
        from practice.returns.additions import Additions, add
        from practice.us import extending, in_two, rounds, separate_returns, waiting  # noqa: F401 - rounds declares its acts
        from taxcore.packs import KNOWN

        def notices(return_):
            yield from extending.notices(return_)
            yield from separate_returns.notices(return_)
            yield from in_two.notices(return_)
            yield from waiting.notices(return_)

        def not_locked(return_):
            return separate_returns.not_locked(return_) or in_two.not_locked(return_)

        add(
            "us",
            Additions(
                separate_returns.described,
                notices,
                not_locked,
                tabs=(("Places", "places", "j"),),
                plans=(("Jointly or separately", "both-ways"), ("Kind of entity", "entity-choice")),
                forms=(("Register of assets", "asset-register"),),
                reviews=(("Due diligence", "review-diligence"), ("Compared with peers", "review-peers")),
                extends="extensions",
                extends_many="more-time",
                found=(
                    ("Extension", "extensions"),
                    ("Register of assets", "asset-register"),
                    ("Jointly or separately", "both-ways"),
                    ("Kind of entity", "entity-choice"),
                    ("Due diligence", "review-diligence"),
                    ("Places and residency", "places"),
                ),
            ),
        )
        of_entities = Additions(
            notices=extending.notices, extends="extensions", extends_many="more-time", found=(("Extension", "extensions"),)
        )
        for code in KNOWN:
            if code.startswith("us-"):
                add(code, of_entities)
        tasks.settles("extension", extending.settle)
