"""What a process counts of its own work, for /metrics (Prometheus). With PROMETHEUS_MULTIPROC_DIR set, as ./menudo serve does, one
web process tells of all the processes of its machine."""

from prometheus_client import Counter, Gauge, Histogram

REQUEST_SECONDS = Histogram(
    "menudo_request_seconds",
    "How long requests took, by route; live streams are left out.",
    ["method", "route", "status"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10),
)
WAITED_SECONDS = Histogram(
    "menudo_request_wait_seconds",
    "How long requests waited for their turn; those that were told to come again, too.",
    buckets=(0.001, 0.01, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 15),
)
BUSY = Counter("menudo_requests_busy", "Requests that were told to come again.")
LIVE_STREAMS = Gauge("menudo_live_streams", "Live streams that are open.", multiprocess_mode="livesum")
ATTEMPTS = Counter("menudo_delivery_attempts", "Tries at a network, by what it answered.", ["outcome"])
