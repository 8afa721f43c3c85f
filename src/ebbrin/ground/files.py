"""Files that come in as text, and what is said of rows that do not fit."""

from __future__ import annotations

from fastapi import Request
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException


class RefusedRow(BaseModel):
    """A row that was left out."""

    where: str = Field(description="Line of a CSV file, or number of the part in JSON.")
    column: str = Field(description="Empty where the whole row is meant.")
    message: str


async def text_body(request: Request, kind: str) -> str:
    """The body as text; 415 where it says that it is something else than ``kind`` or plain text, 422 names the line
    that is not UTF-8."""
    wanted, said = kind.partition(";")[0], request.headers.get("content-type", kind).partition(";")[0]
    if said.strip().lower() not in {wanted, "text/plain"}:
        raise HTTPException(415, f"The body is said to be {said[:80]!r}; send it as {wanted}.")
    body = await request.body()
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = body[: error.start].count(b"\n") + 1
        raise HTTPException(
            422, f"Line {line} is not UTF-8; save the file as UTF-8 and try again."
        ) from error
