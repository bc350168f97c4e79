"""Every POST accepts an Idempotency-Key: the same request again gets the same answer, done once."""

from __future__ import annotations

import hashlib
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone
from rest_framework.exceptions import NotAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.models import KeptAnswer

HEADER = "Idempotency-Key"
ABANDONED = timedelta(minutes=5)


class _Replayed(Exception):
    def __init__(self, response: Response) -> None:
        super().__init__()
        self.response = response


class Idempotent:
    """Mixin for views; goes before APIView among the bases."""

    # Actions whose answer holds a secret that is shown once: that it was given is kept, not what.
    answers_secrets: frozenset[str] = frozenset()
    _kept: KeptAnswer | None = None

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """After authentication and permissions, look for an answer that is kept."""
        super().initial(request, *args, **kwargs)  # type: ignore[misc]
        key = request.headers.get(HEADER)
        if request.method != "POST" or not key or not request.user:
            return
        if len(key) > 200:
            raise Refused(
                "bad_key",
                f"The {HEADER} is longer than 200 characters.",
                "Use a shorter key, for example a UUID.",
                400,
            )
        self._kept = self._claim(request, key)

    def handle_exception(self, error: Exception) -> Response:
        """Give the kept answer where there is one."""
        if isinstance(error, _Replayed):
            return error.response
        return super().handle_exception(error)  # type: ignore[misc, no-any-return]

    def finalize_response(
        self, request: Request, response: Response, *args: Any, **kwargs: Any
    ) -> Response:
        """Keep the answer; one that may be different next time is not kept."""
        if self._kept is not None:
            if response.status_code < 400 and isinstance(
                response, Response
            ):  # bytes to take away are made anew
                body = None if self._is_secret() else response.data
                KeptAnswer.objects.filter(pk=self._kept.pk).update(
                    status=response.status_code, body=body
                )
            else:
                self._kept.delete()
            self._kept = None
        return super().finalize_response(request, response, *args, **kwargs)  # type: ignore[misc, no-any-return]

    def _is_secret(self) -> bool:
        return getattr(self, "action", "") in self.answers_secrets

    def _claim(self, request: Request, key: str) -> KeptAnswer:
        fingerprint = _fingerprint(request)
        try:
            with transaction.atomic():
                return KeptAnswer.objects.create(
                    user_id=_owner(request), key=key, fingerprint=fingerprint
                )
        except IntegrityError:
            kept = KeptAnswer.objects.get(user_id=_owner(request), key=key)
        if kept.fingerprint != fingerprint:
            raise Refused(
                "key_reused",
                f"This {HEADER} was used for another request.",
                "Use a new key for a new request.",
                422,
            )
        if kept.status is None and kept.made < timezone.now() - ABANDONED:
            # the process that began it is gone; what it did was undone with its transaction
            kept.delete()
            return self._claim(request, key)
        if kept.status is None:
            raise Refused(
                "in_progress",
                "The same request is being carried out at this moment.",
                "Wait a moment, then look at what it did.",
            )
        if self._is_secret():
            raise Refused(
                "answered_once",
                "This was done already, and its answer held a secret that is shown once.",
                "If the answer never came, end what was made and ask again with a new key.",
            )
        raise _Replayed(
            Response(kept.body, status=kept.status, headers={"Idempotent-Replay": "true"})
        )


def _owner(request: Request) -> int:
    if request.user.pk is None:
        raise NotAuthenticated
    return int(request.user.pk)


def _fingerprint(request: Request) -> str:
    # A large upload is not read twice: its length stands for it.
    upload = (request.content_type or "").startswith("multipart/")
    body = str(request.META.get("CONTENT_LENGTH")).encode() if upload else request._request.body
    return hashlib.sha256(
        f"{request.method}\n{request.get_full_path()}\n".encode() + body
    ).hexdigest()
