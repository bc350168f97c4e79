"""Addresses of the API."""

from __future__ import annotations

from typing import Any

from django.urls import path
from drf_spectacular.views import SpectacularAPIView
from rest_framework.routers import SimpleRouter

from vennpair.service.activity.api import EventViewset
from vennpair.service.api.views import Me, Password, SignIn, SignOut
from vennpair.service.content.api import ImportViewset, ItemViewset
from vennpair.service.deploy.api import OutlineViewset, RolloutViewset
from vennpair.service.ops.api import Health, JobViewset
from vennpair.service.pair.api import CourseViewset, PairingViewset, ShellViewset
from vennpair.service.reconcile.api import ComparisonViewset, FindingViewset
from vennpair.service.relay.api import RelayViewset


def _router() -> Any:
    router = SimpleRouter(trailing_slash=False, use_regex_path=False)
    router.register("shells", ShellViewset, "shell")
    router.register("courses", CourseViewset, "course")
    router.register("pairings", PairingViewset, "pairing")
    router.register("jobs", JobViewset, "job")
    below = "pairings/<uuid:pairing_pk>/"
    for name, viewset in (("items", ItemViewset), ("imports", ImportViewset), ("rollouts", RolloutViewset), ("outline", OutlineViewset)):
        router.register(below + name, viewset, name)
    for name, viewset in (("relay", RelayViewset), ("comparisons", ComparisonViewset), ("activity", EventViewset), ("comparisons/<uuid:comparison_pk>/findings", FindingViewset)):
        router.register(below + name, viewset, name.split("/")[-1])
    return router


urlpatterns = [
    path("health", Health.as_view(), name="health"),
    path("schema", SpectacularAPIView.as_view(), name="schema"),
    path("sign-in", SignIn.as_view(), name="sign-in"),
    path("sign-out", SignOut.as_view(), name="sign-out"),
    path("me", Me.as_view(), name="me"),
    path("me/password", Password.as_view(), name="password"),
    *_router().urls,
]
