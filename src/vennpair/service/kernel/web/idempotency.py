"""Every POST accepts an Idempotency-Key: the same request again gets the same answer, done once."""

from __future__ import annotations

import hashlib
from contextlib import ExitStack
from typing import Any

from rest_framework.exceptions import NotAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.locks import Busy, only_one
from vennpair.service.kernel.web.acting import answering
from vennpair.service.kernel.web.models import KeptAnswer

HEADER = "Idempotency-Key"


class _Replayed(Exception):
    def __init__(self, response: Response) -> None:
        super().__init__()
        self.response = response


class Idempotent:
    """Mixin for views; goes before APIView among the bases."""

    # Actions whose answer holds a secret that is shown once: that it was given is kept, not what.
    answers_secrets: frozenset[str] = frozenset()
    _kept: KeptAnswer | None = None
    _answering: ExitStack

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
        with ExitStack() as stack:
            self._kept = self._claim(request, key, stack)
            stack.enter_context(answering(self._kept))
            self._answering = stack.pop_all()

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
            ):  # bytes to take away are made again
                body = None if self._is_secret() else response.data
                KeptAnswer.objects.filter(pk=self._kept.pk).update(
                    status=response.status_code, body=body
                )
            elif response.status_code == 500:  # what was done before our mistake stays known
                KeptAnswer.objects.filter(pk=self._kept.pk, acted=False).delete()
            else:
                self._kept.delete()
            self._kept = None
            self._answering.close()
        return super().finalize_response(request, response, *args, **kwargs)  # type: ignore[misc, no-any-return]

    def _is_secret(self) -> bool:
        return getattr(self, "action", "") in self.answers_secrets

    def _claim(self, request: Request, key: str, stack: ExitStack) -> KeptAnswer:
        """Take the key for this request; ``stack`` then holds the lock that says that it runs."""
        fingerprint, owner = _fingerprint(request), _owner(request)
        try:
            stack.enter_context(only_one(f"answer:{owner}:{key}"))
        except Busy:
            raise Refused(
                "in_progress",
                "The same request is being carried out at this moment.",
                "Wait a moment, then look at what it did.",
            ) from None
        kept, fresh = KeptAnswer.objects.get_or_create(
            user_id=owner, key=key, defaults={"fingerprint": fingerprint}
        )
        if fresh:
            return kept
        if kept.fingerprint != fingerprint:
            raise Refused(
                "key_reused",
                f"This {HEADER} was used for another request.",
                "Use a new key for a new request.",
                422,
            )
        if kept.status is None and not kept.acted:
            return kept  # the process that began it is gone, and nothing of it was done
        if kept.status is None:
            raise Refused(
                "done_already",
                "This was done, but its answer was lost: the server ended before it could give it.",
                "Look at what it did; it is not done twice.",
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
