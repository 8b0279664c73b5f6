"""Routes with types: bodies validated, answers serialised, all of it in OpenAPI 3.1.

The document is made from the same dataclasses that the core returns, so that
the front end's types are generated and never written twice.
"""

from __future__ import annotations

import re
from codecs import BOM_UTF8
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from flask import Blueprint, Response, request
from pydantic import TypeAdapter, ValidationError
from pydantic.json_schema import GenerateJsonSchema, JsonSchemaMode

from rugged_shield import __version__
from rugged_shield.core.amounts import System, in_system
from rugged_shield.core.errors import InputError
from rugged_shield.formats.jsontext import check_shape, first_error, read_json

_PARAM = re.compile(r"<(?:\w+:)?(\w+)>")


@dataclass(frozen=True)
class Route:
    """One documented route."""

    method: str
    path: str
    summary: str
    body: Any
    answer: Any


ROUTES: dict[tuple[str, str], Route] = {}


class _Schema(GenerateJsonSchema):
    """Every field of an answer is present, defaults included."""

    def field_is_required(self, field: Any, total: bool) -> bool:
        """Whether a field is always there."""
        return self.mode == "serialization" or super().field_is_required(field, total)


@lru_cache(maxsize=256)
def adapter(kind: Any) -> TypeAdapter[Any]:
    """The one adapter of a type."""
    return TypeAdapter(kind)


def asked_system() -> System:
    """The system that who asks works in: header ``Units``, or ``?units=`` " "of a file."""
    asked = request.headers.get("Units") or request.args.get("units", "")
    return "us" if asked == "us" else "metric"


def _json(kind: Any, value: Any) -> Response:
    text = in_system(adapter(kind).dump_json(value).decode(), asked_system())
    return Response(text, mimetype="application/json")


def read_body(kind: Any) -> Any:
    """The request's body as its type; raises InputError naming the field."""
    try:
        sent = request.get_data().removeprefix(BOM_UTF8) or b"null"
        check_shape(read_json(sent), None)
        return adapter(kind).validate_json(sent, strict=True, extra="forbid")
    except ValidationError as error:
        raise first_error(error) from error


def route(
    blueprint: Blueprint,
    method: str,
    path: str,
    answer: Any,
    body: Any = None,
    *,
    unread: bool = False,
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Register a view: its parameters come from the path, then its body.

    ``unread``: the body is left to the view, which has it read elsewhere.
    """

    def wrap(view: Callable[..., Any]) -> Callable[..., Any]:
        full = (blueprint.url_prefix or "") + path
        summary = (view.__doc__ or "").strip().splitlines()[0]
        ROUTES[(method, full)] = Route(method, full, summary, body, answer)

        def handle(**params: Any) -> Response:
            if body is not None and not unread:
                params["body"] = read_body(body)
            return _json(answer, view(**params))

        blueprint.add_url_rule(path, f"{view.__name__}", handle, methods=[method])
        return view

    return wrap


@dataclass(frozen=True)
class FileRoute:
    """An address that hands out a file, or takes one: its type, and the type that it takes."""

    method: str
    path: str
    summary: str
    mimetype: str
    takes: tuple[str, ...]


FILES: dict[tuple[str, str], FileRoute] = {}


def file_route(
    blueprint: Blueprint, path: str, mimetype: str, takes: tuple[str, ...] = ()
) -> Callable[[Callable[..., Response]], Callable[..., Response]]:
    """Register a view that answers with a file of that type (or takes one, by POST)."""
    method = "POST" if takes else "GET"

    def wrap(view: Callable[..., Response]) -> Callable[..., Response]:
        full = (blueprint.url_prefix or "") + path
        summary = (view.__doc__ or "").strip().splitlines()[0]
        FILES[(method, full)] = FileRoute(method, full, summary, mimetype, takes)
        blueprint.add_url_rule(path, view.__name__, view, methods=[method])
        return view

    return wrap


@dataclass(frozen=True)
class ErrorBody:
    """What was wrong: field, value, what is allowed, in words, and what to do."""

    field: str
    value: str
    allowed: str
    message: str
    remedy: str
    reference: str


@dataclass(frozen=True)
class Newer:
    """What is stored now, when a write was based on an older version."""

    version: int
    value: str
    words: str


@dataclass(frozen=True)
class ErrorAnswer:
    """The one error shape."""

    error: ErrorBody
    newer: Newer | None = None


def error_response(
    error: InputError, status: int, newer: Newer | None = None, reference: str = ""
) -> Response:
    """An error in the one shape."""
    body = ErrorBody(
        error.field, error.value, error.allowed, error.message, error.remedy, reference
    )
    answer = _json(ErrorAnswer, ErrorAnswer(body, newer))
    answer.status_code = status
    return answer


def _definitions() -> tuple[dict[Any, Any], dict[str, Any]]:
    inputs: list[tuple[Any, JsonSchemaMode, TypeAdapter[Any]]] = [
        ("error", "serialization", adapter(ErrorAnswer))
    ]
    for key, known in ROUTES.items():
        inputs.append(((key, "out"), "serialization", adapter(known.answer)))
        if known.body is not None:
            inputs.append(((key, "in"), "validation", adapter(known.body)))
    refs, definitions = TypeAdapter.json_schemas(
        inputs, ref_template="#/components/schemas/{model}", schema_generator=_Schema
    )
    return refs, definitions.get("$defs", {})


def _parameters(path: str) -> list[dict[str, Any]]:
    return [
        {"name": name, "in": "path", "required": True, "schema": {"type": "string"}}
        for name in _PARAM.findall(path)
    ]


def _file_operation(known: FileRoute, failure: dict[str, Any]) -> dict[str, Any]:
    binary = {"schema": {"type": "string", "format": "binary"}}
    operation: dict[str, Any] = {
        "summary": known.summary,
        "parameters": _parameters(known.path),
        "responses": {
            "200": {"description": "Done", "content": {known.mimetype: binary}},
            "default": failure,
        },
    }
    if known.takes:
        operation["requestBody"] = {
            "required": True,
            "content": dict.fromkeys(known.takes, binary),
        }
    return operation


def openapi() -> dict[str, Any]:
    """The OpenAPI 3.1 document of every registered route."""
    refs, components = _definitions()
    paths: dict[str, Any] = {}
    failure = {
        "description": "What was wrong",
        "content": {"application/json": {"schema": refs[("error", "serialization")]}},
    }
    for (method, path), known in sorted(ROUTES.items(), key=lambda item: item[0][1]):
        key = (method, path)
        operation: dict[str, Any] = {
            "summary": known.summary,
            "parameters": _parameters(path),
            "responses": {
                "200": {
                    "description": "Done",
                    "content": {
                        "application/json": {"schema": refs[((key, "out"), "serialization")]}
                    },
                },
                "default": failure,
            },
        }
        if known.body is not None:
            operation["requestBody"] = {
                "required": True,
                "content": {"application/json": {"schema": refs[((key, "in"), "validation")]}},
            }
        paths.setdefault(_PARAM.sub(r"{\1}", path), {})[method.lower()] = operation
    for (method, path), file in sorted(FILES.items(), key=lambda item: item[0][1]):
        here = paths.setdefault(_PARAM.sub(r"{\1}", path), {})
        here[method.lower()] = _file_operation(file, failure)
    return {
        "openapi": "3.1.0",
        "info": {"title": "Rugged Shield", "version": __version__},
        "paths": paths,
        "components": {"schemas": components},
    }
