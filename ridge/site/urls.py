"""Addresses: the API below /api/, everything else is the interface."""

from django.contrib import admin
from django.urls import path

from ridge.site.api import api
from ridge.site.views import app

urlpatterns = [
    path("api/", api.urls),
    path("admin/", admin.site.urls),
    path("", app, name="shelf"),
    path("account", app, name="account"),
    path("outbox", app, name="outbox"),
    path("copy/<uuid:study_id>", lambda request, study_id: app(request), name="copy"),
    path("worksheet/<uuid:worksheet_id>", lambda request, worksheet_id: app(request), name="worksheet"),
    path("join", app, name="join"),
    path("join/<str:code>", lambda request, code: app(request), name="join-by-code"),
    path("look/<str:token>", lambda request, token: app(request), name="look"),
    path("study/<uuid:study_id>", lambda request, study_id: app(request), name="bench"),
]
handler404 = "ridge.site.views.not_found"
handler500 = "ridge.site.views.server_error"
