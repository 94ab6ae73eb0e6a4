"""Addresses of what only American returns have."""

from django.urls import path

from practice.us.views import both_ways, diligence, entities, extensions, places, register

urlpatterns = [
    path("returns/<int:return_id>/places", places.show, name="places"),
    path("returns/<int:return_id>/places/<int:paper_id>/share", places.share, name="share-out"),
    path("returns/<int:return_id>/places/decide", places.decide, name="decide-state"),
    path("returns/<int:return_id>/places/apart", places.part, name="file-apart"),
    path("returns/<int:return_id>/places/move", places.move, name="move"),
    path("returns/<int:return_id>/what-if/both-ways", both_ways.show, name="both-ways"),
    path("returns/<int:return_id>/what-if/entity", entities.show, name="entity-choice"),
    path("returns/<int:return_id>/what-if/divide", both_ways.divide, name="divide-couple"),
    path("returns/<int:return_id>/what-if/split", both_ways.split, name="split-return"),
    path("returns/<int:return_id>/what-if/join", both_ways.join, name="join-returns"),
    path("returns/<int:return_id>/assets", register.show, name="asset-register"),
    path("more-time", extensions.many, name="more-time"),
    path("returns/<int:return_id>/more-time", extensions.show, name="extensions"),
    path("returns/<int:return_id>/more-time/ask", extensions.ask, name="ask-extension"),
    path("returns/<int:return_id>/more-time/ready", extensions.ready, name="ready-extension"),
    path("returns/<int:return_id>/more-time/send", extensions.send, name="send-extensions"),
    path("returns/<int:return_id>/more-time/<slug:code>/pay", extensions.pay, name="pay-extension"),
    path("returns/<int:return_id>/more-time/<slug:code>/unask", extensions.take_back, name="unask-extension"),
    path("returns/<int:return_id>/review/diligence", diligence.diligence, name="review-diligence"),
    path("returns/<int:return_id>/review/diligence/add", diligence.add_diligence, name="add-diligence"),
    path("returns/<int:return_id>/review/diligence/record", diligence.record_diligence, name="record-diligence"),
    path("returns/<int:return_id>/review/others", diligence.peers, name="review-peers"),
]
