"""The stand-in monitor's side of the protocol, against a scripted line."""

from __future__ import annotations

import httpx
import pytest

from instavis_standins.protocol import DeviceLink, TokenRefused


def link(answers, waits):
    """A link whose line gives the answers in turn; an exception means the line is down."""

    def handle(request: httpx.Request) -> httpx.Response:
        answer = answers.pop(0)
        if isinstance(answer, Exception):
            raise answer
        assert request.headers["Authorization"] == "Bearer secret"
        return answer

    client = httpx.Client(transport=httpx.MockTransport(handle))
    return DeviceLink(server="http://server", token="secret", wait=waits.append, client=client)


def test_ball_is_resent_with_growing_pauses_until_confirmed():
    waits: list[float] = []
    down = httpx.ConnectError("down")
    done = httpx.Response(200, json={"stored": 1, "known": 0, "refused": []})
    assert link([down, httpx.Response(503), down, done], waits).send([{}])["stored"] == 1
    assert waits == [0.5, 1.0, 2.0]


def test_a_refused_token_is_not_tried_again():
    waits: list[float] = []
    with pytest.raises(TokenRefused):
        link([httpx.Response(401)], waits).hello()
    assert waits == []


def test_unreadable_batch_is_an_error_without_retry():
    with pytest.raises(httpx.HTTPStatusError):
        link([httpx.Response(422, request=httpx.Request("POST", "http://server"))], []).send([{}])
