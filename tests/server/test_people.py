"""People, brands, sets, rule sheets of one's own, and signing in with a second factor."""

import re

import pytest
from django.core import mail
from django.test import Client
from django.utils import timezone

from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Invitation, Membership, User
from menudo.profiles.models import Profile
from tests.core.test_profiles import SHEET
from tests.server.conftest import read_whole

JSON = "application/json"
PASSWORD = "quite-another-phrase"


@pytest.fixture(autouse=True)
def mailbox(settings):
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"


def invite(
    world, email: str = "new@example.org", role: str = "author", capabilities: tuple[str, ...] = ("write",)
) -> str:
    world.api()("POST", "invitations", {"email": email, "role": role, "capabilities": list(capabilities)}, status=201)
    return re.search(r"/invitation/(\S+)", mail.outbox[-1].body).group(1)


def test_an_invited_person_sets_a_password_and_is_in_with_what_was_allowed(world):
    token = invite(world, capabilities=("write", "answer"))
    assert mail.outbox[-1].to == ["new@example.org"] and token not in str(Invitation.objects.values())
    client = Client()
    page = client.get(f"/api/invitations/{token}").json()
    assert (page["brand"], page["role"], page["has_account"]) == ("Fernhollow", "author", False)
    short = client.post(f"/api/invitations/{token}/accept", {"name": "", "password": "short"}, JSON).json()
    assert {e["pointer"] for e in short["errors"]} == {"/name", "/password"}
    joined = client.post(f"/api/invitations/{token}/accept", {"name": "Nuria", "password": PASSWORD}, JSON)
    assert joined.json() == {"slug": "garden"}
    me = client.get("/api/me").json()
    assert (me["name"], me["brands"][0]["capabilities"]) == ("Nuria", ["answer", "see", "write"])
    assert client.post(f"/api/invitations/{token}/accept", {}, JSON).status_code == 404, "it serves once"


def test_an_address_with_an_account_must_sign_in_first(world):
    token = invite(world, "bruno@example.org")
    taken = Client().post(f"/api/invitations/{token}/accept", {"name": "Mallory", "password": PASSWORD}, JSON)
    assert taken.status_code == 409
    assert world.api("bruno").client.post(f"/api/invitations/{token}/accept", {}, JSON).status_code == 200
    assert Membership.objects.filter(brand=world.garden, user__email="bruno@example.org").exists()


def test_who_is_signed_in_with_another_address_joins_only_if_they_say_so(world):
    token, bruno = invite(world), world.api("bruno").client
    shown = [one.get(f"/api/invitations/{token}").json()["other_account"] for one in (bruno, Client())]
    assert shown == ["bruno@example.org", ""]
    refused = bruno.post(f"/api/invitations/{token}/accept", {}, JSON)
    assert (refused.status_code, "new@example.org was invited" in refused.json()["detail"]) == (409, True)
    assert not Membership.objects.filter(brand=world.garden, user__email="bruno@example.org").exists()
    assert bruno.post(f"/api/invitations/{token}/accept", {"email": "ines@example.org"}, JSON).status_code == 409
    assert bruno.post(f"/api/invitations/{token}/accept", {"email": "Bruno@example.org"}, JSON).status_code == 200
    said = [event["summary"] for event in world.api()("GET", "history")["events"]]
    assert said[0] == "joined Fernhollow as author with bruno@example.org, by an invitation to another address"


def test_another_site_has_nobody_join(world):
    """Without the write token that only a page of ours has (OWASP ASVS 5.0, 3.5.1); a client's links are guarded the same way."""
    token, ines = invite(world, "bruno@example.org"), Client(enforce_csrf_checks=True)
    ines.force_login(
        User.objects.get(email="bruno@example.org"), backend="allauth.account.auth_backends.AuthenticationBackend"
    )
    assert ines.post(f"/api/invitations/{token}/accept", {}, JSON).status_code == 403
    assert ines.post(f"/api/sign/{token}/approve", {"posts": []}, JSON).status_code == 403
    assert ines.get(f"/api/invitations/{token}").status_code == 200


def test_who_was_invited_is_told_to_those_who_manage_people_alone(world):
    invite(world, "new@example.org")
    for who, knows in (("ines", True), ("lucia", False)):
        client = world.api(who).client
        assert (b"new@example.org" in client.get("/api/brands/garden/history").content) is knows
        assert (b"new@example.org" in read_whole(client.get("/api/brands/garden/history.csv"))) is knows


