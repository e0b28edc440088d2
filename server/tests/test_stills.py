"""Stills: re-encoded, clicked, measured, and refused if they are not pictures."""

from __future__ import annotations

import io
import struct
import zlib

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from instavis.assessment.stills.models import Still
from instavis.assessment.stills.pictures import bare
from instavis_core.errors import InputError

SCALE = {"a": [50, 50], "b": [50, 450], "length_cm": 100}


@pytest.fixture
def send(api, lesson):
    def make(data: bytes, check="", view="face-on", status=201):
        path = f"/api/v1/lessons/{lesson.pk}/stills?check={check}&view={view}"
        response = api.client.post(path, {"file": SimpleUploadedFile("still.png", data)})
        assert response.status_code == status, response.content
        return response.json()

    return make


def test_still_is_measured_against_address(send, api, picture):
    address = send(picture(), view="face-on")
    still = send(picture(), check="pelvis-lateral-impact")
    assert still["address_id"] == address["id"]
    assert still["measured"]["missing"] == ["lead-hip", "trail-hip", "scale", "address:lead-hip", "address:trail-hip"]
    api(
        "patch",
        f"/v1/stills/{address['id']}",
        {"points": {"lead-hip": [320, 200], "trail-hip": [280, 200]}, "scale": SCALE},
    )
    result = api("patch", f"/v1/stills/{still['id']}", {"points": {"lead-hip": [396, 200], "trail-hip": [356, 200]}})
    assert result["measured"]["value"] == pytest.approx(19.0)
    assert result["measured"]["grade"] == "past-lead-foot"
    assert result["measured"]["error"] > 0.3


def test_left_handers_measure_the_mirror_image(send, api, picture, lesson):
    lesson.hand = "left"
    lesson.save()
    still = send(picture(), check="hands-impact")
    result = api(
        "patch", f"/v1/stills/{still['id']}", {"points": {"hands": [260, 200], "ball": [300, 400]}, "scale": SCALE}
    )
    assert result["measured"]["value"] == pytest.approx(10.0)
    assert result["measured"]["grade"] == "ahead"


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_pictures_are_reencoded_without_metadata(send, api, picture, kind):
    extra = {"exif": _exif()} if kind != "PNG" else {}
    still = send(picture(640, 480, kind, **extra), check="seat-line")
    response = api.client.get(f"/api/v1/stills/{still['id']}/picture")
    assert response["Content-Type"] == "image/jpeg"
    with Image.open(io.BytesIO(response.content)) as stored:
        assert not stored.getexif()
        assert b"Bayside" not in response.content


def _with_comment(jpeg: bytes, text: bytes) -> bytes:
    """The picture with a comment after its first marker."""
    return jpeg[:2] + b"\xff\xfe" + struct.pack(">H", len(text) + 2) + text + jpeg[2:]


def test_comments_and_appended_data_are_removed(send, api, picture):
    sent = _with_comment(picture(640, 480, "JPEG"), b"Bayside secret place") + b"appended secret"
    with Image.open(io.BytesIO(sent)) as opened:
        assert opened.info["comment"] == b"Bayside secret place"
    still = send(sent, check="seat-line")
    stored = bytes(Still.objects.get(pk=still["id"]).image)
    assert b"secret" not in stored


def test_picture_with_thousands_of_passes_is_refused_before_decoding(send, picture, monkeypatch):
    complete = picture(640, 480, "JPEG", progressive=True)
    assert send(complete, check="seat-line")["width"] == 640
    slow = complete[:-2] + complete[complete.rindex(b"\xff\xda") : -2] * 60 + complete[-2:]

    def never(*_):
        raise AssertionError("it was decoded")

    monkeypatch.setattr("instavis.assessment.stills.pictures.ImageOps.exif_transpose", never)
    result = send(slow, check="seat-line", status=422)["errors"][0]
    assert "passes" in result["value"]


def test_formats_without_reduced_decoding_have_a_lower_limit(send, picture, monkeypatch):
    monkeypatch.setattr("instavis.assessment.stills.pictures.MAX_DECODED", 100_000)
    assert "megapixels" in send(picture(640, 480, "PNG"), check="seat-line", status=422)["errors"][0]["message"]
    monkeypatch.setattr("instavis.assessment.stills.pictures.MAX_DECODED", 4_000_000)
    send(picture(4000, 4000, "PNG"), check="seat-line", status=422)
    send(picture(4000, 4000, "JPEG"), check="seat-line")  # opened at half its size


