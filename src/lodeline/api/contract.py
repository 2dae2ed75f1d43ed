"""The OpenAPI document as it is committed and as the TypeScript client is generated from it."""

import json

from lodeline.api.failures import with_failures
from lodeline.api.main import api


def contract() -> str:
    """The API's OpenAPI document."""
    schema = with_failures(api.get_openapi_schema(path_prefix="/api/"))
    return json.dumps(schema, indent=1, ensure_ascii=False, default=str) + "\n"
