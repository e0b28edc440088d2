"""What a technician copies: container file, unit, and a TLS proxy example that is tried unchanged."""

from __future__ import annotations

import asyncio
import json
import os
import shutil
import ssl
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path

import httpx
import pytest
from websockets.asyncio.client import connect

from instavis.project.listening import listen
from launcher.mariadb import free_port
from launcher.processes import stop
from launcher.shape import keep_loader, keep_web
from launcher.supervisor import Supervisor

NGINX = shutil.which("nginx", path=f"{os.environ['PATH']}:/usr/sbin")
PATIENCE_SECONDS = 60


def test_container_file_is_valid(root):
    linter = Path(sys.executable).with_name("hadolint")
    result = subprocess.run([linter, root / "deploy/Containerfile"], capture_output=True, text=True, check=False)
    assert result.returncode == 0, result.stdout + result.stderr


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="this machine has no systemd")
def test_systemd_unit_is_valid(root):
    command = ["systemd-analyze", "verify", "--man=no", root / "deploy/instavis.service"]
    result = subprocess.run(command, capture_output=True, text=True, check=False)
    complaints = [line for line in result.stderr.splitlines() if "instavis.service" in line]
    assert (result.returncode, complaints) == (0, [])


@pytest.fixture(scope="module")
def proxied(product, root, tmp_path_factory):
    """The example's proxy in front of a web process that is told of it: address, certificate, both settled."""
    folder = tmp_path_factory.mktemp("proxy")
    certificate = _certificate(folder)
    behind, secure = free_port(), free_port()
    result = {"INSTAVIS_HOSTS": "127.0.0.1", "INSTAVIS_HTTPS": "1", "INSTAVIS_PROXIES": "127.0.0.1"}
    site = (root / "deploy/nginx.conf").read_text()
    for old, new in (
        ("127.0.0.1:8000", f"127.0.0.1:{behind}"),
        ("listen 80;", f"listen 127.0.0.1:{free_port()};"),
        ("listen 443 ssl http2;", f"listen 127.0.0.1:{secure} ssl http2;"),
        ("server_name coach.example;", "server_name 127.0.0.1;"),
        ("/etc/ssl/instavis/fullchain.pem", str(certificate)),
        ("/etc/ssl/instavis/privkey.pem", str(folder / "key.pem")),
    ):
        assert old in site, old
        site = site.replace(old, new)
    (folder / "site.conf").write_text(site)
    kinds = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    places = "".join(f"{kind}_temp_path {folder}/{kind};" for kind in kinds)
    (folder / "nginx.conf").write_text(
        f"user root; daemon off; pid {folder}/pid; error_log {folder}/log; events {{}}"
        f"http {{ access_log off; {places} include {folder}/site.conf; }}"
    )
    web = Supervisor(print)
    with closing(listen("127.0.0.1", behind)) as listening:
        log = product.folder / "server.log"
        keep_web(web, 1, listening.fileno(), keep_loader(web, product.environment | result, log), log)
        proxy = subprocess.Popen([NGINX, "-e", folder / "log", "-p", folder, "-c", folder / "nginx.conf"])
        try:
            address = f"https://127.0.0.1:{secure}"
            _until_it_answers(address, certificate)
            yield address, certificate
        finally:
            stop(proxy)
            web.stop()


def _certificate(folder: Path) -> Path:
    made = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=127.0.0.1"]
    made += ["-addext", "subjectAltName=IP:127.0.0.1", "-keyout", folder / "key.pem", "-out", folder / "cert.pem"]
    subprocess.run(made, check=True, capture_output=True)
    return folder / "cert.pem"


def _until_it_answers(address: str, certificate: Path) -> None:
    deadline = time.monotonic() + PATIENCE_SECONDS
    while time.monotonic() < deadline:
        try:
            if httpx.get(f"{address}/healthz", verify=_trust(certificate), trust_env=False).status_code == 200:
                return
        except httpx.HTTPError:
            pass
        time.sleep(0.1)
    raise AssertionError("the proxy does not answer")


def _trust(certificate: Path) -> ssl.SSLContext:
    return ssl.create_default_context(cafile=str(certificate))


