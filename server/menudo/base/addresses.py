"""The first parts of addresses that are the installation's own: no brand is called so."""

# Answered by the server alone: see urls.py.
SERVER_PREFIXES = frozenset(
    {
        "_allauth",
        "accounts",
        "api",
        "assets",
        "connect",
        "emoji",
        "feeds",
        "health",
        "live",
        "media",
        "metrics",
        "static",
    }
)
# Pages of the web application that are no brand's: see web/src/app/router.tsx.
WEB_PREFIXES = frozenset(
    {
        "account",
        "all",
        "confirm-email",
        "installation",
        "invitation",
        "link",
        "mail-tray",
        "new-brand",
        "reset",
        "set-up",
        "sign",
        "waiting",
    }
)
RESERVED_SLUGS = SERVER_PREFIXES | WEB_PREFIXES
