"""Rotas, their turns, and what stands at each of their slots."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models.functions import Lower

from menudo.labels.models import Label
from menudo.people.models import Brand, User
from menudo.posts.models import Post
from menudo.profiles.models import Profile
from menudo_core.rotas.rota import Order


class Rota(models.Model):
    """How evergreen posts take turns on some profiles, in the slots that their timetables keep for its label.

    It begins switched off, so that what it will do is seen first. `run_as` is in whose name its posts go out. `signoff_each_copy`: what signs off is asked of every copy; else an agreement to the same
    wording for the same profile holds on. `ahead_hours` before its time a turn becomes a post of its own.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="rotas")
    name = models.CharField(max_length=80)
    label = models.OneToOneField(Label, on_delete=models.SET_NULL, null=True, related_name="rota")
    profiles = models.ManyToManyField(Profile, related_name="rotas")
    run_as = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    active = models.BooleanField(default=False)
    order = models.CharField(max_length=10, choices=[(o.value, o.value) for o in Order], default=Order.IN_ORDER)
    seed = models.PositiveIntegerField(default=0)
    rest_days = models.PositiveSmallIntegerField(default=0)
    gap_days = models.PositiveSmallIntegerField(default=1)
    until = models.DateField(null=True)
    seasons = models.JSONField(default=list, help_text="[[first month, day], [last month, day]] each")
    closed_days = ArrayField(models.DateField(), default=list)
    signoff_each_copy = models.BooleanField(default=True)
    ahead_hours = models.PositiveSmallIntegerField(default=48)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="a_rotas_name_once")]


class Turn(models.Model):
    """A post in a rota, with one wording or several."""

    rota = models.ForeignKey(Rota, on_delete=models.CASCADE, related_name="turns")
    position = models.PositiveIntegerField(default=0)
    times = models.PositiveSmallIntegerField(null=True, help_text="how often it goes to a profile at most")
    until = models.DateField(null=True)
    seasons = models.JSONField(default=list)
    quotation = models.CharField(max_length=20, blank=True, db_default="", help_text="which of the collection it is")

    class Meta:
        ordering = ["position", "id"]


class Wording(models.Model):
    """One text of a turn: a post that never goes out itself; its copies do."""

    turn = models.ForeignKey(Turn, on_delete=models.CASCADE, related_name="wordings")
    position = models.PositiveIntegerField(default=0)
    post = models.OneToOneField(Post, on_delete=models.CASCADE, related_name="wording")

    class Meta:
        ordering = ["position", "id"]


class Placement(models.Model):
    """What stands at one slot of a rota: what a person put there (`fixed`; no turn: nothing shall go), or the copy that was
    made for it. What was made is never made again, whatever becomes of it."""

    rota = models.ForeignKey(Rota, on_delete=models.CASCADE, related_name="placements")
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="+")
    slot_at = models.DateTimeField()
    turn = models.ForeignKey(Turn, on_delete=models.SET_NULL, null=True, related_name="placements")
    fixed = models.BooleanField(default=False)
    round_number = models.PositiveIntegerField(null=True)
    wording = models.ForeignKey(Wording, on_delete=models.SET_NULL, null=True, related_name="placements")
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, related_name="rota_placements")
    filled = models.BooleanField(default=False, help_text="a copy was made for it")
    last_error = models.CharField(max_length=300, blank=True, help_text="why no copy could be planned")

    class Meta:
        ordering = ["slot_at", "id"]
        constraints = [models.UniqueConstraint(fields=["rota", "profile", "slot_at"], name="one_thing_at_a_rotas_slot")]
