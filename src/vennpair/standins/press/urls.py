"""Addresses of the press."""

from django.urls import path

from vennpair.standins.press import oneroster, pages
from vennpair.standins.press.lti import launches

ROSTER, GRADEBOOK, RESOURCES = (f"ims/oneroster/{service}/v1p2" for service in ("rostering", "gradebook", "resources"))

urlpatterns = [
    path("", pages.home),
    path("courses/<str:sourced_id>", pages.course),
    path("courses/<str:sourced_id>/cartridge", oneroster.cartridge),
    path("items/<str:sourced_id>", pages.item),
    path("lti/login", launches.login),
    path("lti/launch", launches.launch),
    path("lti/jwks", launches.jwks),
    path("oauth/token", oneroster.token),
    path(f"{ROSTER}/classes", oneroster.classes),
    path(f"{ROSTER}/classes/<str:sourced_id>/students", oneroster.students),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/lineItems", oneroster.line_items),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/results", oneroster.results),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/categories", oneroster.categories),
    path(f"{RESOURCES}/classes/<str:sourced_id>/resources", oneroster.resources),
]
