"""The kit over the API: one account's own, all or nothing, and the stateless questions a guest's is kept with."""

from __future__ import annotations

import json
from typing import Any
from uuid import uuid4

import jsonschema_rs
import pytest
from django.contrib.auth.models import User
from django.test import Client

from jackstaff.documents.kit import KIT
from jackstaff.records.models import KitItem
from jackstaff_core.gear.starter import STARTER_KIT

pytestmark = pytest.mark.django_db


@pytest.fixture
def edda() -> Client:
    client = Client()
    client.force_login(User.objects.create_user("edda"))
    return client


def send(client: Client, method: str, path: str, body: object = None) -> tuple[int, Any]:
    response = client.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json")
    return response.status_code, json.loads(response.content) if response.content else None


def glass(name: str = "Slot ND 10", **more: object) -> dict[str, object]:
    return {"id": str(uuid4()), "sort": "glass", "name": name, "facts": {"stops": 10.0, "mount": "plate"}, **more}


def test_items_are_kept_once_in_their_order_and_forgotten(edda: Client) -> None:
    first, second = glass("One"), glass("Two")
    assert send(edda, "PUT", "kit/items", {"items": [first, second]})[0] == 200
    assert send(edda, "PUT", "kit/items", {"items": [first]})[0] == 200
    assert [item["name"] for item in send(edda, "GET", "kit")[1]["items"]] == ["One", "Two"]
    put = send(edda, "PUT", "kit/order", {"ids": [second["id"]]})[1]
    assert [item["name"] for item in put["items"]] == ["Two", "One"]
    kept = put["items"][0]
    assert kept["strength"] == {
        "kind": "solid",
        "stops": 10,
        "offset": None,
        "offset_sd": 0.17,
        "low": 10,
        "high": 10,
        "turned_sd": 0,
    }
    assert send(edda, "DELETE", f"kit/items/{first['id']}")[0] == 204
    assert send(edda, "DELETE", f"kit/items/{first['id']}")[0] == 404
    assert send(edda, "PUT", "kit/items", {"items": [{**second, "retired": True}]})[1]["items"][0]["retired"] is True


def test_named_things_stand_first_and_the_rest_follows_as_it_stood(edda: Client) -> None:
    things = [glass(f"Filters {number}") for number in range(7)]
    send(edda, "PUT", "kit/items", {"items": things})
    for first in ([4, 2], [6], [0, 1, 2, 3, 4, 5, 6], [5, 3, 1]):
        before = [item["name"] for item in send(edda, "GET", "kit")[1]["items"]]
        named = [str(things[number]["name"]) for number in first]
        put = send(edda, "PUT", "kit/order", {"ids": [things[number]["id"] for number in first]})[1]
        after = [item["name"] for item in put["items"]]
        assert after == [*named, *(name for name in before if name not in named)]
    # What is new comes last, in its own order.
    new = send(edda, "PUT", "kit/items", {"items": [glass("A lent one"), glass("A found one")]})[1]["items"]
    assert [item["name"] for item in new] == [*after, "A lent one", "A found one"]


def test_a_wrong_item_keeps_none_of_its_batch(edda: Client) -> None:
    bad = {**glass(), "facts": {"stops": -1}}
    status, answer = send(edda, "PUT", "kit/items", {"items": [glass(), bad]})
    assert status == 422
    assert [fault["field"] for fault in answer["errors"]] == ["items.1.facts.stops"]
    assert KitItem.objects.count() == 0


def test_a_kit_belongs_to_its_account() -> None:
    assert [send(Client(), "GET", "kit")[0], send(Client(), "PUT", "kit/items", {"items": []})[0]] == [401, 401]
    first, second = User.objects.create_user("a"), User.objects.create_user("b")
    for account in (first, second, first):
        KIT.start(account)
    assert KitItem.objects.count() == 2 * len(STARTER_KIT)
    # The same things have the same keys in both, and each account changes its own.
    clients = [Client(), Client()]
    for client, account in zip(clients, (first, second), strict=True):
        client.force_login(account)
    kits = [send(client, "GET", "kit")[1]["items"] for client in clients]
    assert [item["id"] for item in kits[0]] == [item["id"] for item in kits[1]]
    mine = {key: kits[0][6][key] for key in ("id", "sort", "name", "note", "retired", "facts")}
    assert send(clients[0], "PUT", "kit/items", {"items": [{**mine, "name": "Renamed"}]})[0] == 200
    assert send(clients[1], "GET", "kit")[1]["items"] == kits[1]