@pytest.fixture
def visitor(proxied):
    address, certificate = proxied
    with httpx.Client(base_url=address, verify=_trust(certificate), trust_env=False, timeout=60) as client:
        client.headers["Origin"] = address
        client.get("/")
        client.headers["X-CSRFToken"] = client.cookies["__Host-instavis_csrf"]
        yield client


def enter(client: httpx.Client, login: dict, password: str, **headers: str) -> httpx.Response:
    body = {"username": login["username"], "password": password}
    answer = client.post("/api/v1/session", json=body, headers=headers)
    client.headers["X-CSRFToken"] = client.cookies["__Host-instavis_csrf"]
    return answer


def test_proxy_keeps_cookies_secure_and_sockets_open(visitor, proxied, product):
    address, certificate = proxied
    login = product.facts["logins"][0]
    entered = enter(visitor, login, login["password"])
    assert entered.status_code == 200
    cookies = entered.headers.get_list("set-cookie")
    assert all("Secure" in cookie for cookie in cookies)
    assert {c.partition("=")[0] for c in cookies} >= {"__Host-instavis_csrf", "__Host-instavis_session"}
    assert "max-age" in entered.headers["Strict-Transport-Security"]
    lesson = visitor.get("/api/v1/lessons").json()[0]["id"]
    big = b"path_deg\n" + b"1\n" * 1_000_000
    sent = visitor.post(f"/api/v1/lessons/{lesson}/drafts", files={"file": ("big.csv", big)})
    assert sent.status_code in (201, 422), sent.text
    too_big = visitor.post(f"/api/v1/lessons/{lesson}/drafts", files={"file": ("big.csv", big * 6)})
    assert too_big.status_code == 413
    assert "10240 kB" in too_big.json()["errors"][0]["message"]

    cookie = "; ".join(f"{k}={v}" for k, v in visitor.cookies.items())
    url = f"{address.replace('https', 'wss')}/ws/lessons/{lesson}?after=0"
    with ThreadPoolExecutor(1) as beside:  # a browser's own loop runs here
        result = beside.submit(asyncio.run, _first_word(url, address, certificate, cookie)).result()
    assert result["cursor"] >= 1


async def _first_word(url: str, address: str, certificate: Path, cookie: str) -> dict:
    """What a live line says first. Read and written by one thread: two on one TLS connection may wait for ever."""
    headers = {"Cookie": cookie}
    async with connect(
        url,
        ssl=_trust(certificate),
        origin=address,
        additional_headers=headers,
        proxy=None,
        open_timeout=PATIENCE_SECONDS,
    ) as line:
        return json.loads(await asyncio.wait_for(line.recv(), 20))


def test_only_the_proxy_sets_the_client_address(visitor, product):
    login = {"username": f"nobody-{time.monotonic_ns()}"}
    answers = [enter(visitor, login, "wrong", **{"X-Forwarded-For": f"203.0.113.{n}"}).status_code for n in range(7)]
    assert answers == [401] * 6 + [429]


def test_doctor_reports_a_healthy_site(proxied, root, tmp_path):
    address, certificate = proxied
    environment = {
        **os.environ,
        "SSL_CERT_FILE": str(certificate),
        "INSTAVIS_DATA": str(tmp_path / "none"),
        "INSTAVIS_PORT": str(free_port()),
        "INSTAVIS_HTTPS": "1",
    }
    result = subprocess.run(
        [root / "instavis", "doctor", "--site", address], env=environment, capture_output=True, text=True, check=False
    )
    assert result.returncode == 0, result.stdout
    assert "live connections pass the proxy" in result.stdout
    assert "knows that it is behind TLS" in result.stdout
    assert "no proxy is trusted" in result.stdout  # INSTAVIS_PROXIES was left out here
    wrong = subprocess.run(
        [root / "instavis", "doctor", "--site", "http://127.0.0.1:9"],
        env=environment | {"INSTAVIS_REDIS_URL": "redis://127.0.0.1:9/0"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert wrong.returncode == 1
    assert "Redis does not answer" in wrong.stdout
    assert "cannot be reached" in wrong.stdout