def _exif() -> bytes:
    exif = Image.Exif()
    exif[0x010E] = "Bayside secret place"
    return exif.tobytes()


def test_sideways_picture_is_turned_upright(send, picture):
    exif = Image.Exif()
    exif[0x0112] = 6
    still = send(picture(640, 480, "JPEG", exif=exif.tobytes()), check="seat-line")
    assert (still["width"], still["height"]) == (480, 640)


def test_forty_megapixel_picture_is_downscaled(send, picture):
    still = send(picture(7300, 5500, "JPEG", quality=20), check="seat-line")
    assert max(still["width"], still["height"]) == 1600


def _bomb() -> bytes:
    """A PNG that says it is 30,000 × 30,000 and is a few bytes long."""

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", 30000, 30000, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\x00" * 100))
        + chunk(b"IEND", b"")
    )


def test_non_picture_is_refused_and_not_stored(send, picture):
    complete = picture(640, 480, "JPEG")
    svg = b"<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>"
    for data in (
        b"",
        b"hello",
        svg,
        complete[: len(complete) // 3],
        picture(20, 20),
        picture(640, 480, "BMP"),
        _bomb(),
    ):
        assert send(data, check="seat-line", status=422)["errors"][0]["field"] == "file"
    assert not Still.objects.exists()


@pytest.mark.parametrize(("check", "view", "field"), [("no-such", "face-on", "check"), ("", "above", "view")])
def test_unknown_checks_and_views_are_refused(send, picture, check, view, field):
    assert send(picture(), check, view, 422)["errors"][0]["field"] == field


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"points": {"seat": [9999, 1]}}, "points.seat"),
        ({"points": {"tail": [1, 1]}}, "points.tail"),
        ({"points": {"seat": [1]}}, "points.seat"),
        ({"scale": {**SCALE, "length_cm": 0}}, "scale.length_cm"),
        ({"scale": {**SCALE, "b": [51, 51]}}, "scale.b"),
    ],
)
def test_bad_clicks_are_refused_and_good_ones_stay(send, api, picture, change, field):
    still = send(picture(), check="seat-line")
    path = f"/v1/stills/{still['id']}"
    api("patch", path, {"points": {"seat": [10, 10]}, "scale": SCALE})
    assert api("patch", path, change, 422)["errors"][0]["field"] == field
    stored = api("get", path)
    assert stored["points"] == {"seat": [10, 10]}
    assert stored["scale"]["length_cm"] == 100


def test_discarded_still_is_restored(send, api, picture, lesson):
    still = send(picture(), check="seat-line")
    api("patch", f"/v1/stills/{still['id']}", {"dropped": True})
    assert api("get", f"/v1/lessons/{lesson.pk}/stills")["stills"] == []
    api("patch", f"/v1/stills/{still['id']}", {"dropped": False})
    result = api("get", f"/v1/lessons/{lesson.pk}/stills")
    assert [s["id"] for s in result["stills"]] == [still["id"]]
    assert {g["check"] for g in result["guides"]} >= {"seat-line", "hands-impact"}


def test_stills_per_lesson_are_limited(send, picture, monkeypatch):
    monkeypatch.setattr("instavis.assessment.stills.services.MAX_IN_A_LESSON", 1)
    send(picture(), check="seat-line")
    assert send(picture(), check="seat-line", status=409)["errors"][0]["field"] == "stills"


@pytest.mark.parametrize("how", [{}, {"progressive": True}, {"restart_marker_blocks": 4}], ids=str)
def test_stripping_metadata_keeps_the_picture_bit_for_bit(picture, how):
    complete = picture(640, 480, "JPEG", exif=_exif(), **how)
    dirty = _with_comment(complete, b"secret") + b"appended"
    clean = bare(dirty)
    assert b"secret" not in clean
    assert b"Bayside" not in clean
    assert clean.endswith(b"\xff\xd9")
    assert bare(clean) == clean
    with Image.open(io.BytesIO(complete)) as before, Image.open(io.BytesIO(clean)) as after:
        assert before.tobytes() == after.tobytes()


def test_truncated_picture_is_refused_or_complete(picture):
    complete = picture(240, 200, "JPEG")
    for cut in range(0, len(complete) - 2, 7):
        with pytest.raises(InputError):
            bare(complete[:cut])
