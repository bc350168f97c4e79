"""The cartridge reader: the contract's examples, every version, and hostile files."""

from __future__ import annotations

import io
import json
import stat
import zipfile
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.standards.packages import CP, ITEM, LTI, PAGE, manifest, package
from vennpair.standards.cartridge import Cartridge, Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import inspection

EXAMPLES = Path(__file__).parents[1] / "examples" / "cartridge"


def read(data: bytes, **options: Any) -> Cartridge:
    return read_cartridge(io.BytesIO(data), **options)


def refused(data: bytes, **options: Any) -> str:
    with pytest.raises(UnusableCartridge) as caught:
        read(data, **options)
    assert caught.value.finding.remedy
    return caught.value.finding.code


def codes(data: bytes, **options: Any) -> set[str]:
    return {finding.code for finding in read(data, **options).findings}


def _fits(wanted: Any, found: Any) -> bool:
    return (
        found in wanted["any_of"]
        if isinstance(wanted, dict) and "any_of" in wanted
        else wanted == found
    )


@pytest.mark.parametrize("name", sorted(path.stem for path in EXAMPLES.glob("*.imscc")))
def test_the_contract_s_examples(name: str) -> None:
    wanted = json.loads((EXAMPLES / f"{name}.json").read_text())["expect"]
    found = inspection(read_cartridge(EXAMPLES / f"{name}.imscc"))
    for fact in ("version", "profile", "title", "language"):
        assert _fits(wanted[fact], found[fact]), fact
    for kind, count in wanted["counts"].items():
        assert _fits(count, found["counts"][kind]), kind
    assert len(wanted["outline"]) == len(found["outline"])
    for (depth, kind, title), row in zip(wanted["outline"], found["outline"], strict=True):
        assert (depth, title) == (row["depth"], row["title"])
        assert _fits(kind, row["kind"])
    for title, facts in wanted.get("items", {}).items():
        row = next(each for each in found["outline"] if each["title"] == title)
        assert all(_fits(value, row[fact]) for fact, value in facts.items()), title
    instructors = {row["title"] for row in found["outline"] if row["audience"] == "instructor"}
    assert instructors == set(wanted.get("instructor_only", []))
    assert sorted(map(tuple, wanted["loose"])) == sorted(
        (each["resource"], each["kind"]) for each in found["loose"]
    )
    present = {finding["code"] for finding in found["findings"]}
    assert not present & set(wanted["findings_absent"])
    assert set(wanted.get("findings_present", [])) <= present
    for code, places in wanted.get("mentions", {}).items():
        assert any(
            place in finding["where"]
            for finding in found["findings"]
            if finding["code"] == code
            for place in places
        )


@pytest.mark.parametrize(
    ("version", "namespace", "schema", "found"),
    [
        (
            "1.0.0",
            "http://www.imsglobal.org/xsd/imscc/imscp_v1p1",
            "IMS Common Cartridge",
            ("1.0", "full"),
        ),
        (
            "1.2.0",
            "http://www.imsglobal.org/xsd/imsccv1p2/imscp_v1p1",
            "IMS Common Cartridge",
            ("1.2", "full"),
        ),
        (
            "1.3.0",
            "http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1",
            "IMS Thin Common Cartridge",
            ("1.3", "thin"),
        ),
        ("", "http://www.imsglobal.org/xsd/imsccv1p2/imscp_v1p1", "", ("1.2", "full")),
        ("9.9", CP, "IMS Common Cartridge", (None, "full")),
    ],
)
def test_versions_and_profiles(
    version: str, namespace: str, schema: str, found: tuple[str | None, str]
) -> None:
    data = package(
        **{
            "imsmanifest.xml": manifest(
                ITEM, PAGE, version=version, namespace=namespace, schema=schema
            )
        }
    )
    cartridge = read(data)
    assert (cartridge.version, cartridge.profile) == found
    assert ("unknown_version" in {finding.code for finding in cartridge.findings}) == (
        found[0] is None
    )


def test_a_good_package_has_no_finding_whatever_its_prefix_or_encoding() -> None:
    prefixed = (
        manifest(ITEM, PAGE)
        .decode()
        .replace("<item", "<c:item")
        .replace("</item", "</c:item")
        .replace("<title", "<c:title")
        .replace("</title", "</c:title")
    )
    prefixed = prefixed.replace('identifier="M"', f'identifier="M" xmlns:c="{CP}"', 1)
    for text in (
        prefixed.encode(),
        manifest(ITEM, PAGE).decode().replace("UTF-8", "UTF-16").encode("utf-16"),
        manifest(ITEM, PAGE).decode().replace("UTF-8", "ISO-8859-1").encode("latin-1"),
    ):
        cartridge = read(package(**{"imsmanifest.xml": text}))
        assert cartridge.findings == ()
        assert [row.title for row in cartridge.outline] == ["Page"]


