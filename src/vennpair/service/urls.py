"""All addresses of the service."""

from __future__ import annotations

from django.urls import include, path, re_path

from vennpair.service.api.console import console
from vennpair.service.api.health import livez, readyz
from vennpair.service.api.nowhere import NoSuchAddress
from vennpair.service.api.security_txt import security_txt
from vennpair.service.connect import college
from vennpair.service.lti import (
    as_platform,
    as_tool,
    grades,
    learner_page,
    looking,
    outcomes,
    picking,
    registration,
    reviewing,
)
from vennpair.service.operating.metrics import metrics

_LINE_ITEMS = "lti/platform/pairings/<uuid:pairing_id>/lineitems"

handler500 = "vennpair.service.api.outages.server_error"
urlpatterns = [
    path("api/v1/", include("vennpair.service.api.urls")),
    path("api/<path:rest>", NoSuchAddress.as_view()),
    path("livez", livez),
    path("readyz", readyz),
    path("metrics", metrics),
    path("sign-in/college/back", college.back),
    path("sign-in/college/<uuid:college_id>", college.begin, name="college-begin"),
    path("lti/jwks", as_platform.jwks),
    path("lti/login", as_tool.login),
    path("lti/launch", as_tool.launch),
    path("lti/continue/<str:secret>", as_tool.go_on),
    path("lti/register", registration.begin),
    path("lti/register/<str:secret>", registration.invited),
    path(".well-known/security.txt", security_txt),
    path(".well-known/openid-configuration", registration.configuration),
    path("lti/platform/register", registration.register_tool),
    path("lti/platform/account", as_platform.account),
    path("lti/platform/account/<uuid:link_id>", as_platform.begin_account),
    path("lti/platform/pick/<uuid:picking_id>", picking.begin_at_publisher),
    path("lti/platform/review/<uuid:placement_id>/<uuid:learner_id>", reviewing.review),
    path("lti/platform/items/<uuid:item_id>", looking.look),
    path("lti/work/<uuid:placement_id>", learner_page.open_line),
    path("lti/platform/picked", picking.picked),
    path("lti/platform/outcomes", outcomes.outcomes),
    path("lti/platform/authorize", as_platform.authorize),
    path("lti/platform/token", as_platform.token),
    path(_LINE_ITEMS, grades.line_items),
    path(f"{_LINE_ITEMS}/<uuid:placement_id>", grades.line_item),
    path(f"{_LINE_ITEMS}/<uuid:placement_id>/scores", grades.scores),
    path(f"{_LINE_ITEMS}/<uuid:placement_id>/results", grades.results),
    re_path(r"^(?!api/|lti/|assets/)(?P<rest>.*)$", console),
]