def test_invitations_end_are_replaced_and_are_taken_back(world):
    first = invite(world)
    second = invite(world)
    assert Client().get(f"/api/invitations/{first}").status_code == 404
    invitation_id = world.api()("GET", "people")["invitations"][0]["id"]
    world.api()("DELETE", f"invitations/{invitation_id}", status=204)
    assert Client().get(f"/api/invitations/{second}").status_code == 404
    third = invite(world)
    Invitation.objects.update(expires_at=timezone.now())
    assert Client().get(f"/api/invitations/{third}").status_code == 404


@pytest.mark.parametrize(
    ("body", "pointer"),
    [
        ({"email": "nobody", "role": "author", "capabilities": []}, "/email"),
        ({"email": "a@example.org", "role": "king", "capabilities": []}, "/role"),
        ({"email": "a@example.org", "role": "author", "capabilities": ["fly"]}, "/capabilities"),
    ],
)
def test_a_faulty_invitation_is_told_at_its_field_and_nothing_is_mailed(world, body, pointer):
    assert world.api()("POST", "invitations", body, status=422)["errors"][0]["pointer"] == pointer
    assert mail.outbox == []


def test_nobody_gives_what_they_may_not_do_themselves(world):
    ines = Membership.objects.get(brand=world.garden, user__email="ines@example.org")
    ines.capabilities = ["see", "manage_people"]
    ines.save()
    world.api()(
        "POST", "invitations", {"email": "a@example.org", "role": "author", "capabilities": ["delete"]}, status=403
    )


def test_capabilities_are_set_for_each_person_and_hold_at_once(world):
    teo = User.objects.get(email="teo@example.org").pk
    world.api()("PUT", f"people/{teo}", {"role": "author", "capabilities": ["publish"]}, status=200)
    world.api("teo")("POST", "posts", {"master": {"text": "x"}}, status=403)
    world.api("teo")("POST", "pauses", {}, status=201)


def test_the_last_one_who_manages_people_stays_and_anyone_may_leave(world):
    ines, teo = (User.objects.get(email=f"{name}@example.org").pk for name in ("ines", "teo"))
    world.api()("PUT", f"people/{ines}", {"role": "author", "capabilities": ["write"]}, status=409)
    world.api()("DELETE", f"people/{ines}", status=409)
    world.api("teo")("DELETE", f"people/{teo}", status=204)
    world.api("teo")("GET", "strip", status=404)


def manager(world, who: str, *more: str) -> int:
    """Somebody who manages people, and may do nothing else but see, write and `more`."""
    may = sorted({"see", "write", "manage_people", *more})
    row = Membership.objects.get(brand=world.garden, user__email=f"{who}@example.org")
    row.capabilities = may
    row.save()
    return row.user_id


def test_who_manages_people_gives_and_takes_only_what_they_may_themselves(world):
    teo, maud = manager(world, "teo"), User.objects.get(email="maud@example.org").pk
    ines = User.objects.get(email="ines@example.org").pk
    api = world.api("teo")
    everything = sorted(ROLES["coordinator"])
    for whom in (teo, maud, ines):
        refused = api("PUT", f"people/{whom}", {"role": "coordinator", "capabilities": everything}, status=403)
        assert "yourself" in refused["detail"] or "more here than you" in refused["detail"]
    api("POST", "invitations", {"email": "me2@example.org", "role": "author", "capabilities": ["publish"]}, status=403)
    # Nobody is changed, or taken out, by those who may less.
    api("PUT", f"people/{ines}", {"role": "viewer", "capabilities": []}, status=403)
    api("DELETE", f"people/{ines}", status=403)
    assert set(Membership.objects.get(user=ines).capabilities) == set(everything)
    assert Membership.objects.get(user=teo).capabilities == ["manage_people", "see", "write"]
    # Who may no more than they is theirs to change, by what they have.
    lucia = User.objects.get(email="lucia@example.org").pk
    Membership.objects.filter(user=lucia).update(capabilities=["see"])
    api("PUT", f"people/{lucia}", {"role": "author", "capabilities": ["write"]}, status=200)
    page = api("GET", "people", status=200)
    assert {m["name"]: m["changes"] for m in page["members"]} == {
        "Ines": False,
        "Lucia": True,
        "Maud": False,
        "Teo": True,
    }
    assert page["gives"] == ["manage_people", "see", "write"]
    roles = {r["role"]: r["capabilities"] for r in page["roles"]}
    assert roles["coordinator"] == ["manage_people", "see", "write"] and roles["viewer"] == ["see"]


