from django.urls import path

from practice.web import client_pages as views

urlpatterns = [
    path("enter/<str:token>", views.enter, name="portal-enter"),
    path("code", views.code, name="portal-code"),
    path("", views.home, name="portal"),
    path("identity", views.identity, name="portal-identity"),
    path("return", views.whole_return, name="portal-return"),
    path("sign", views.sign, name="portal-sign"),
    path("package.pdf", views.download, name="portal-download"),
    path("leave", views.leave, name="portal-leave"),
]
