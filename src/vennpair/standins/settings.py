"""What both stand-ins' Django settings share; each reads its own environment variables."""

from __future__ import annotations

from typing import Any

import environ


def standin_settings(prefix: str, package: str) -> dict[str, Any]:
    """Return the settings of one stand-in: ``<PREFIX>_URL``, ``_DATABASE_URL``, ``_SECRET_KEY``."""
    env = environ.Env()
    database = env.db(f"{prefix}_DATABASE_URL")
    database |= {
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
    }  # a database that was restarted is nobody's error page
    label = package.rsplit(".", 1)[-1]
    return {
        "BASE_URL": env.str(f"{prefix}_URL").rstrip("/"),
        "SECRET_KEY": env.str(f"{prefix}_SECRET_KEY"),
        "DATABASES": {"default": database},
        "DEBUG": False,
        "ALLOWED_HOSTS": ["127.0.0.1", "localhost"],
        "INSTALLED_APPS": ["django.contrib.contenttypes", "django.contrib.sessions", package],
        "MIDDLEWARE": [
            "vennpair.standins.holding.HoldPoints",
            "django.middleware.security.SecurityMiddleware",
            "django.contrib.sessions.middleware.SessionMiddleware",
            "django.middleware.csrf.CsrfViewMiddleware",
        ],
        "ROOT_URLCONF": f"{package}.urls",
        "WSGI_APPLICATION": f"{package}.wsgi.application",
        "TEMPLATES": [
            {
                "BACKEND": "django.template.backends.django.DjangoTemplates",
                "APP_DIRS": True,
                "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
            }
        ],
        # All three services of the demo share the host 127.0.0.1, and cookies know no ports.
        "SESSION_COOKIE_NAME": f"{label}_session",
        "CSRF_COOKIE_NAME": f"{label}_csrf",
        "DATA_UPLOAD_MAX_MEMORY_SIZE": 50_000_000,
        "USE_TZ": True,
        "TIME_ZONE": "UTC",
        "DEFAULT_AUTO_FIELD": "django.db.models.BigAutoField",
        "LOGGING": {
            "version": 1,
            "disable_existing_loggers": False,
            "handlers": {"console": {"class": "logging.StreamHandler"}},
            "root": {"handlers": ["console"], "level": "WARNING"},
        },
    }
