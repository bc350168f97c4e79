"""Addresses of the campus."""

from django.urls import path

from vennpair.standins.campus import pages
from vennpair.standins.campus.lti import access, files, gradebook, grades, imports, launches, learner_view, outline, picking, places, registration

urlpatterns = [
    path("", pages.home),
    path("sign-in", pages.sign_in),
    path("sign-out", pages.sign_out),
    path("shells/<str:context_id>", pages.shell),
    path("shells/<str:context_id>/gradebook", pages.gradebook),
    path("shells/<str:context_id>/open", pages.open_link),
    path("shells/<str:context_id>/pages/<str:key>", pages.page),
    path("shells/<str:context_id>/files/<str:digest>", pages.file),
    path("shells/<str:context_id>/cartridge", pages.import_cartridge),
    path("shells/<str:context_id>/pick", picking.begin_picking),
    path("shells/<str:context_id>/picked", picking.picked),
    path("learner-view", learner_view.enter),
    path("tools", pages.tools),
    path(".well-known/openid-configuration", registration.configuration),
    path("lti/register", registration.register),
    path("lti/authorize", launches.authorize),
    path("lti/jwks", launches.jwks),
    path("lti/token", access.token),
    path("services/<str:context_id>/lineitems", grades.line_items),
    path("services/<str:context_id>/lineitems/<str:key>", grades.line_item),
    path("services/<str:context_id>/lineitems/<str:key>/scores", grades.scores),
    path("services/<str:context_id>/lineitems/<str:key>/results", grades.results),
    path("services/<str:context_id>/members", grades.members),
    path("services/<str:context_id>/outline", outline.outline),
    path("services/<str:context_id>/outline/folders", outline.folders),
    path("services/<str:context_id>/outline/entries", outline.entries),
    path("services/<str:context_id>/outline/tool", places.tool),
    path("services/<str:context_id>/outline/order", outline.order),
    path("services/<str:context_id>/outline/categories", gradebook.categories),
    path("services/<str:context_id>/outline/gradebook", gradebook.gradebook),
    path("services/<str:context_id>/outline/entries/<str:key>/learner-view", learner_view.learner_view),
    path("services/<str:context_id>/outline/files/<str:digest>", files.file),
    path("services/<str:context_id>/outline/imports", imports.imports),
    path("services/<str:context_id>/outline/imports/<str:key>", imports.state),
    path("services/<str:context_id>/outline/folders/<str:key>", outline.node),
    path("services/<str:context_id>/outline/entries/<str:key>", outline.node),
]
