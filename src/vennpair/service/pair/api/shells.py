"""Shells: what needs attention, consent, the tool's place, and what a copied one came from."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.pair.attention import attention
from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.actions.agree import agree, withdraw
from vennpair.service.pair.actions.change_tool import ToolState, look_at_tool, start_change, warning
from vennpair.service.pair.actions.copied_shell import go_on, look_at_copy
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.pairings import PairingSerializer
from vennpair.service.pair.consent import READS, WRITES
from vennpair.service.pair.models import Consent, Pairing, Shell
from vennpair.service.pair.queries import may_change, require_instructor, shells_listed


class ShellSerializer(serializers.ModelSerializer[Shell]):
    """A shell that the user teaches, with its current pairing's id and state where there is one.

    ``copied`` says that it came from another shell and is not paired yet.
    """

    platform = serializers.CharField(source="platform.name", read_only=True)
    pairing = serializers.SerializerMethodField()
    state = serializers.SerializerMethodField()
    course = serializers.SerializerMethodField()
    attention = serializers.SerializerMethodField()
    copied = serializers.SerializerMethodField()
    ended = serializers.UUIDField(
        read_only=True,
        allow_null=True,
        default=None,
        help_text="the pairing that was ended last and can still be restored",
    )

    class Meta:
        model = Shell
        fields = read_only_fields = [
            "id",
            "title",
            "label",
            "timezone",
            "platform",
            "pairing",
            "state",
            "course",
            "attention",
            "copied",
            "ended",
            "opened_at",
        ]

    def _current(self, shell: Shell) -> Pairing | None:
        return next(iter(shell.current), None)  # type: ignore[attr-defined]  # prefetched

    def get_pairing(self, shell: Shell) -> str | None:
        """Return the current pairing's id."""
        pairing = self._current(shell)
        return str(pairing.pk) if pairing else None

    @extend_schema_field({"type": "string", "enum": [*Pairing.State.values, "unpaired"]})
    def get_state(self, shell: Shell) -> str:
        """Return the current pairing's state, or ``unpaired``."""
        pairing = self._current(shell)
        return pairing.state if pairing else "unpaired"

    def get_course(self, shell: Shell) -> str:
        """Return the paired course's title and code."""
        pairing = self._current(shell)
        return f"{pairing.course.title}, {pairing.course.code}" if pairing else ""

    def get_copied(self, shell: Shell) -> bool:
        """Say whether it waits to be pointed at a pairing of its own."""
        unpaired = self._current(shell) is None
        return unpaired and bool(shell.from_paired)  # type: ignore[attr-defined]  # annotated

    def get_attention(self, shell: Shell) -> str:
        """Return in a few words what needs attention, or nothing."""
        pairing = self._current(shell)
        summary = getattr(pairing, "compared", None) or {}  # annotated
        apart = summary.get("cells", 0) - summary.get("kinds", {}).get("agree", 0)
        return attention(
            pairing.state if pairing else None,
            pairing.relay_on if pairing else False,
            apart,
            copied=shell.from_paired,  # type: ignore[attr-defined]  # annotated
        )


class UseSerializer(serializers.Serializer[Any]):
    """One thing that is read or written, and what for."""

    code = serializers.CharField()
    what = serializers.CharField()
    purpose = serializers.CharField()


class ConsentSerializer(serializers.Serializer[Any]):
    """What is read and written, and who agreed to it, when."""

    agreed = serializers.BooleanField()
    by = serializers.CharField()
    at = serializers.DateTimeField(allow_null=True)
    reads = UseSerializer(many=True)
    writes = UseSerializer(many=True)


class ShellToolSerializer(serializers.Serializer[Any]):
    """The tool's place as it was looked at; ``warning`` says what the change asked for would break,
    ``job`` carries it out.

    ``by_hand`` where no service is offered.
    """

    offered = serializers.BooleanField()
    on = serializers.BooleanField(allow_null=True)
    navigation = serializers.BooleanField(allow_null=True)
    position = serializers.IntegerField(allow_null=True)
    audience = serializers.CharField()
    etag = serializers.CharField()
    links = serializers.IntegerField()
    by_hand = serializers.ListField(child=serializers.CharField())
    opened_at = serializers.DateTimeField()
    warning = serializers.CharField()
    job = JobSerializer(allow_null=True)


class ChangeToolSerializer(serializers.Serializer[Any]):
    """What to change; with ``dry_run`` only the warning comes back."""

    on = serializers.BooleanField(required=False)
    navigation = serializers.BooleanField(required=False)
    position = serializers.IntegerField(required=False, min_value=0, max_value=100)
    audience = serializers.ChoiceField(["instructor", "everyone"], required=False)
    etag = serializers.CharField(
        required=False,
        allow_blank=True,
        default="",
        help_text="of what was looked at; a change made since is then refused",
    )
    dry_run = serializers.BooleanField(default=False)