def test_what_the_manifest_promises_and_the_package_lacks() -> None:
    items = (
        ITEM + '<item identifier="i2" identifierref="NONE"><title>Nowhere</title></item><item'
        ' identifier="i1"><title/></item>'
    )
    found = read(package(**{"imsmanifest.xml": manifest(items, PAGE.replace("a.html", "b.html"))}))
    assert {finding.code for finding in found.findings} == {
        "missing_file",
        "missing_resource",
        "duplicate_identifier",
        "untitled",
    }
    assert [row.kind for row in found.outline] == ["page", "other", "folder"]


def test_paths_are_found_percent_encoded_by_base_and_in_any_normal_form() -> None:
    resources = (
        '<resource identifier="R1" type="webcontent" xml:base="caf%C3%A9/"'
        ' href="week%201.html"><file href="week%201.html"/></resource>'
    )
    data = package({"imsmanifest.xml": manifest(ITEM, resources), "cafe\u0301/week 1.html": "x"})
    assert read(data).findings == ()


def test_a_broken_descriptor_spoils_only_its_own_entry() -> None:
    items = (
        ITEM
        + '<item identifier="i2" identifierref="R2"><title>Tool</title></item><item identifier="i3"'
        ' identifierref="R3"><title>Other</title></item>'
    )
    resources = PAGE + "".join(
        f'<resource identifier="R{n}" type="imsbasiclti_xmlv1p0" href="{n}.xml"><file'
        f' href="{n}.xml"/></resource>'
        for n in (2, 3)
    )
    data = package(
        **{"imsmanifest.xml": manifest(items, resources), "2.xml": "<broken", "3.xml": LTI}
    )
    cartridge = read(data, known_hosts=frozenset({"tool.example"}))
    assert [(finding.code, finding.level) for finding in cartridge.findings] == [
        ("bad_xml", "error"),
        ("insecure_launch", "warning"),
    ]
    assert cartridge.outline[2].resource is not None
    assert cartridge.outline[2].resource.descriptor.custom == {"item": "7"}


def test_links_of_unregistered_tools_are_named_by_host() -> None:
    items = '<item identifier="i2" identifierref="R2"><title>Tool</title></item>'
    resources = (
        '<resource identifier="R2" type="imsbasiclti_xmlv1p0" href="t.xml"><file'
        ' href="t.xml"/></resource>'
    )
    data = package({"imsmanifest.xml": manifest(items, resources), "t.xml": LTI})
    assert "unknown_tool" in codes(data)
    assert "unknown_tool" not in codes(data, known_hosts=frozenset({"tool.example"}))


def test_an_unsupported_resource_and_an_empty_package() -> None:
    assert "unsupported_resource" in codes(
        package(**{"imsmanifest.xml": manifest(ITEM, PAGE.replace("webcontent", "x-presentation"))})
    )
    assert codes(package({"imsmanifest.xml": manifest()})) == {"empty"}


