"""Brands, people, and what each may do where."""

from typing import ClassVar

from allauth.account.models import EmailAddress
from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.contrib.postgres.fields import ArrayField
from django.db import models, transaction
from django.db.models.functions import Now

from menudo.base import clock


class UserManager(BaseUserManager["User"]):
    def create_user(self, email: str, password: str | None = None, name: str = "") -> "User":
        """A person whose address is known to be theirs: it was mailed to, or given by who manages the installation."""
        user = self.model(email=self.normalize_email(email), name=name)
        user.set_password(password)
        with transaction.atomic():
            user.save(using=self._db)
            EmailAddress.objects.create(user=user, email=user.email, primary=True, verified=True)
        return user


class User(AbstractBaseUser):
    """A person. Signs in with an e-mail address. Who manages the installation sees to its mail, its people's access and
    what breaks in it; what they may do in a brand is a matter of the brand alone."""

    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    clock24 = models.BooleanField(default=True)
    is_active = models.BooleanField(default=True)
    manages_installation = models.BooleanField(default=False, db_default=False)
    is_staff = False
    is_superuser = False
    created_at = models.DateTimeField(default=clock.now, db_default=Now())

    objects: ClassVar[UserManager] = UserManager()
    USERNAME_FIELD = "email"
    REQUIRED_FIELDS: ClassVar[list[str]] = []

    def get_full_name(self) -> str:
        return self.name


class Brand(models.Model):
    """Whose profiles these are. `zone` is an IANA name; every wall time of the brand is meant in it."""

    slug = models.SlugField(unique=True)
    name = models.CharField(max_length=120)
    zone = models.CharField(max_length=64)
    ink = models.CharField(max_length=20, default="epazote")
    needs_signoff = models.BooleanField(default=False)
    signoff_on_move = models.BooleanField(
        default=False, db_default=False, help_text="whether another time asks for sign-off again"
    )
    earlier_signoff_counts = models.BooleanField(
        default=False,
        db_default=False,
        help_text="whether an agreement counts again when the wording is back to what it was",
    )


class Membership(models.Model):
    """A person in a brand, with their capabilities there."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="members")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=20)
    capabilities = ArrayField(models.CharField(max_length=20), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "user"], name="one_membership_each")]


class Invitation(models.Model):
    """An invitation by e-mail into a brand. Its token is kept as a hash and serves once."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="invitations")
    email = models.EmailField()
    role = models.CharField(max_length=20)
    capabilities = ArrayField(models.CharField(max_length=20), default=list)
    token_hash = models.CharField(max_length=64, unique=True)
    created_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    created_at = models.DateTimeField(default=clock.now, db_default=Now())
    expires_at = models.DateTimeField()
    accepted_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "email"], condition=models.Q(accepted_at=None), name="one_open_invitation_each"
            )
        ]
