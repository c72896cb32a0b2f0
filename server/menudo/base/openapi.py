"""The API's description (OpenAPI 3.1): what every route has in common stands in it once."""

from functools import cached_property
from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import REF_TEMPLATE, OpenAPISchema

from menudo.base.problems import ProblemOut

_PROBLEM = "Problem"


class MenudoAPI(NinjaAPI):
    """Ninja's API, whose description names the error answer and each parameter of a path once.

    All 4XX answers come of the exception handlers in `problems`, whatever the route: no route declares them itself.
    """

    def get_openapi_schema(self, **_: Any) -> OpenAPISchema:
        return self._described

    @cached_property
    def _described(self) -> OpenAPISchema:
        # It takes seconds to describe so many routes, and they never change while the program runs.
        described = super().get_openapi_schema()
        components = described["components"]
        components["schemas"] |= _problem_schemas()
        components["responses"] = {
            _PROBLEM: {
                "description": "Why it can't be done (RFC 9457).",
                "content": {"application/problem+json": {"schema": {"$ref": REF_TEMPLATE.format(model="ProblemOut")}}},
            }
        }
        components["parameters"] = {}
        for operation in (operation for path in described["paths"].values() for operation in path.values()):
            answers = {str(status): answer for status, answer in operation["responses"].items()}
            operation["responses"] = {**answers, "4XX": {"$ref": f"#/components/responses/{_PROBLEM}"}}
            operation["parameters"] = [_shared(components["parameters"], one) for one in operation["parameters"]]
        _drop_titles(components)
        _drop_titles(described["paths"])
        return described


def _problem_schemas() -> dict[str, Any]:
    """ProblemOut and what it is made of, by their names."""
    schema = ProblemOut.model_json_schema(ref_template=REF_TEMPLATE, mode="serialization")
    return {**schema.pop("$defs"), "ProblemOut": schema}


def _shared(shared: dict[str, Any], parameter: dict[str, Any]) -> dict[str, Any]:
    """A reference to the parameter, where it is a path's and means the same in each of them; else itself."""
    name = parameter["name"]
    if parameter["in"] != "path" or shared.setdefault(name, parameter) != parameter:
        return parameter
    return {"$ref": f"#/components/parameters/{name}"}


def _drop_titles(node: Any) -> None:
    """Take out the titles of schemas: they only say a name again."""
    if isinstance(node, list):
        for item in node:
            _drop_titles(item)
    elif isinstance(node, dict):
        if isinstance(node.get("title"), str):
            del node["title"]
        for name, item in node.items():
            if name != "default":
                _drop_titles(item)
