"""A cartridge of an invented third maker, with the troubles that real ones have: version 1.1,
nothing of ours in it.
"""

from __future__ import annotations

import base64
import io
import zipfile

CP = "http://www.imsglobal.org/xsd/imsccv1p1/imscp_v1p1"
_DOT = base64.b64decode(
    "iVBORw0KGgoAAAANSUhEUgAAAAoAAAAKCAYAAACNMs+9AAAAFUlEQVR42mNk+M9Qz0AEYBxVSF+FABJADveWkH6oAAAAAElFTkSuQmCC"
)
_ROLE = (
    "<metadata><lom:lom"
    ' xmlns:lom="http://ltsc.ieee.org/xsd/imsccv1p1/LOM/resource"><lom:educational><lom:intendedEndUserRole><lom:source>IMSGLC_CC_Rolesv1p1</lom:source><lom:value>Instructor</lom:value></lom:intendedEndUserRole></lom:educational></lom:lom></metadata>'
)
_ITEMS = """
<item identifier="f1"><title>Arriving at the station</title>
 <item identifier="i1" identifierref="R1"><title>How to get there</title></item>
 <item identifier="f2"><title>On the first day</title>
  <item identifier="i2" identifierref="R2"><title>Field notes</title></item>
  <item identifier="i3" identifierref="R3"><title>Field notes</title></item>
  <item identifier="i4" identifierref="R4"><title>Depth readings (table)</title></item>
 </item>
 <item identifier="i5" identifierref="R5"><title>Tide tables</title></item>
 <item identifier="i6" identifierref="R6"><title></title></item>
</item>
<item identifier="f3"><title>Refresher: reading a map</title>
 <item identifier="i7" identifierref="R7"><title>Map symbols</title></item>
 <item identifier="i8" identifierref="R8"><title>Map quiz</title></item>
</item>
<item identifier="f4"><title>For the staff</title>
 <item identifier="i9" identifierref="R9"><title>Key to the map quiz</title></item>
</item>
<item identifier="i10" identifierref="R10"><title>Your report</title></item>
<item identifier="i11" identifierref="R11"><title>Water model</title></item>
<item identifier="i12" identifierref="R12"><title>Old slides</title></item>
<item identifier="i13" identifierref="R13"><title>Ask the warden</title></item>
<item identifier="i14" identifierref="R99"><title>Video tour</title></item>
<item identifier="i15" identifierref="R15"><title>Simulator settings</title></item>"""
_RESOURCES = f"""
<resource identifier="R1" type="webcontent" href="pages/way.html"><file href="pages/way.html"/><file href="pages/img/dot.png"/></resource>
<resource identifier="R2" type="webcontent" href="pages/notes%20one.html"><file href="pages/notes%20one.html"/></resource>
<resource identifier="R3" type="webcontent" href="pages/bl%C3%A4tter.html"><file href="pages/bl%C3%A4tter.html"/></resource>
<resource identifier="R4" type="webcontent" href="data/depth.csv"><file href="data/depth.csv"/></resource>
<resource identifier="R5" type="imswl_xmlv1p1" href="links/tides.xml"><file href="links/tides.xml"/></resource>
<resource identifier="R6" type="imsdt_xmlv1p1" href="talk.xml"><file href="talk.xml"/></resource>
<resource identifier="R7" type="webcontent" href="pages/symbols.html"><file href="pages/symbols.html"/></resource>
<resource identifier="R8" type="imsqti_xmlv1p2/imscc_xmlv1p1/assessment" href="quiz.xml"><file href="quiz.xml"/></resource>
<resource identifier="R9" type="webcontent" href="pages/key.html">{_ROLE}<file href="pages/key.html"/></resource>
<resource identifier="R10" type="assignment_xmlv1p0" href="report.xml"><file href="report.xml"/></resource>
<resource identifier="R11" type="imsbasiclti_xmlv1p0" href="model.xml"><file href="model.xml"/></resource>
<resource identifier="R12" type="webcontent" href="slides/old.pdf"><file href="slides/old.pdf"/></resource>
<resource identifier="R13" type="imsdt_xmlv1p1" href="warden.xml"><file href="warden.xml"/></resource>
<resource identifier="R15" type="application/x-saltmarsh-simulator" href="sim.dat"><file href="sim.dat"/></resource>
<resource identifier="R16" type="webcontent" href="pages/unlisted.html"><file href="pages/unlisted.html"/></resource>"""
_WAY = """<!doctype html><html><head><title>How to get there</title><style>p { color: teal }</style><script>alert("no")</script></head>
<body onload="alert(1)"><h1>How to get there</h1><p>The station stands where the River Tarn meets the sea. <img src="img/dot.png" alt="the place on the map"></p>
<p>Read the <a href="notes%20one.html">field notes</a> first, take the <a href="../data/depth.csv">depth readings</a> along, and see <a href="nowhere.html">the old way</a>.</p></body></html>"""
_QUESTION = """<item ident="q{n}" title="Symbol {n}"><itemmetadata><qtimetadata><qtimetadatafield><fieldlabel>cc_profile</fieldlabel><fieldentry>cc.multiple_choice.v0p1</fieldentry></qtimetadatafield><qtimetadatafield><fieldlabel>cc_weighting</fieldlabel><fieldentry>2</fieldentry></qtimetadatafield></qtimetadata></itemmetadata>
<presentation><material><mattext texttype="text/html">What does sign {n} &lt;b&gt;mean&lt;/b&gt;?</mattext></material><response_lid ident="r"><render_choice><response_label ident="a"><material><mattext>a ford</mattext></material></response_label><response_label ident="b"><material><mattext>a spring</mattext></material></response_label></render_choice></response_lid></presentation></item>"""


