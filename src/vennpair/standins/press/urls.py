"""Addresses of the press."""

from django.urls import path

from vennpair.standins.press import oneroster, pages, provisioning
from vennpair.standins.press.lti import keyed, launches, linking, picking, registration

ROSTER, GRADEBOOK, RESOURCES = (
    f"ims/oneroster/{service}/v1p2" for service in ("rostering", "gradebook", "resources")
)

urlpatterns = [
    path("", pages.home),
    path("courses/<str:sourced_id>", pages.course),
    path("courses/<str:sourced_id>/cartridge", oneroster.cartridge),
    path("items/<str:sourced_id>", pages.item),
    path("sign-in", pages.sign_in),
    path("sign-out", pages.sign_out),
    path("lti/register", registration.register),
    path("lti/link", linking.link),
    path("lti/launch-by-key", keyed.launch),
    path("provisioning", provisioning.features),
    path("provisioning/titles", provisioning.titles),
    path("provisioning/accounts", provisioning.accounts),
    path("provisioning/courses", provisioning.courses),
    path("lti/picked", picking.picked),
    path("lti/login", launches.login),
    path("lti/launch", launches.launch),
    path("lti/jwks", launches.jwks),
    path("oauth/token", oneroster.token),
    path(f"{ROSTER}/classes", oneroster.classes),
    path(f"{ROSTER}/classes/<str:sourced_id>", oneroster.one_class),
    path(f"{ROSTER}/teachers", oneroster.teachers),
    path(f"{ROSTER}/teachers/<str:account>/classes", oneroster.classes_of_teacher),
    path(f"{ROSTER}/classes/<str:sourced_id>/teachers", oneroster.teachers_of_class),
    path(f"{ROSTER}/classes/<str:sourced_id>/students", oneroster.students),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/lineItems", oneroster.line_items),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/results", oneroster.results),
    path(f"{GRADEBOOK}/classes/<str:sourced_id>/categories", oneroster.categories),
    path(f"{RESOURCES}/classes/<str:sourced_id>/resources", oneroster.resources),
]