class WaySerializer(serializers.Serializer[Any]):
    """A way on for a copied shell."""

    choice = serializers.ChoiceField(["same", "fresh"])
    open = serializers.BooleanField()
    why = serializers.CharField()
    needs = serializers.CharField(
        help_text="account, where linking one's account at the publisher would open it; else empty"
    )


class CopiedSerializer(serializers.Serializer[Any]):
    """What a shell was copied from; null where it was not."""

    copied = serializers.BooleanField()
    shell = serializers.CharField()
    course = serializers.CharField()
    publisher = serializers.CharField()
    links = serializers.IntegerField()
    ways = WaySerializer(many=True)


class GoOnSerializer(serializers.Serializer[Any]):
    """Which way, and the agreement that the shell is read and written."""

    choice = serializers.ChoiceField(["same", "fresh"])
    agree = serializers.BooleanField(default=False)


class ShellViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, Viewset):
    """Every shell that the user teaches or assists in."""

    serializer_class = ShellSerializer
    queryset = Shell.objects.none()

    def get_queryset(self) -> QuerySet[Shell]:
        """Return what the user may see."""
        return shells_listed(self.user)

    @extend_schema(methods=["GET"], responses=ConsentSerializer)
    @extend_schema(methods=["POST"], request=None, responses=ConsentSerializer)
    @extend_schema(methods=["DELETE"], responses=ConsentSerializer)
    @action(detail=True, methods=["get", "post", "delete"])
    def consent(self, request: Request, pk: str) -> Response:
        """See what is read and written; agree to it; withdraw it, which pauses a live pairing."""
        shell = self.get_object()
        if request.method == "POST":
            agree(shell, self.user)
        elif request.method == "DELETE":
            withdraw(shell, self.user)
        standing = (
            Consent.objects.filter(shell=shell, withdrawn_at=None).select_related("user").first()
        )
        uses = [
            [dict(zip(("code", "what", "purpose"), row, strict=True)) for row in rows]
            for rows in (READS, WRITES)
        ]
        facts = {
            "agreed": standing is not None,
            "by": standing.user.shown_name if standing else "",
            "at": standing.agreed_at if standing else None,
            "reads": uses[0],
            "writes": uses[1],
        }
        return Response(ConsentSerializer(facts).data)

    @extend_schema(methods=["GET"], responses=ShellToolSerializer)
    @extend_schema(methods=["PATCH"], request=ChangeToolSerializer, responses=ShellToolSerializer)
    @action(detail=True, methods=["get", "patch"])
    def tool(self, request: Request, pk: str) -> Response:
        """See and change whether Venn Pair is turned on in the shell, where in the navigation, and
        for whom.
        """
        shell = self.get_object()
        if request.method == "GET":
            return Response(_tool(shell, look_at_tool(shell), ""))
        asked = read(ChangeToolSerializer, request)
        require_instructor(self.user, shell)
        changes = dict(asked)
        etag, dry_run = changes.pop("etag"), changes.pop("dry_run")
        before = look_at_tool(shell)
        words = warning(before, changes)
        if dry_run or not changes:
            return Response(_tool(shell, before, words))
        job = start_change(shell, changes, etag, self.user)
        return Response(_tool(shell, before, words, job))

    @extend_schema(methods=["GET"], responses=CopiedSerializer)
    @extend_schema(methods=["POST"], request=GoOnSerializer, responses={201: PairingSerializer})
    @action(detail=True, methods=["get", "post"])
    def copied(self, request: Request, pk: str) -> Response:
        """See what a copied shell came from and the ways on; go one of them."""
        shell = self.get_object()
        if request.method == "POST":
            require_instructor(self.user, shell)
            asked = read(GoOnSerializer, request)
            pairing = go_on(
                shell,
                asked["choice"],
                self.user,
                agreeing=asked["agree"],
            )
            return Response(
                PairingSerializer(pairing, context=self.get_serializer_context()).data, status=201
            )
        found = look_at_copy(shell, self.user) if may_change(self.user, shell) else None
        if found is None:
            return Response(
                CopiedSerializer(
                    {
                        "copied": False,
                        "shell": "",
                        "course": "",
                        "publisher": "",
                        "links": 0,
                        "ways": [],
                    }
                ).data
            )
        old = found.old
        facts = {
            "copied": True,
            "shell": f"{old.shell.label} {old.shell.title}".strip(),
            "course": f"{old.course.title}, {old.course.code}, {old.course.term}",
            "publisher": old.course.publisher.name,
        }
        return Response(CopiedSerializer(facts | {"links": found.links, "ways": found.ways}).data)


def _tool(shell: Shell, state: ToolState, words: str, job: Job | None = None) -> dict[str, Any]:
    tool = state.tool
    facts = {
        name: getattr(tool, name) if tool else None for name in ("on", "navigation", "position")
    }
    facts |= {
        "audience": tool.audience if tool else "",
        "etag": tool.etag if tool else "",
        "offered": state.offered,
        "links": state.links,
        "by_hand": list(state.by_hand),
        "opened_at": shell.opened_at,
        "warning": words,
        "job": job,
    }
    return dict(ShellToolSerializer(facts).data)
