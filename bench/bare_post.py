"""A bare DRF view that writes one row for each POST: what accepting a score is measured against.

Served by gunicorn as ``bench.bare_post:application``; its database is named by
``BARE_DATABASE_URL``.
"""

from __future__ import annotations

import os
from typing import Any

import environ
from django.conf import settings

DATABASE = environ.Env.db_url_config(
    os.environ.get("BARE_DATABASE_URL", "postgres://127.0.0.1:1/x")
)
settings.configure(
    SECRET_KEY="bench",  # noqa: S106 - guards nothing
    ALLOWED_HOSTS=["*"],
    ROOT_URLCONF=__name__,
    INSTALLED_APPS=["rest_framework"],
    DATABASES={"default": {**DATABASE, "OPTIONS": {"pool": {"min_size": 2, "max_size": 10}}}},
    REST_FRAMEWORK={
        "DEFAULT_AUTHENTICATION_CLASSES": [],
        "UNAUTHENTICATED_USER": None,
        "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    },
)

import django  # noqa: E402

django.setup()

from django.core.wsgi import get_wsgi_application  # noqa: E402
from django.db import connection, models  # noqa: E402
from django.urls import path  # noqa: E402
from rest_framework import generics, serializers  # noqa: E402


class Row(models.Model):
    """As many fields as a score has."""

    user = models.CharField(max_length=100)
    timestamp = models.DateTimeField()
    given = models.DecimalField(max_digits=16, decimal_places=6)
    maximum = models.DecimalField(max_digits=16, decimal_places=6)
    activity = models.CharField(max_length=20)
    grading = models.CharField(max_length=20)

    class Meta:
        app_label = "bench"


class RowSerializer(serializers.ModelSerializer[Row]):
    """All of it."""

    class Meta:
        model = Row
        fields = ["user", "timestamp", "given", "maximum", "activity", "grading"]


class Rows(generics.CreateAPIView[Row]):
    """POST one."""

    queryset = Row.objects.all()
    serializer_class = RowSerializer


urlpatterns: list[Any] = [path("rows", Rows.as_view())]
if os.environ.get("BARE_DATABASE_URL"):
    with connection.schema_editor() as editor:
        if "bench_row" not in connection.introspection.table_names():
            editor.create_model(Row)
    connection.close()
application = get_wsgi_application()
