"""Bringing scenes in and ordering renders, as the page does."""

from webclient import run_jobs

SMALL = {
    "rate": "24000/1001",
    "first": 1,
    "last": 6,
    "width": 64,
    "height": 36,
    "samples": 1,
    "indirect": False,
}


def put(web, scene, name, data):
    token = web.client.cookies["csrftoken"].value
    return web.client.generic(
        "PUT", f"/api/scenes/{scene}/files", data, content_type="application/octet-stream",
        headers={"X-CSRFToken": token}, query_params={"name": name},
    )  # fmt: skip


def bring(web, project, files):
    scene = web("POST", f"projects/{project}/scenes").json()["id"]
    for name, data in files.items():
        answer = put(web, scene, name, data)
        assert answer.status_code == 200, answer.content
    assert web("POST", f"scenes/{scene}/finish").status_code == 200
    run_jobs()
    return next(s for s in web("GET", f"projects/{project}/scenes").json() if s["id"] == scene)


def order(web, scene, name="sign", **more):
    body = {"name": name, "document": {**SMALL, "passes": ["beauty", "depth"], **more}}
    return web("POST", f"scenes/{scene['id']}/renders", body)
