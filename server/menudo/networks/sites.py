"""Where an open site's endpoints are, by its address (W3C Micropub, 5.3; IndieAuth's server metadata)."""

import httpx2

from menudo.base.fetch import FetchError, Page, fetch
from menudo.base.html import elements, parse_html, words_of
from menudo.base.web_addresses import absolute_address, split_address
from menudo.networks.sign_in import WELL_KNOWN, NetworkError, read_metadata


def discover_site(address: str) -> dict[str, str]:
    """The endpoints of the site at `address`. Raises NetworkError with what the site lacks."""
    try:
        page = fetch(address)
        found = _link_relations(page)
        if "micropub" not in found:
            raise NetworkError(
                "This site doesn't say where its Micropub endpoint is (rel=micropub). Is Micropub switched on?"
            )
        endpoints = {"micropub": found["micropub"], "issuer": "", "site": page.address}
        if "indieauth-metadata" in found:
            metadata = fetch(found["indieauth-metadata"], "application/json")
            named = read_metadata(httpx2.Response(200, content=metadata.body))
            if not _is_issuer_of(named.get("issuer", ""), metadata.address):
                raise NetworkError("This site's sign-in says that it is another's. Ask whoever set it up.")
            endpoints |= named
        elif {"authorization_endpoint", "token_endpoint"} <= found.keys():
            endpoints |= {"authorize": found["authorization_endpoint"], "token": found["token_endpoint"]}
        else:
            raise NetworkError("This site doesn't say where one signs in (rel=indieauth-metadata).")
    except FetchError as error:
        raise NetworkError(str(error)) from error
    if not all(split_address(endpoints.get(name, "")) for name in ("micropub", "authorize", "token")):
        raise NetworkError("This site's sign-in is not at a web address.")
    return {**endpoints, "micropub": found["micropub"]}


def _is_issuer_of(issuer: str, address: str) -> bool:
    """Whether metadata at `address` may name this issuer: a prefix of it, without a question (IndieAuth, 4.1.1), or whose well-known
    address it is (RFC 8414, 3.1)."""
    said, where = split_address(issuer), split_address(address)
    if said is None or where is None:
        return False
    path = said.path.rstrip("/")
    return (
        (said.scheme, said.netloc) == (where.scheme, where.netloc)
        and not said.query
        and not said.fragment
        and (f"{where.path}/".startswith(f"{path}/") or where.path == f"{WELL_KNOWN}{path}")
    )


def _link_relations(page: Page) -> dict[str, str]:
    """The first link of each relation, from the HTTP header first and then from the page (RFC 8288)."""
    rels: dict[str, str] = {}
    for link in httpx2.Response(200, headers=page.headers).links.values():
        for rel in str(link.get("rel", "")).lower().split():
            rels.setdefault(rel, absolute_address(page.address, str(link.get("url", ""))))
    for element in elements(parse_html(page.text), "link", "a", having=("href", "rel")):
        for rel in words_of(element, "rel"):
            rels.setdefault(rel, absolute_address(page.address, element.get("href", "")))
    return rels