def test_an_invitation_to_more_than_one_may_is_not_ones_to_replace_or_take_back(world):
    invite(world, "new@example.org", "author", ("write", "publish"))
    manager(world, "teo")
    row = Invitation.objects.get()
    world.api("teo")("DELETE", f"invitations/{row.pk}", status=403)
    body = {"email": "new@example.org", "role": "author", "capabilities": ["write"]}
    world.api("teo")("POST", "invitations", body, status=403)
    assert Invitation.objects.get().capabilities == ["publish", "see", "write"]


def test_what_somebody_invited_to_ends_with_their_own_right_to_it(world):
    teo = manager(world, "teo", "publish")
    for name, may in (("a", ["write"]), ("b", ["publish"])):
        body = {"email": f"{name}@example.org", "role": "author", "capabilities": may}
        world.api("teo")("POST", "invitations", body, status=201)
    token = re.search(r"/invitation/(\S+)", mail.outbox[-1].body).group(1)
    less = {"role": "author", "capabilities": ["write", "manage_people"]}
    world.api()("PUT", f"people/{teo}", less, status=200)
    assert list(Invitation.objects.values_list("email", flat=True)) == ["a@example.org"]
    assert Client().get(f"/api/invitations/{token}").status_code == 404
    world.api()("DELETE", f"people/{teo}", status=204)
    assert not Invitation.objects.exists()


def test_two_who_take_the_right_from_each_other_at_once_dont_both_lose_it(world):
    from tests.server.test_two_at_once import at_once

    ines, maud = User.objects.get(email="ines@example.org").pk, manager(world, "maud", *ROLES["coordinator"])
    clients = {ines: world.api("maud").client, maud: world.api("ines").client}

    def take(whom: int) -> int:
        return clients[whom].delete(f"/api/brands/garden/people/{whom}").status_code

    # Whoever comes second isn't there any more: not found, or no longer allowed.
    assert sorted(at_once([lambda: take(ines), lambda: take(maud)], ahead=0))[0] == 204
    assert Membership.objects.filter(brand=world.garden, capabilities__contains=["manage_people"]).count() == 1


def test_a_new_brand_belongs_to_its_maker_alone(world):
    client = world.api().client
    bad = client.post("/api/brands", {"name": " ", "zone": "Valley/Mora"}, JSON).json()
    assert {e["pointer"] for e in bad["errors"]} == {"/name", "/zone"}
    made = [client.post("/api/brands", {"name": "Café Ñandú", "zone": "UTC"}, JSON).json()["slug"] for _ in range(2)]
    assert made == ["cafe-nandu", "cafe-nandu-2"]
    assert client.post("/api/brands", {"name": "All", "zone": "UTC"}, JSON).json()["slug"] == "all-2", (
        "not an address of ours"
    )
    assert world.api("maud").client.get("/api/brands/cafe-nandu/profiles").status_code == 404
    assert world.api("teo").client.post("/api/brands", {"name": "Mine", "zone": "UTC"}, JSON).status_code == 403


def test_a_brands_zone_is_changed_and_what_is_planned_keeps_its_instant(world):
    from tests.server.test_standing import planned

    delivery = planned(world)
    due_at = delivery.due_at
    body = {"name": "Fernhollow", "zone": "Asia/Kathmandu", "ink": "anil"}
    assert world.api().client.patch("/api/brands/garden", body, JSON).status_code == 204
    delivery.refresh_from_db()
    assert (Brand.objects.get(slug="garden").zone, delivery.due_at) == ("Asia/Kathmandu", due_at)


def test_the_calendar_across_brands_shows_ones_own_only_and_each_in_its_zone(world, django_assert_num_queries):
    from menudo.calendar.all_brands import all_brand_lanes
    from tests.server.test_standing import planned

    planned(world, 3)
    Membership.objects.create(
        brand=world.bakery, user=User.objects.get(email="ines@example.org"), role="viewer", capabilities=["see"]
    )
    Brand.objects.filter(slug="bakery").update(zone="Pacific/Auckland")
    now, ines = timezone.now(), User.objects.get(email="ines@example.org")
    with django_assert_num_queries(7):
        seen = all_brand_lanes(ines, now.date(), 14, now)
    assert {b["slug"]: (b["zone"], len(b["tickets"])) for b in seen["brands"]} == {
        "garden": ("Europe/Madrid", 1),
        "bakery": ("Pacific/Auckland", 0),
    }
    theirs = world.api("bruno").client.get("/api/calendar").json()
    assert [b["slug"] for b in theirs["brands"]] == ["bakery"]


