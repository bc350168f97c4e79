"""What the connection endpoints share."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers
from rest_framework.permissions import IsAuthenticated

from vennpair.service.connect.api.base import Viewset
from vennpair.service.connect.permissions import Administrator, TokenScope
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import address


class ForAdministrators(Viewset):
    """A viewset that only the institution's administrators may use."""

    permission_classes = [IsAuthenticated, TokenScope, Administrator]
    token_scope = "connect"  # noqa: S105 - the name of a scope


class Address(serializers.CharField):
    """An absolute web address; plain http only on loopback."""

    def __init__(self, **options: Any) -> None:
        super().__init__(max_length=500, **options)

    def to_internal_value(self, data: Any) -> str:
        """Check it as registration documents are checked."""
        text = super().to_internal_value(data)
        try:
            return address({"this address": text}, "this address", "invalid", "") if text else text
        except LtiError as error:
            raise serializers.ValidationError(error.message) from error


class HandshakeSerializer(serializers.Serializer[Any]):
    """One step of a connection check."""

    step = serializers.CharField()
    state = serializers.ChoiceField(["ok", "fail", "skip"])
    message = serializers.CharField()
    remedy = serializers.CharField()
    side = serializers.ChoiceField(["ours", "theirs", "both", ""], help_text="who must act")


class CardRowSerializer(serializers.Serializer[Any]):
    """One of our values, to copy into the other side's form."""

    name = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]  # our word
    value = serializers.CharField()
    help = serializers.CharField()
