"""Which adapter speaks to which network. Nothing outside this room names one."""

from collections.abc import Mapping

from menudo.networks.atompub import AtomPub
from menudo.networks.client import client_for
from menudo.networks.micropub import Micropub
from menudo.networks.protocol import Adapter

ADAPTERS: Mapping[str, type[Micropub] | type[AtomPub]] = {"micropub": Micropub, "atompub": AtomPub}
_DEFAULT_ENDPOINTS = "micropub"


def open_adapter(endpoints: dict[str, str], token: str) -> Adapter:
    """The network whose endpoints these are, for one sign-in. What they don't say of the adapter is as it was before there
    was more than one."""
    return ADAPTERS[endpoints.get("adapter", _DEFAULT_ENDPOINTS)](client_for(endpoints), endpoints, token)


def endpoint_names(adapter: str) -> Mapping[str, str]:
    """The endpoints of an adapter: our names, and those of server metadata."""
    return ADAPTERS[adapter].ENDPOINTS


def queried_address(endpoints: dict[str, str]) -> str:
    """The address that is asked at a network; its host is the network's lane."""
    return endpoints.get(next(iter(endpoint_names(endpoints.get("adapter", _DEFAULT_ENDPOINTS)))), "")
