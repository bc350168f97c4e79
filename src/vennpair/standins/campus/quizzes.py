"""A quiz that came as a cartridge: its questions taken out, shown, edited."""

from __future__ import annotations

import io
import zipfile
from typing import Any
from urllib.parse import urlsplit

from django.http import QueryDict

from vennpair.standards.cartridge import Limits
from vennpair.standards.cartridge.questions import read_questions
from vennpair.standards.cartridge.xml import MalformedXml, parse
from vennpair.standins.campus.models import Node, StoredFile

MOST = 500


def take_out(node: Node) -> None:
    """Take a quiz's questions out of the cartridge that its address names, the first time."""
    digest = urlsplit(node.url).path.rstrip("/").rpartition("/")[2]
    stored = StoredFile.objects.filter(shell=node.shell, digest=digest).first()
    if node.kind != "assessment" or node.questions or stored is None:
        return
    node.questions = _questions(bytes(stored.data))
    node.save(update_fields=["questions"])


def edit(node: Node, form: QueryDict) -> None:
    """Take over what an instructor typed: prompts and points, and which questions go."""
    kept = []
    for number, question in enumerate(node.questions):
        if form.get(f"remove-{number}"):
            continue
        kept.append(
            question
            | {
                "prompt": form.get(f"prompt-{number}", question["prompt"])[:5000],
                "points": form.get(f"points-{number}", question["points"])[:20],
            }
        )
    node.questions, node.version = kept, node.version + 1
    node.save(update_fields=["questions", "version"])


def _questions(data: bytes) -> list[dict[str, Any]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            texts = [
                archive.read(name)
                for name in archive.namelist()
                if name.endswith(".xml") and name != "imsmanifest.xml"
            ]
        roots = [parse(text, "the quiz", Limits()) for text in texts]
    except (zipfile.BadZipFile, MalformedXml):
        return []
    return [
        {
            "kind": each.kind,
            "prompt": each.prompt,
            "choices": list(each.choices),
            "points": "" if each.points is None else f"{each.points.normalize():f}",
        }
        for root in roots
        for each in read_questions(root, MOST)
    ]
