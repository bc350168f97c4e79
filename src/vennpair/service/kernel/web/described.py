"""Serializer fields made from a dataclass whose fields are described (``core/deploy/sheet.py``)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import MISSING, Field
from typing import Any, Literal, get_args, get_origin, get_type_hints

from rest_framework import serializers

from vennpair.core.deploy.sheet import Described


def fields_from(
    owner: type[Any], rows: Iterable[tuple[Field[Any], Described]]
) -> dict[str, serializers.Field[Any, Any, Any, Any]]:
    """Return a field for each described field of ``owner``: its choices, limits, default, help."""
    kinds = get_type_hints(owner)
    return {each.name: _field(kinds[each.name], each, said) for each, said in rows}


def _field(kind: Any, each: Field[Any], said: Described) -> serializers.Field[Any, Any, Any, Any]:
    default: Any = each.default if each.default is not MISSING else dict
    if get_origin(kind) is Literal:
        return serializers.ChoiceField(list(get_args(kind)), default=default, help_text=said.help)
    if get_origin(kind) is dict:
        child = serializers.CharField(max_length=said.longest)
        return serializers.DictField(child=child, default=default, help_text=said.help)
    if kind is bool:
        return serializers.BooleanField(default=default, help_text=said.help)
    if kind is str:
        return serializers.CharField(
            default=default,
            allow_blank=default == "",
            max_length=said.longest,
            help_text=said.help,
        )
    return serializers.IntegerField(
        default=default,
        allow_null=type(None) in get_args(kind),
        min_value=said.least,
        max_value=said.most,
        help_text=said.help,
    )
