"""What the service says, in the language of whoever reads it."""

from __future__ import annotations

from collections.abc import Callable

import httpx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tools.world import at_service
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from vennpair.client import VennPair
from vennpair.service.kernel.language.catalogue import Catalogue

KNOWN = Catalogue(
    [
        ("{who} does not answer.", "{who} no responde."),
        ("{n} link", "{n} enlace"),
        ("{n} links", "{n} enlaces"),
        ("{n} column", "{n} columna"),
        ("{links} lead to the homework again.", "{links} llevan de nuevo a las tareas."),
        ("'{title}' has no due date.", "'{title}' no tiene fecha de entrega."),
        ("no due date", "sin fecha de entrega"),
        (", {bad} not done: see the steps", ", {bad} sin hacer: vea los pasos"),
        ("{many} for {course}.", "{many} para {course}."),
        (" and ", " y "),
        ("; ", "; "),
        ("{shortest} points", "{shortest} puntos"),
        ("columns with other points", "columnas con otros puntos"),
        ("scores differ from what was earned", "calificaciones difieren de lo obtenido"),
        ("Compared: {found}.", "Comparado: {found}."),
    ]
)


@pytest.fixture(scope="module")
def pairing(new_pairing: Callable[[str], tuple[Sides, str]]) -> str:
    return new_pairing("HYD 210-LANG")[1]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("Tarnfield Campus does not answer.", "Tarnfield Campus no responde."),
        ("3 links and 1 column", "3 enlaces y 1 columna"),
        ("3 links and a bridge", "3 links and a bridge"),
        ("2 links lead to the homework again.", "2 enlaces llevan de nuevo a las tareas."),
        ("2 links, 1 not done: see the steps", "2 enlaces, 1 sin hacer: vea los pasos"),
        ("No due date", "Sin fecha de entrega"),
        ("Somebody wrote this. A does not answer.", "Somebody wrote this. A no responde."),
        # A number of something is known whole before a sentence that its end would fit.
        ("2 columns with other points", "2 columnas con otros puntos"),
        (
            "3 scores differ from what was earned: so",
            "3 calificaciones difieren de lo obtenido: so",
        ),
        ("20 points", "20 puntos"),
        (
            "Compared: 1 column; 2 columns with other points.",
            "Comparado: 1 columna; 2 columnas con otros puntos.",
        ),
        # What people named is left as they named it, whatever it says.
        ("3 links and 1 column for no due date.", "3 enlaces y 1 columna para no due date."),
        ("'no due date' has no due date.", "'no due date' no tiene fecha de entrega."),
    ],
)
def test_a_text_is_known_by_the_sentences_that_it_is_made_from(text: str, said: str) -> None:
    assert KNOWN.say(text) == said


def test_of_values_numbers_are_said_and_titles_never() -> None:
    assert KNOWN.value("2 columns with other points") == "2 columnas con otros puntos"
    assert KNOWN.value("no due date") == "no due date"


@given(st.text(alphabet=" .,;:'{}and0link\n", max_size=300))
def test_no_text_is_too_odd_to_be_said(text: str) -> None:
    KNOWN.say(text)


@pytest.mark.parametrize("text", [" and " * 5_000, ", " * 9_000, "." * 9_000, "1 links; " * 3_000])
def test_a_text_that_means_harm_is_said_at_once_and_loses_nothing(text: str) -> None:
    said = KNOWN.say(text)
    assert said.replace(" y ", " and ").replace("enlaces", "links") == text


def test_answers_are_in_the_language_that_is_asked_for(
    world: World, venn: VennPair, pairing: str
) -> None:
    def read(language: str) -> tuple[httpx.Response, list[dict[str, str]]]:
        path = f"/pairings/{pairing}/readiness"
        answer = venn._http.get(path, headers={"Accept-Language": language})
        return answer, answer.json()

    english = read("en")[1]
    answer, spanish = read("es-MX,es;q=0.9,en;q=0.5")
    assert answer.headers["Content-Language"] == "es"
    assert [each["code"] for each in spanish] == [each["code"] for each in english]
    same = [one["message"] for one, other in zip(english, spanish, strict=True) if one == other]
    assert same == []
    assert read("de")[1] == english  # of a language that there is not, nothing is made up


def test_a_refusal_says_in_the_language_too_what_to_do(world: World, venn: VennPair) -> None:
    spanish = {"Accept-Language": "es"}
    unknown = venn._http.get(
        "/pairings/00000000-0000-4000-8000-000000000000/readiness", headers=spanish
    )
    assert unknown.json()["code"] == "not_found"
    assert unknown.json()["detail"] == "No se encontró, o usted no tiene acceso."
    page = httpx.post(f"{world.url('vennpair')}/lti/launch", data={"state": "x"}, headers=spanish)
    assert 'lang="es"' in page.text
    assert "Este enlace no se pudo abrir" in page.text
    assert "Nothing was changed" not in page.text


def test_learners_are_told_first_in_the_language_of_whoever_places_it(
    venn: VennPair, pairing: str
) -> None:
    english, spanish = (
        venn._http.get(f"/pairings/{pairing}/first-steps", headers={"Accept-Language": each}).json()
        for each in ("en", "es")
    )
    assert english["html"].startswith("<h1>First steps")
    assert spanish["html"].startswith('<div lang="es"><h1>Primeros pasos')
    assert all("Rivers and Groundwater, 3rd ed." in each["html"] for each in (english, spanish))


def test_mail_is_in_the_language_that_its_reader_chose(world: World) -> None:
    sentence = "HYD 210-01: 3 findings open, 2 new."
    body = "HYD 210-01\n  37 of 40 scores agree; 3 findings are open, 2 of them new."
    due = "HYD 210-01: grades are due on May 13, not ready yet."
    subject, _ = at_service.mail_of(world, INSTRUCTOR, "es", due, "")
    assert subject == "HYD 210-01: las calificaciones se entregan el 13 de mayo, aún no está listo."
    subject, text = at_service.mail_of(world, INSTRUCTOR, "es", sentence, body)
    assert subject == "HYD 210-01: 3 hallazgos pendientes, 2 nuevos."
    assert "37 de 40 calificaciones coinciden" in text
    assert "Recibe este mensaje" in text
    assert at_service.mail_of(world, INSTRUCTOR, "", sentence, body)[0] == sentence
