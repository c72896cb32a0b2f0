"""Where an open site's endpoints are, by its address (W3C Micropub, 5.3; IndieAuth's server metadata)."""

from urllib.parse import urljoin

import httpx2
from bs4 import BeautifulSoup

from menudo.base.fetch import FetchError, Page, fetch
from menudo.networks.sign_in import NetworkError, read_metadata


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
            endpoints |= read_metadata(httpx2.Response(200, content=metadata.body))
        elif {"authorization_endpoint", "token_endpoint"} <= found.keys():
            endpoints |= {"authorize": found["authorization_endpoint"], "token": found["token_endpoint"]}
        else:
            raise NetworkError("This site doesn't say where one signs in (rel=indieauth-metadata).")
    except FetchError as error:
        raise NetworkError(str(error)) from error
    return {**endpoints, "micropub": found["micropub"]}


def _link_relations(page: Page) -> dict[str, str]:
    """The first link of each relation, from the HTTP header first and then from the page (RFC 8288)."""
    rels: dict[str, str] = {}
    for link in httpx2.Response(200, headers=page.headers).links.values():
        for rel in str(link.get("rel", "")).lower().split():
            rels.setdefault(rel, urljoin(page.address, str(link.get("url", ""))))
    for tag in BeautifulSoup(page.text, "html.parser").find_all(["link", "a"], href=True, rel=True):
        for rel in tag["rel"]:
            rels.setdefault(rel.lower(), urljoin(page.address, str(tag["href"])))
    return rels
