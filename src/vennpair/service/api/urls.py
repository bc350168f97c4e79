"""Addresses of the API."""

from __future__ import annotations

from typing import Any

from django.urls import path
from drf_spectacular.views import SpectacularAPIView
from rest_framework.routers import SimpleRouter

from vennpair.service.connect.api.audit import AuditViewset
from vennpair.service.connect.api.college import CollegeSignInView, Ways
from vennpair.service.connect.api.institution import KeyViewset, PersonViewset, TokenViewset
from vennpair.service.connect.api.passkeys import PasskeyViewset
from vennpair.service.connect.api.platforms import PlatformViewset
from vennpair.service.connect.api.publishers import InvitationViewset, PublisherViewset
from vennpair.service.connect.api.second_factor import SecondFactorView
from vennpair.service.connect.api.signing_in import Me, Password, SignIn, SignOut
from vennpair.service.content.api.entries import EntryViewset
from vennpair.service.content.api.imports import ImportViewset
from vennpair.service.content.api.items import CatalogueViewset, ItemViewset
from vennpair.service.content.api.packages import PackageViewset
from vennpair.service.deploy.api.averages import AverageViewset, ExportViewset
from vennpair.service.deploy.api.picking import AskViewset, PickingViewset
from vennpair.service.deploy.api.placements import OrderViewset, PlacementViewset
from vennpair.service.deploy.api.rollouts import OutlineViewset, RolloutViewset, TravelsViewset
from vennpair.service.deploy.api.watching import DriftViewset, LearnerCheckViewset
from vennpair.service.overview.api import SearchViewset, Today
from vennpair.service.pair.api.activity import EventViewset, NoticeViewset
from vennpair.service.pair.api.courses import CourseViewset, TitleViewset
from vennpair.service.pair.api.jobs import Health, JobViewset
from vennpair.service.pair.api.operations import OperationViewset
from vennpair.service.pair.api.pairings import PairingViewset
from vennpair.service.pair.api.people import AccountViewset, MatchViewset
from vennpair.service.pair.api.shells import ShellViewset
from vennpair.service.reconcile.api.agreement import AgreementViewset
from vennpair.service.reconcile.api.cells import CellViewset, NoteViewset
from vennpair.service.reconcile.api.comparisons import ComparisonViewset, FindingViewset
from vennpair.service.reconcile.api.files import FileComparisonViewset
from vennpair.service.reconcile.api.settlements import SettlementViewset
from vennpair.service.reconcile.api.statements import StatementViewset
from vennpair.service.relay.api.scores import ScoreViewset, StrayViewset
from vennpair.service.relay.api.status import PlatformHealthViewset, RelayViewset
from vennpair.service.relay.api.steering import (
    PullViewset,
    ReleaseViewset,
    RuleViewset,
    ScoreFileViewset,
    ShowViewset,
)
from vennpair.service.set_up.api.readiness import ReadinessViewset
from vennpair.service.set_up.api.set_ups import SetUpViewset

_TOP: dict[str, Any] = {
    "search": SearchViewset,
    "shells": ShellViewset,
    "courses": CourseViewset,
    "titles": TitleViewset,
    "accounts": AccountViewset,
    "pairings": PairingViewset,
    "jobs": JobViewset,
    "operations": OperationViewset,
    "pickings": PickingViewset,
    "set-ups": SetUpViewset,
    "notices": NoticeViewset,
    "me/passkeys": PasskeyViewset,
    "me/tokens": TokenViewset,
    "connections/platforms": PlatformViewset,
    "connections/publishers": PublisherViewset,
    "connections/invitations": InvitationViewset,
    "connections/keys": KeyViewset,
    "connections/health": PlatformHealthViewset,
    "agreement": AgreementViewset,
    "file-comparisons": FileComparisonViewset,
    "people": PersonViewset,
    "audit": AuditViewset,
}
_OF_PAIRING: dict[str, Any] = {
    "items": ItemViewset,
    "catalogue": CatalogueViewset,
    "packages": PackageViewset,
    "imports": ImportViewset,
    "imports/<uuid:import_pk>/entries": EntryViewset,
    "rollouts": RolloutViewset,
    "outline": OutlineViewset,
    "readiness": ReadinessViewset,
    "travels": TravelsViewset,
    "placements": PlacementViewset,
    "orders": OrderViewset,
    "drifts": DriftViewset,
    "learner-checks": LearnerCheckViewset,
    "averages": AverageViewset,
    "exports": ExportViewset,
    "asks": AskViewset,
    "matches": MatchViewset,
    "relay": RelayViewset,
    "relay-rules": RuleViewset,
    "releases": ReleaseViewset,
    "column-views": ShowViewset,
    "scores": ScoreViewset,
    "strays": StrayViewset,
    "pulls": PullViewset,
    "score-files": ScoreFileViewset,
    "comparisons": ComparisonViewset,
    "comparisons/<uuid:comparison_pk>/findings": FindingViewset,
    "settlements": SettlementViewset,
    "statement": StatementViewset,
    "placements/<uuid:placement>/cells": CellViewset,
    "notes": NoteViewset,
    "activity": EventViewset,
}


def _router() -> Any:
    router = SimpleRouter(trailing_slash=False, use_regex_path=False)
    for name, viewset in _TOP.items():
        router.register(name, viewset, name.split("/")[-1])
    for name, viewset in _OF_PAIRING.items():
        router.register(f"pairings/<uuid:pairing_pk>/{name}", viewset, name.split("/")[-1])
    return router


urlpatterns = [
    path("health", Health.as_view(), name="health"),
    path("schema", SpectacularAPIView.as_view(), name="schema"),
    path("sign-in", SignIn.as_view(), name="sign-in"),
    path("sign-in/ways", Ways.as_view(), name="sign-in-ways"),
    path("connections/college-sign-in", CollegeSignInView.as_view(), name="college-sign-in"),
    path("sign-out", SignOut.as_view(), name="sign-out"),
    path("today", Today.as_view(), name="today"),
    path("me", Me.as_view(), name="me"),
    path("me/password", Password.as_view(), name="password"),
    path("me/second-factor", SecondFactorView.as_view(), name="second-factor"),
    *_router().urls,
]
