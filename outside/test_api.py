"""Descriptions as independent validators read them, and what the server really answers held against them."""

import copy
import json
import re
import socket
import subprocess
import time
import urllib.error
import urllib.request

import pytest
from jsonschema import Draft202012Validator
from openapi_spec_validator import OpenAPIV31SpecValidator
from referencing import Registry, Resource
from referencing.jsonschema import DRAFT202012

from steelk import BINARY, DEMO, ROOT, run

OPENAPI = json.loads((ROOT / "docs/openapi.json").read_text())
SCHEMA = json.loads((ROOT / "docs/job.schema.json").read_text())
JOB = json.loads(DEMO.read_text())


def test_the_description_is_valid():
    assert [f"{list(e.absolute_path)[:5]}: {e.message}"[:200] for e in OpenAPIV31SpecValidator(OPENAPI).iter_errors()] == []
    for path, methods in OPENAPI["paths"].items():
        for method, operation in methods.items():
            for status, response in operation["responses"].items():
                kinds = set(response.get("content", {}))
                assert status < "400" or kinds <= {"application/problem+json"}, (path, method, status)
                assert response["description"]
            assert {"400", "500", "503"} <= set(operation["responses"]), (path, method)


def objects(value, at=()):
    if isinstance(value, dict):
        yield at
        for key, inner in value.items():
            yield from objects(inner, (*at, key))
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from objects(inner, (*at, i))


def jobs(folder):
    """The demo, and a job that came from a drawing."""
    import ezdxf

    doc = ezdxf.new(units=1)
    doc.modelspace().add_lwpolyline([(0, 0), (8, 0, 0, 0, 0.5), (8, 5), (0, 5)], close=True)
    doc.modelspace().add_circle((2, 2), 0.5)
    doc.saveas(folder / "a.dxf")
    run("import", folder / "a.dxf", "-o", folder / "a.json")
    return [JOB, json.loads((folder / "a.json").read_text())]


def test_jobs_validate_and_no_unknown_field_does(tmp_path):
    Draft202012Validator.check_schema(SCHEMA)
    valid = Draft202012Validator(SCHEMA)
    tried = 0
    for job in jobs(tmp_path):
        assert [e.message[:200] for e in valid.iter_errors(job)] == []
        # One object of each shape: the same keys at the same kind of place are not tried twice.
        seen = set()
        for at in objects(job):
            value = job
            for key in at:
                value = value[key]
            shape = (tuple("#" if isinstance(k, int) else k for k in at), tuple(sorted(value)), value.get("verb"), value.get("kind"))
            if shape in seen or (at and at[-1] in ("issued",)):
                continue
            seen.add(shape)
            changed = copy.deepcopy(job)
            inner = changed
            for key in at:
                inner = inner[key]
            inner["unheard_of"] = 1
            assert not valid.is_valid(changed), (at, value)
            file = tmp_path / "changed.json"
            file.write_text(json.dumps(changed))
            assert "unheard_of" in run("check", file, codes=(2,)).stderr.decode(), at
            tried += 1
    assert tried > 60, tried


