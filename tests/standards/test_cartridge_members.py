"""Members read straight from the archive: the same bytes as zipfile's, the same refusals, from a
file and from memory.
"""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import pytest

from tests.standards.packages import ITEM, LTI, PAGE, manifest, package
from vennpair.standards.cartridge import Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.members import Members

LINK = '<resource identifier="L1" type="imsbasiclti_xmlv1p0"><file href="link.xml"/></resource>'
WHOLE = package(
    {
        "imsmanifest.xml": manifest(
            ITEM + '<item identifier="i2" identifierref="L1"><title>Link</title></item>',
            PAGE + LINK,
        ),
        "a.html": "<p/>",
        "link.xml": LTI,
    }
)


def infos(data: bytes) -> dict[str, zipfile.ZipInfo]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {info.filename: info for info in archive.infolist()}


def damaged(how: str) -> bytes:
    """Return the package with one descriptor's bytes, or its own header, spoiled."""
    info, data = infos(WHOLE)["link.xml"], bytearray(WHOLE)
    begin = info.header_offset + 30 + len("link.xml")
    if how == "bytes":
        data[begin + info.compress_size // 2] ^= 0xFF
    elif how == "name":
        data[info.header_offset + 30] = ord("k")
    else:
        data[info.header_offset : info.header_offset + 4] = b"XXXX"
    return bytes(data)


@pytest.mark.parametrize("how", ["bytes", "name", "signature"])
@pytest.mark.parametrize("from_file", [True, False])
def test_a_damaged_member_spoils_only_its_own_entry(
    tmp_path: Path, how: str, from_file: bool
) -> None:
    file = tmp_path / "damaged.imscc"
    file.write_bytes(damaged(how))
    read = read_cartridge(file if from_file else io.BytesIO(damaged(how)))
    assert [row.title for row in read.outline] == ["Page", "Link"]
    assert {each.code for each in read.findings} & {"missing_file", "bad_xml"}


def test_every_way_of_packing_gives_the_same_bytes(tmp_path: Path) -> None:
    text = "Grundwasser – יֵשׁ ".encode() * 500
    file = tmp_path / "all.zip"
    with zipfile.ZipFile(file, "w") as archive:
        for number, method in enumerate(
            (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA)
        ):
            archive.writestr(f"übung-{number}.xml", text, compress_type=method)
    with file.open("rb") as opened, zipfile.ZipFile(opened) as archive:
        members = Members(archive, opened)
        assert [members.read(info, 1_000_000) == text for info in archive.infolist()] == [True] * 4
        assert {len(members.read(info, 100)) for info in archive.infolist()} == {101}, (
            "one byte more than the bound, so that the caller sees it"
        )
        members.close()


def test_a_member_larger_than_the_bound_is_never_unpacked_whole() -> None:
    bomb = package({"imsmanifest.xml": b"<manifest>" + b" " * 5_000_000 + b"</manifest>"})
    with pytest.raises(UnusableCartridge) as caught:
        read_cartridge(io.BytesIO(bomb), Limits(xml_bytes=1_000))
    assert caught.value.finding.code == "too_large"


@pytest.mark.parametrize("member", ["imsmanifest.xml", "link.xml", "a.html"])
@pytest.mark.parametrize("from_file", [True, False])
def test_no_damage_to_a_member_s_bytes_ends_in_a_traceback(
    tmp_path: Path, member: str, from_file: bool
) -> None:
    info = infos(WHOLE)[member]
    end = info.header_offset + 30 + len(member) + info.compress_size
    codes: set[str] = set()
    for place in range(info.header_offset, end):
        data = bytearray(WHOLE)
        data[place] ^= 1 << place % 8
        file = tmp_path / "damaged.imscc"
        file.write_bytes(data)
        try:
            read = read_cartridge(file if from_file else io.BytesIO(bytes(data)))
            assert read.outline
        except UnusableCartridge as error:
            codes.add(error.finding.code)
    assert codes <= {"not_a_zip", "bad_xml", "encrypted", "no_manifest"}


def test_a_dependency_that_is_not_there_is_said() -> None:
    needs = PAGE.replace("</resource>", '<dependency identifierref="R9"/></resource>', 1)
    data = package({"imsmanifest.xml": manifest(ITEM, needs), "a.html": "<p/>"})
    found = read_cartridge(io.BytesIO(data)).findings
    assert [each.code for each in found] == ["missing_resource"]
    assert "dependency R9" in found[0].where