def write_foreign() -> bytes:
    """Return the package: the *Field Station Handbook* of the invented Saltmarsh Open Texts."""
    head = (
        f'<manifest identifier="saltmarsh-handbook" xmlns="{CP}"'
        ' xmlns:lomimscc="http://ltsc.ieee.org/xsd/imsccv1p1/LOM/manifest">'
    )
    metadata = (
        "<metadata><schema>IMS Common"
        " Cartridge</schema><schemaversion>1.1.0</schemaversion><lomimscc:lom><lomimscc:general><lomimscc:title><lomimscc:string"
        ' language="en-GB">Field Station'
        " Handbook</lomimscc:string></lomimscc:title></lomimscc:general></lomimscc:lom></metadata>"
    )
    body = (
        '<organizations><organization identifier="o" structure="rooted-hierarchy"><item'
        f' identifier="root">{_ITEMS}</item></organization></organizations><resources>{_RESOURCES}</resources></manifest>'
    )
    members: dict[str, str | bytes] = {
        "imsmanifest.xml": f'<?xml version="1.0" encoding="UTF-8"?>{head}{metadata}{body}',
        "pages/way.html": _WAY,
        "pages/img/dot.png": _DOT,
        "pages/notes one.html": (
            "<p>Write down the hour, the place and the weather. <a href='way.html'>Back</a></p>"
        ),
        "pages/blätter.html": "<p>Écrivez l'heure, le lieu et le temps: أين، متى.</p>",
        "pages/symbols.html": "<h2>Map symbols</h2><ul><li>ford</li><li>spring</li></ul>",
        "pages/key.html": "<p>Answers: a, b.</p>",
        "pages/unlisted.html": "<p>Nobody points here.</p>",
        "data/depth.csv": "place,depth in m\nford,0.4\npool,2.1\n",
        "links/tides.xml": (
            '<webLink xmlns="http://www.imsglobal.org/xsd/imsccv1p1/imswl_v1p1"><title>Tide'
            ' tables</title><url href="https://tides.saltmarsh.example/"'
            ' target="_blank"/></webLink>'
        ),
        "talk.xml": (
            '<topic xmlns="http://www.imsglobal.org/xsd/imsccv1p1/imsdt_v1p1"><title>What did you'
            ' see?</title><text texttype="text/html">&lt;p&gt;Tell the group what you saw on the'
            " way.&lt;/p&gt;</text></topic>"
        ),
        "quiz.xml": (
            '<questestinterop xmlns="http://www.imsglobal.org/xsd/ims_qtiasiv1p2"><assessment'
            ' ident="a" title="Map quiz"><section'
            f' ident="s">{"".join(_QUESTION.format(n=n) for n in (1, 2, 3))}</section></assessment></questestinterop>'
        ),
        "report.xml": (
            '<assignment xmlns="http://www.imsglobal.org/xsd/imscc_extensions/assignment"'
            ' identifier="a1"><title>Your report</title><text texttype="text/html">&lt;p&gt;Two'
            " pages on one tide.&lt;/p&gt;</text><gradable"
            ' points_possible="30">true</gradable></assignment>'
        ),
        "model.xml": (
            '<cartridge_basiclti_link xmlns="http://www.imsglobal.org/xsd/imslticc_v1p0"'
            ' xmlns:blti="http://www.imsglobal.org/xsd/imsbasiclti_v1p0"><blti:title>Water'
            " model</blti:title><blti:launch_url>http://models.saltmarsh.example/launch</blti:launch_url></cartridge_basiclti_link>"
        ),
        "warden.xml": "<topic><title>Ask the warden</title><text>unfinished",
        "sim.dat": b"\x00\x01\x02",
    }
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in members.items():
            archive.writestr(zipfile.ZipInfo(name, (2027, 1, 4, 9, 0, 0)), data)
    return target.getvalue()
