"""The live stream: changes in a brand as server-sent events, for those who may see it and as long as they may."""

from collections.abc import AsyncIterator, Sequence

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth import HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.models import Session
from django.db import connections
from django.http import HttpRequest, HttpResponseBase, StreamingHttpResponse
from django.utils import timezone
from django.utils.crypto import constant_time_compare

from menudo.base.live import Hub, Stream
from menudo.base.metrics import LIVE_STREAMS
from menudo.base.problems import ProblemError, RateLimitError, on_problem
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.people.models import Membership, User


async def live_stream(request: HttpRequest, brand: str) -> HttpResponseBase:
    """A brand's changes, without end. Holds no database connection while it is open."""
    try:
        stream = await sync_to_async(_open_stream)(request, brand)
        if hub.open_streams(stream.user) >= settings.STREAMS_EACH:
            raise RateLimitError(say("live.many_windows"))
    except ProblemError as problem:
        return on_problem(request, problem)

    async def events() -> AsyncIterator[str]:
        # Sessions and rights were read on this request's connection, in its thread: it goes back to the pool now.
        await sync_to_async(connections.close_all)()
        with LIVE_STREAMS.track_inprogress():
            async for event in hub.events(stream):
                yield event

    response = StreamingHttpResponse(events(), content_type="text/event-stream")
    response.headers["Cache-Control"] = "no-store"
    response.headers["X-Accel-Buffering"] = "no"
    return response


def _open_stream(request: HttpRequest, slug: str) -> Stream:
    request.user.is_authenticated  # noqa: B018 (the lazy user is read here, in a thread)
    context = brand_context(request, slug)
    return Stream(context.brand.pk, context.user.pk, request.session.session_key or "")


def permitted_streams(streams: Sequence[Stream]) -> set[Stream]:
    """Those whose person is still signed in with that session and may still see the brand: three statements."""
    keys = {stream.session_key for stream in streams}
    sessions = {
        s.session_key: s.get_decoded()
        for s in Session.objects.filter(session_key__in=keys, expire_date__gt=timezone.now())
    }
    users = User.objects.filter(is_active=True).in_bulk({stream.user for stream in streams})
    seen = set(
        Membership.objects.filter(
            user__in=users, brand__in={stream.brand for stream in streams}, capabilities__contains=[Capability.SEE]
        ).values_list("brand_id", "user_id")
    )
    return {
        stream
        for stream in streams
        if (stream.brand, stream.user) in seen and _is_signed_in(sessions.get(stream.session_key), users[stream.user])
    }


def _is_signed_in(session: dict[str, str] | None, user: User) -> bool:
    """Whether the session is that person's still: a changed password ends those begun with the one before."""
    if session is None or session.get(SESSION_KEY) != str(user.pk):
        return False
    hashes = [user.get_session_auth_hash(), *user.get_session_auth_fallback_hash()]
    return any(constant_time_compare(session.get(HASH_SESSION_KEY, ""), known) for known in hashes)


hub = Hub(permitted_streams)
