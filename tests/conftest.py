"""What holds for every test: a property is judged by what holds, never by how long a busy machine took over it."""

from hypothesis import HealthCheck, settings

settings.register_profile("menudo", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("menudo")