# Sets.
def test_a_set_is_made_renamed_filtered_by_and_deleted_and_never_changes_what_is_planned(world):
    from tests.server.test_standing import planned

    api = world.api()
    delivery = planned(world)
    other = Profile.objects.create(
        brand=world.garden, network="brisk", remote_id="x", handle="@x", name="x", kind="account"
    )
    made = api("POST", "sets", {"name": "Winter", "profiles": [world.profile.pk]}, status=201)
    assert (
        api("POST", "sets", {"name": "winter", "profiles": [other.pk]}, status=422)["errors"][0]["code"]
        == "set.name_taken"
    )
    assert [lane["profile"] for lane in api("GET", f"calendar?sets={made['id']}")["lanes"]] == [world.profile.pk]
    api("PUT", f"sets/{made['id']}", {"name": "Winter season", "profiles": [other.pk]}, status=200)
    seen = api("GET", f"calendar?sets={made['id']}")
    assert [lane["profile"] for lane in seen["lanes"]] == [other.pk] and seen["tickets"] == []
    delivery.refresh_from_db()
    assert (delivery.state, delivery.profile_id) == ("planned", world.profile.pk)
    api("DELETE", f"sets/{made['id']}", status=204)
    api("GET", f"calendar?sets={made['id']}", status=404)


@pytest.mark.parametrize(
    ("body", "pointers"),
    [
        ({"name": "", "profiles": []}, {"/name", "/profiles"}),
        ({"name": "A\x00", "profiles": [0]}, {"/name", "/profiles/0"}),
    ],
)
def test_a_faulty_set_is_told_at_its_fields(world, body, pointers):
    assert {e["pointer"] for e in world.api()("POST", "sets", body, status=422)["errors"]} == pointers


def test_another_brands_profile_is_in_no_set(world):
    problem = world.api()("POST", "sets", {"name": "A", "profiles": [world.profile.pk, world.foreign.pk]}, status=422)
    assert problem["errors"][0]["pointer"] == "/profiles/1"


# Rule sheets of one's own.
def test_a_sheet_with_a_fault_is_told_by_line_and_put_right_can_be_planned_for_by_hand(world):
    api = world.api()
    problem = api("POST", "sheets", {"toml": SHEET.replace("limit = 120", "limt = 120")}, status=422)
    assert [e["pointer"] for e in problem["errors"]] == ["/toml/line/6", "/toml/line/8"]
    sheet = api("POST", "sheets", {"toml": SHEET}, status=201)
    assert (sheet["network"], sheet["is_custom"], sheet["connects"]) == ("own-corkboard", True, False)
    profile = api("POST", "profiles/by-hand", {"name": "Cork", "network": "own-corkboard", "kind": "board"}, status=201)
    post = api("POST", "posts", {"master": {"text": "x" * 121}, "profiles": [profile]}, status=201)
    (column,) = api(
        "POST", "check", {"master": {"text": "x" * 121}, "columns": [{"network": "own-corkboard"}]}, status=200
    )
    assert "Town cork board takes 120 characters" in column["findings"][0]["message"]
    api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 422)
    api("POST", "sheets", {"toml": SHEET.replace("120", "200")}, status=201)
    api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "next_slot"}}, post["revision"], 200)
    assert "own-corkboard" not in {n["network"] for n in world.api("bruno", "bakery")("GET", "networks")}


def test_a_sheet_cant_stand_in_for_a_network_that_ships(world):
    api = world.api()
    api("POST", "sheets", {"toml": SHEET.replace('"corkboard"', '"brisk"')}, status=201)
    assert {n["network"]: n["name"] for n in api("GET", "networks")}["brisk"] == "Brisk"


@pytest.mark.parametrize(
    ("body", "pointer"),
    [
        ({"name": ""}, "/name"),
        ({"name": "A", "network": "nowhere"}, "/network"),
        ({"name": "A", "network": "plaza", "kind": "x"}, "/kind"),
        ({"name": "A", "url": "x"}, "/url"),
    ],
)
def test_a_faulty_profile_by_hand_is_told_at_its_field(world, body, pointer):
    assert world.api()("POST", "profiles/by-hand", body, status=422)["errors"][0]["pointer"] == pointer


def test_a_profiles_zone_must_be_one_and_its_keeper_of_the_brand(world):
    path = f"profiles/{world.profile.pk}"
    assert world.api()("PATCH", path, {"zone": "Mars/Olympus"}, status=422)["errors"][0]["pointer"] == "/zone"
    bruno = User.objects.get(email="bruno@example.org").pk
    assert world.api()("PATCH", path, {"keeper": bruno}, status=422)["errors"][0]["pointer"] == "/keeper"
