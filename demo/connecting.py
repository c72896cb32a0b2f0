"""Accounts and profiles at the stand-in networks, and their connections as if somebody had agreed at each."""

from collections.abc import Iterable, Mapping
from datetime import timedelta
from typing import Any

from demo.networks import Profile as Wanted
from demo.standin import URL as STANDIN_URL
from demo.standin import post_to_standin
from demo.world import STANDIN_PASSWORD
from menudo.base import clock
from menudo.base.sealing import seal
from menudo.networks.registry import open_adapter
from menudo.networks.sign_in import discover
from menudo.networks.sites import discover_site
from menudo.people.models import Brand
from menudo.profiles.actions.save_profiles import connection_state
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Connection, Profile


def accounts_of(
    profiles: Iterable[Wanted], logins: Mapping[str, str], names: Mapping[str, str]
) -> list[dict[str, Any]]:
    """The accounts that the stand-in is to know, one a network and brand; logins and names are by the brand's slug."""
    accounts: dict[tuple[str, str], dict[str, Any]] = {}
    for p in profiles:
        account = accounts.setdefault(
            (p.network, p.brand),
            {
                "network": p.network,
                "login": logins[p.brand],
                "password": STANDIN_PASSWORD,
                "name": names[p.brand],
                "profiles": [],
            },
        )
        account["profiles"].append(
            {key: getattr(p, key) for key in ("uid", "handle", "name", "kind", "colour", "followers", "facts")}
        )
    return list(accounts.values())


def connect_profiles(brand: Brand, login: str, profiles: Iterable[Wanted]) -> dict[str, str]:
    """A brand's profiles, connected, each with its timetable. Access tokens by network."""
    now, tokens = clock.now(), {}
    wanted = list(profiles)
    for network in dict.fromkeys(p.network for p in wanted):
        mine = [p for p in wanted if p.network == network]
        given = post_to_standin(
            "control/api/grant",
            {"network": network, "login": login, "profiles": [p.uid for p in mine], "days": mine[0].days},
        ).json()
        site = f"{STANDIN_URL}/site/{login}/"
        connection = Connection.objects.create(
            brand=brand,
            network=network,
            account=login,
            access_token=seal(given["access_token"]),
            refresh_token=seal(given["refresh_token"]),
            access_expires_at=now + timedelta(seconds=given["expires_in"]),
            expires_at=now + timedelta(seconds=given["connection_expires_in"]),
            endpoints=discover_site(site) if network == "open-site" else discover(network),
            address=site if network == "open-site" else "",
        )
        destinations = open_adapter(connection.endpoints, given["access_token"]).destinations()
        connection.save(update_fields=["endpoints"])
        for one in destinations:
            profile = Profile.objects.create(
                brand=brand,
                network=network,
                connection=connection,
                site=connection.address,
                remote_id=one.remote_id,
                handle=one.handle,
                name=one.name,
                kind=one.kind,
                url=one.url,
                followers=one.followers,
                facts=dict(one.facts),
                state=connection_state(network, one),
            )
            create_default_timetable(profile)
        tokens[network] = str(given["access_token"])
    return tokens