def test_files_that_are_no_package() -> None:
    good = package()
    assert refused(b"") == "not_a_zip"
    assert refused(b"hello") == "not_a_zip"
    assert refused(good[: len(good) // 2]) == "not_a_zip"
    assert refused(package({"a.html": "x"})) == "no_manifest"
    assert refused(package({"course/imsmanifest.xml": manifest()})) == "no_manifest"
    assert refused(package(**{"imsmanifest.xml": "<html/>"})) == "no_manifest"
    assert refused(package(**{"imsmanifest.xml": manifest()[:-20]})) == "bad_xml"
    assert refused(package(**{"imsmanifest.xml": b"\xff\xfe\x00"})) == "bad_xml"


@pytest.mark.parametrize(
    "head",
    [
        '<!DOCTYPE manifest [<!ENTITY a "b">]>',
        '<!DOCTYPE manifest SYSTEM "file:///etc/passwd">',
        "<!DOCTYPE manifest>",
    ],
)
def test_a_document_type_is_refused_in_manifest_and_descriptor(head: str) -> None:
    assert refused(package(**{"imsmanifest.xml": manifest(ITEM, PAGE, head=head)})) == "unsafe_xml"
    resources = PAGE.replace("webcontent", "imswl_xmlv1p1").replace("a.html", "a.xml")
    assert (
        refused(
            package(
                {
                    "imsmanifest.xml": manifest(ITEM, resources),
                    "a.xml": (
                        f"<?xml version='1.0'?>{head.replace('manifest', 'webLink')}<webLink/>"
                    ),
                }
            )
        )
        == "unsafe_xml"
    )


def test_entities_that_grow_without_end_are_refused_at_once() -> None:
    laughs = "".join(f'<!ENTITY l{n} "{f"&l{n - 1};" * 10}">' for n in range(1, 12))
    head = f'<!DOCTYPE manifest [<!ENTITY l0 "ha">{laughs}]>'
    assert (
        refused(
            package(
                **{
                    "imsmanifest.xml": manifest(
                        "<item identifier='x'><title>&l11;</title></item>", head=head
                    )
                }
            )
        )
        == "unsafe_xml"
    )


@pytest.mark.parametrize(
    "name",
    ["../evil.html", "/etc/evil", "a/../../evil", "C:\\evil.html", "..\\evil.html", "a\x01b"],
)
def test_paths_that_lead_out_are_refused(name: str) -> None:
    assert refused(package(**{name: "x"})) == "unsafe_path"


def test_a_manifest_that_points_out_of_the_package_is_refused() -> None:
    assert (
        refused(
            package(
                **{
                    "imsmanifest.xml": manifest(
                        ITEM, PAGE.replace("a.html", "..%2f..%2fetc/passwd")
                    )
                }
            )
        )
        == "unsafe_path"
    )


def _raw(change: Any) -> bytes:
    target = io.BytesIO(package())
    with zipfile.ZipFile(target, "a") as archive:
        change(archive)
    return target.getvalue()


def test_links_doubles_and_encrypted_members_are_refused() -> None:
    def add_link(archive: zipfile.ZipFile) -> None:
        info = zipfile.ZipInfo("link.html")
        info.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(info, "/etc/passwd")

    def add_double(archive: zipfile.ZipFile) -> None:
        with pytest.warns(UserWarning, match="Duplicate"):
            archive.writestr("a.html", "again")

    assert refused(_raw(add_link)) == "unsafe_path"
    assert refused(_raw(add_double)) == "duplicate_member"
    encrypted = bytearray(package())
    at = encrypted.rindex(b"PK\x01\x02")
    encrypted[at + 8] |= 1
    assert refused(bytes(encrypted)) == "encrypted"


@pytest.mark.parametrize("offset", [0x7FFFFFFF, 0xFFFFFFF0, 0x88FFFFFF])
def test_a_member_said_to_begin_outside_the_file_is_refused(offset: int) -> None:
    data = bytearray(package())
    at = data.index(b"PK\x01\x02")
    data[at + 42 : at + 46] = offset.to_bytes(4, "little")
    assert refused(bytes(data)) == "not_a_zip"


def test_limits_are_named_in_the_message() -> None:
    many = package(**{f"f{n}.html": "x" for n in range(30)})
    bomb = package(**{"zeros.bin": b"\0" * 30_000_000})
    deep = manifest(
        "".join(f'<item identifier="d{n}"><title>{n}</title>' for n in range(240)) + "</item>" * 240
    )
    huge = package(**{"imsmanifest.xml": manifest(ITEM, PAGE + " " * 100_000)})
    for data, limits, name in (
        (many, Limits(members=20), "VENNPAIR_CARTRIDGE_MAX_MEMBERS"),
        (bomb, Limits(ratio=500), "VENNPAIR_CARTRIDGE_MAX_RATIO"),
        (bomb, Limits(total_bytes=1_000_000), "VENNPAIR_CARTRIDGE_MAX_TOTAL_BYTES"),
        (package(**{"imsmanifest.xml": deep}), Limits(), "VENNPAIR_CARTRIDGE_MAX_DEPTH"),
        (huge, Limits(xml_bytes=50_000), "VENNPAIR_CARTRIDGE_MAX_XML_BYTES"),
    ):
        with pytest.raises(UnusableCartridge) as caught:
            read(data, limits=limits)
        assert caught.value.finding.code == "too_large"
        assert name in caught.value.finding.message


@settings(max_examples=150, deadline=None)
@given(st.data())
def test_a_damaged_package_is_read_or_refused_but_never_breaks_us(data: st.DataObject) -> None:
    whole = bytearray((EXAMPLES / "thin12-rich.imscc").read_bytes())
    for _ in range(data.draw(st.integers(1, 6))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    with suppress(UnusableCartridge):  # any other exception fails the test
        assert inspection(read(bytes(whole)))["counts"]


def test_subjects_are_read_of_keywords_and_disciplines_and_of_nothing_else() -> None:
    about = (
        "<metadata><lom><general><keyword><string>Groundwater</string></keyword></general>"
        "<classification><purpose><value>discipline</value></purpose><taxonPath><taxon><entry>"
        "<string>Hydrology</string></entry></taxon></taxonPath></classification>"
        "<classification><purpose><value>security level</value></purpose><taxonPath><taxon><entry>"
        "<string>Open</string></entry></taxon></taxonPath></classification></lom></metadata>"
    )
    text = manifest(ITEM, PAGE).decode().replace("</resource>", f"{about}</resource>", 1)
    cartridge = read(package(**{"imsmanifest.xml": text.encode()}))
    assert [row.subjects for row in cartridge.outline] == [("Groundwater", "Hydrology")]