@pytest.fixture(scope="module")
def server(tmp_path_factory):
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    data = tmp_path_factory.mktemp("data") / "s.db"
    process = subprocess.Popen([BINARY, "demo", "--port", str(port), "--data", str(data)], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    base = f"http://127.0.0.1:{port}"
    for _ in range(200):
        try:
            urllib.request.urlopen(f"{base}/api/health").read()
            break
        except OSError:
            time.sleep(0.05)
    yield base
    process.terminate()
    process.wait(10)


REGISTRY = Registry().with_resource("urn:api", Resource(contents=OPENAPI, specification=DRAFT202012))


def ask(base, method, path, body=None, raw=None, template=None, headers=None):
    """Sends it, and holds status, kind of content and body against the description."""
    data = raw if raw is not None else None if body is None else json.dumps(body).encode()
    kind = "application/json" if raw is None else "application/octet-stream"
    request = urllib.request.Request(base + path, data, {"content-type": kind, **(headers or {})}, method=method)
    try:
        with urllib.request.urlopen(request) as r:
            status, kind, answer = r.status, r.headers["content-type"], r.read()
    except urllib.error.HTTPError as e:
        status, kind, answer = e.code, e.headers["content-type"], e.read()
    known = OPENAPI["paths"][template or path.split("?")[0]][method.lower()]["responses"]
    assert str(status) in known, (path, status, answer[:300])
    content = known[str(status)].get("content", {})
    if not content:
        return status, answer
    kind = kind.split(";")[0]
    described = content.get(kind) or content.get("*/*") or next((v for k, v in content.items() if re.fullmatch(k.replace("*", ".*"), kind)), None)
    assert described is not None, (path, status, kind, list(content))
    if not kind.endswith("json") or "schema" not in described:
        return status, answer
    told = json.loads(answer)
    where = f"urn:api#/paths/{(template or path.split('?')[0]).replace('/', '~1')}/{method.lower()}/responses/{status}/content/{kind.replace('/', '~1')}/schema"
    errors = list(Draft202012Validator({"$ref": where}, registry=REGISTRY).iter_errors(told))
    assert errors == [], (path, [f"{list(e.absolute_path)}: {e.message}"[:300] for e in errors[:3]])
    return status, told


def test_what_the_server_answers_is_described(server):
    ask(server, "GET", "/api/health")
    ask(server, "GET", "/api/book")
    ask(server, "GET", "/api/sections?q=IPE")
    _, rack = ask(server, "GET", "/api/jobs")
    for piece in JOB["pieces"]:
        for geometry in (True, False):
            status, _ = ask(server, "POST", "/api/evaluate", {"job": JOB, "piece": piece["id"], "geometry": geometry})
            assert status == 200
    for frame in JOB["frames"]:
        assert ask(server, "POST", "/api/evaluate", {"job": JOB, "frame": frame["id"]})[0] == 200
    assert ask(server, "POST", "/api/evaluate", {"job": 1})[0] in (400, 422)
    assert ask(server, "POST", "/api/evaluate", raw=b"{")[0] in (400, 422)
    made = ask(server, "POST", "/api/jobs", JOB)[1]
    one = f"/api/jobs/{made['id']}"
    assert ask(server, "GET", one, template="/api/jobs/{id}")[0] == 200
    assert ask(server, "GET", "/api/jobs/not-there", template="/api/jobs/{id}")[0] == 404
    assert ask(server, "PUT", one, {"job": JOB}, template="/api/jobs/{id}", headers={"if-match": '"999"'})[0] in (409, 412)
    assert ask(server, "PUT", one, {"job": {"format": 1}}, template="/api/jobs/{id}", headers={"if-match": '"1"'})[0] in (400, 422)
    assert ask(server, "PUT", one, {"job": JOB}, template="/api/jobs/{id}", headers={"if-match": '"1"'})[0] == 200
    assert ask(server, "GET", f"{one}/revisions/1", template="/api/jobs/{id}/revisions/{revision}")[0] == 200
    assert ask(server, "GET", f"{one}/revisions/77", template="/api/jobs/{id}/revisions/{revision}")[0] == 404
    assert ask(server, "GET", f"{one}/head", template="/api/jobs/{id}/head")[0] == 200
    assert ask(server, "POST", f"{one}/copy", {}, template="/api/jobs/{id}/copy")[0] in (200, 201)
    for does in ("archive", "restore"):
        assert ask(server, "POST", f"{one}/{does}", {}, template=f"/api/jobs/{{id}}/{does}")[0] in (200, 204)
    assert ask(server, "POST", "/api/canonical", {"job": JOB})[0] in (200, 400, 422)
    assert ask(server, "POST", "/api/lines", {"bench": "piece", "text": "hole 9", "lines": []})[0] in (200, 400, 422)
    assert ask(server, "POST", "/api/skeleton", raw=b"node,A,0,0,0\n")[0] in (200, 422)
    assert ask(server, "GET", f"{one}/revisions", template="/api/jobs/{id}/revisions")[0] == 200
    for kind in ("dxf", "stl", "cutlist", "no-such"):
        ask(server, "GET", f"{one}/papers/{kind}?piece=P-101", template="/api/jobs/{id}/papers/{kind}")
    assert ask(server, "POST", "/api/files", raw=b"no drawing")[0] == 422
    assert ask(server, "POST", "/api/drawings", {"file": "0" * 64})[0] == 404
    assert rack["jobs"]
