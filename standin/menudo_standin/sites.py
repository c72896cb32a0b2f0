"""A small web site for each demo brand: a page to read a brand sheet from, and a Micropub site to post to."""

import io
import json
from typing import Any

from flask import Blueprint, Response, abort, render_template, request, send_file, url_for
from PIL import Image, ImageDraw

from menudo_standin.oauth import current_store

sites = Blueprint("sites", __name__, url_prefix="/site")


def _site_sheet(name: str) -> dict[str, Any]:
    row = current_store().fetch_one("SELECT said FROM site WHERE name = ?", name) or abort(404)
    sheet: dict[str, Any] = json.loads(row["said"])
    return sheet


@sites.get("/<name>/")
def front_page(name: str) -> Response:
    """The brand's front page: title, description, Open Graph, schema.org, icon, contact, feed, and its Micropub endpoint."""
    sheet = _site_sheet(name)
    rows = current_store().fetch_all(
        "SELECT * FROM post WHERE network = 'open-site' AND uid = ? AND reply_to IS NULL AND gone IS NULL ORDER BY at DESC, id DESC LIMIT 20",
        name,
    )
    posts = [{"id": r["id"], "at": r["at"], **json.loads(r["body"])} for r in rows]
    about = {
        "@context": "https://schema.org",
        "@type": sheet.get("type", "Organization"),
        "name": sheet["title"],
        "description": sheet["description"],
        "url": request.base_url,
        "logo": url_for("sites.serve_logo", name=name, _external=True),
        "email": sheet.get("email", ""),
        "telephone": sheet.get("phone", ""),
        "address": {
            "@type": "PostalAddress",
            "streetAddress": sheet.get("address", ""),
            "addressCountry": sheet.get("country", ""),
        },
    }
    page = render_template("site.html", site=sheet, about=json.dumps(about), posts=posts, name=name)
    response = Response(page)
    response.headers["Link"] = (
        f'<{url_for("wire.query_endpoint", network="open-site", _external=True)}>; rel="micropub"'
    )
    return response


@sites.get("/<name>/logo.png")
def serve_logo(name: str) -> Response:
    """The brand's mark, drawn: its colours in bands with its initial block."""
    sheet = _site_sheet(name)
    image = Image.new("RGB", (240, 240), sheet["colours"][0])
    draw = ImageDraw.Draw(image)
    for place, colour in enumerate(sheet["colours"][1:], 1):
        draw.ellipse((60 + place * 14, 30 + place * 40, 180 - place * 6, 190 + place * 6), fill=colour)
    out = io.BytesIO()
    image.save(out, "PNG")
    out.seek(0)
    return send_file(out, mimetype="image/png")


@sites.get("/<name>/read/<slug>")
def site_page(name: str, slug: str) -> str:
    """A page of the site, with Open Graph; one marked so says a picture that isn't there first."""
    sheet = _site_sheet(name)
    found = next((p for p in sheet.get("pages", []) if p["slug"] == slug), None) or abort(404)
    return render_template("page.html", site=sheet, page=found, name=name)


@sites.get("/<name>/read/<slug>.png")
def serve_page_picture(name: str, slug: str) -> Response:
    """A page's picture, drawn in the site's colours."""
    sheet = _site_sheet(name)
    image = Image.new("RGB", (1200, 630), sheet["colours"][-1])
    draw = ImageDraw.Draw(image)
    for n in range(9):
        x = (sum(slug.encode()) * 37 + n * 211) % 1200
        draw.ellipse((x - 160, 90 + n * 40, x + 160, 330 + n * 40), fill=sheet["colours"][n % len(sheet["colours"])])
    out = io.BytesIO()
    image.save(out, "PNG")
    out.seek(0)
    return send_file(out, mimetype="image/png")


@sites.get("/<name>/notes.xml")
def serve_feed(name: str) -> Response:
    """The site's feed (RSS 2.0)."""
    sheet = _site_sheet(name)
    body = render_template("site_feed.xml", site=sheet, name=name)
    return Response(body, mimetype="application/rss+xml")
