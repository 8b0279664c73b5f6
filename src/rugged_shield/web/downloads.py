"""One way to hand out a file: its type, its name, and whether it is looked at or kept."""

from __future__ import annotations

from flask import Response

from rugged_shield.core.amounts import in_system
from rugged_shield.web.api import asked_system


def download(content: str | bytes, mimetype: str, name: str, inline: bool = False) -> Response:
    """A file to keep under ``name``; ``inline`` shows it in the browser instead."""
    sent = in_system(content, asked_system()) if isinstance(content, str) else content
    answer = Response(sent, mimetype=mimetype)
    shown = "inline" if inline else "attachment"
    answer.headers["Content-Disposition"] = f'{shown}; filename="{name}"'
    return answer