def test_a_file_goes_out_and_comes_back_with_its_changes_told(edda: Client) -> None:
    held = send(edda, "GET", "starter")[1]["kit"]["items"]
    items = [{key: item[key] for key in ("id", "sort", "name", "note", "retired", "facts")} for item in held]
    response = edda.post("/api/kit/file", json.dumps({"items": items}), content_type="application/json")
    assert response["Content-Disposition"].startswith("attachment")
    text = response.content.decode()
    schema = send(edda, "GET", "kit/schema")[1]
    assert jsonschema_rs.is_valid(schema, json.loads(text))
    items[0]["name"] = "Renamed since"
    status, answer = send(edda, "POST", "kit/read", {"items": items, "text": text})
    assert status == 200
    assert [each["change"] for each in answer["changes"]].count("changed") == 1
    assert answer["changes"][0]["facts"] == ["name"]
    assert answer["kit"]["items"] == held
    broken = text.replace('"stops": 9.0', '"stops": 99')
    status, answer = send(edda, "POST", "kit/read", {"items": items, "text": broken})
    assert status == 422
    assert answer["errors"][0]["problem"].startswith("Line ")
    assert not jsonschema_rs.is_valid(schema, json.loads(broken))


def test_the_kit_s_questions_keep_nothing_and_say_what_each_fact_is_for(django_assert_num_queries: Any) -> None:
    with django_assert_num_queries(0):
        sorts = send(Client(), "GET", "kit/facts")[1]
        checked = send(Client(), "POST", "kit/check", {"items": [glass()]})
    assert all(fact["label"] and fact["used_by"] for sort in sorts for fact in sort["facts"])
    assert checked[1]["items"][0]["facts"]["tolerance"] == 0.33
    assert send(Client(), "POST", "kit/check", {"items": [{"id": "x"}, 3]})[0] == 422


RIG = {
    "glass": [{"name": "Slot ND 9", "facts": {"stops": 9, "mount": "plate"}, "stops": 9}],
    "body": {"eyepiece": "optical"},
    "lens": {"thread_mm": 77},
}


@pytest.mark.parametrize(
    ("path", "question", "field", "value"),
    [
        ("rig", RIG, "findings", None),
        ("usable", {"glass": [{"kind": "variable", "stops": 2, "stops_max": 8}, {"stops": 3}], "focal_mm": 24.0},
         "ends", None),
        ("reach", {"reading": {"shutter": "1/60", "aperture": "8", "iso": "100"}, "slots": 1,
                   "glass": [{"id": "six", "kind": "solid", "stops": 6.0}]}, "longest_bare_seconds", 1 / 32),
        ("graduated", {"sky": "1/500", "ground": "1/60"}, "wanted_stops", 2.0),
        ("trade", {"seconds": 1.0, "f_number": 8.0, "focal_mm": 24.0, "widest": 2.8, "smallest": 22.0,
                   "pitch_um": 4.35},
         "third_in_m", None),
        ("flash", {"reading": {"shutter": "1/250", "aperture": "8", "iso": "100"}, "wide": "2",
                   "sync_seconds": 1 / 256},
         "stops", 4.0),
        ("video", {"setting_stops": 3.0, "change_stops": 1.0, "weak_end": 2.0, "usable_end": 5.0}, "turn_to", 4.0),
        ("trial", {"trial_seconds": 32.0, "error_stops": -1.0, "sum_seconds": 32.0}, "seconds", 64.0),
        ("measured", {"without": "1/60", "with_it": "1/4"}, "stops", 4.0),
        ("exposure", {"reading": {"shutter": "1/60", "aperture": "8", "iso": "100"}, "stack": [{"stops": 10}],
                      "film": {"law": "power", "p": 1.3}}, "seconds", 16**1.3),
    ],
)  # fmt: skip
def test_questions_of_the_rig_and_the_extras(
    path: str, question: dict[str, Any], field: str, value: float | None
) -> None:
    status, answer = send(Client(), "POST", path, question)
    assert status == 200, answer
    assert field in answer
    if value is not None:
        assert answer[field] == pytest.approx(value)
    assert send(Client(), "POST", path, {**question, "nonsense": 1})[0] == 422


def test_facts_of_a_rig_are_refused_with_their_place() -> None:
    wrong = {**RIG, "glass": [{"name": "x", "facts": {"stops": "dark"}, "stops": 9}]}
    assert send(Client(), "POST", "rig", wrong)[1]["errors"][0]["field"] == "glass.0.facts.stops"
