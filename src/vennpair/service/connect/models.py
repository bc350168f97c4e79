"""Institutions, people, registered platforms and publishers, and our own keys."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone


def new_client_id() -> str:
    """Return an opaque client id for a publisher that we are the platform of."""
    return uuid.uuid4().hex


class Institution(models.Model):
    """A college; everything hangs off one, and none sees another's."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200, unique=True)
    timezone = models.CharField(max_length=60, default="UTC")


class User(AbstractUser):
    """Somebody who signs in: staff of one institution. ``is_staff`` means administrator there."""

    class Digest(models.TextChoices):
        DAILY = "daily"
        WEEKLY = "weekly"
        NEVER = "never"

    institution = models.ForeignKey(Institution, models.CASCADE, null=True, related_name="users")
    is_designer = models.BooleanField(default=False)  # may set up in every shell of the institution
    digest = models.CharField(max_length=10, choices=Digest, default=Digest.DAILY)
    # BCP 47, as "es"; chosen by the person, empty: that of the course they came from
    language = models.CharField(max_length=35, blank=True, default="", db_default="")
    digested_on = models.DateField(
        null=True
    )  # the last morning that was looked at, in the institution's zone

    @property
    def shown_name(self) -> str:
        """Return the name that others see."""
        return self.get_full_name() or self.username

    @property
    def subject(self) -> str:
        """Return the subject under which publishers know this user."""
        return f"staff-{self.pk}"


class SigningKey(models.Model):
    """A key of ours; ``secret`` is the private PEM, encrypted.

    It is published from the start, signs from ``signs_from`` on, and is withdrawn at ``ends_at``,
    so that the other sides know a key before they meet it and still know it for what it signed
    last.
    """

    kid = models.CharField(max_length=100, unique=True)
    secret = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)
    signs_from = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField(null=True)


class Platform(models.Model):
    """A course platform at which we are registered as a tool."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    institution = models.ForeignKey(Institution, models.CASCADE, related_name="platforms")
    name = models.CharField(max_length=200)
    issuer = models.URLField(max_length=500)
    client_id = models.CharField(max_length=200)
    deployment_ids = models.JSONField(default=list)
    authorization_url = models.URLField(max_length=500)
    token_url = models.URLField(max_length=500)
    jwks_url = models.URLField(max_length=500)
    granted = models.JSONField(default=list)  # scopes that it registered us for; empty: not known
    token_audience = models.CharField(
        max_length=500, blank=True
    )  # whom our assertions name, where not the token address
    product = models.CharField(max_length=100, blank=True)
    how = models.CharField(max_length=10, default="by_hand")
    active = models.BooleanField(default=True)
    asked_deployments = models.JSONField(
        default=list
    )  # launched from, signed rightly, and not accepted yet
    launched_at = models.DateTimeField(null=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["issuer", "client_id"], name="one_registration")
        ]


class Identity(models.Model):
    """Under which subject a platform launches one of our users."""

    platform = models.ForeignKey(Platform, models.CASCADE, related_name="identities")
    subject = models.CharField(max_length=255)
    user = models.ForeignKey(User, models.CASCADE, related_name="identities")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["platform", "subject"], name="one_user_per_subject")
        ]


class Publisher(models.Model):
    """A homework service of which we are the platform: LTI 1.3, or LTI 1.1 where it only has key
    and secret.

    ``item_address`` is the pattern by which an item is opened of which neither a cartridge nor the
    catalogue tells an address. ``gets_numbers``: the college lets it know the institution's own ids
    of people. ``picker_url`` and ``review_url`` are where deep linking and submission review
    messages go, empty where it did not say; it takes reviews only where it named an address.
    """

    class Speaks(models.TextChoices):
        LTI_1_3 = "lti13"
        LTI_1_1 = "lti11"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    institution = models.ForeignKey(Institution, models.CASCADE, related_name="publishers")
    name = models.CharField(max_length=200)
    speaks = models.CharField(max_length=10, choices=Speaks, default=Speaks.LTI_1_3)
    how = models.CharField(max_length=10, default="by_hand")
    active = models.BooleanField(default=True)
    client_id = models.CharField(max_length=64, unique=True, default=new_client_id)
    deployment_id = models.CharField(max_length=64, default=new_client_id)
    login_url = models.URLField(max_length=500, blank=True)
    launch_url = models.URLField(max_length=500, blank=True)
    redirect_uris = models.JSONField(default=list)
    jwks_url = models.URLField(max_length=500, blank=True)
    custom = models.JSONField(default=dict)
    item_address = models.CharField(max_length=1000, blank=True)
    gets_numbers = models.BooleanField(default=False)
    picker_url = models.URLField(max_length=500, blank=True)
    picker_custom = models.JSONField(default=dict)
    review_url = models.URLField(max_length=500, blank=True)
    review_custom = models.JSONField(default=dict)
    key = models.CharField(max_length=200, blank=True)  # LTI 1.1
    shared_secret = models.TextField(blank=True)
    oneroster_url = models.URLField(max_length=500, blank=True)
    oneroster_token_url = models.URLField(max_length=500, blank=True)
    oneroster_client_id = models.CharField(max_length=200, blank=True)
    oneroster_secret = models.TextField(blank=True)
    provisioning_url = models.URLField(max_length=500, blank=True)
    features = models.JSONField(default=list)
    courses_read_at = models.DateTimeField(null=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["institution", "name"], name="one_publisher_of_a_name")
        ]

    @property
    def can_launch(self) -> bool:
        """Say whether learners can be sent there."""
        return self.active and bool(
            self.key if self.speaks == self.Speaks.LTI_1_1 else self.login_url
        )


class Invitation(models.Model):
    """A one-time right to register with us: the other side's token or link.

    Only its hash is kept.
    """

    class Side(models.TextChoices):
        PLATFORM = "platform"
        PUBLISHER = "publisher"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    digest = models.CharField(max_length=64, unique=True)
    side = models.CharField(max_length=10, choices=Side)
    institution = models.ForeignKey(Institution, models.CASCADE, related_name="invitations")
    name = models.CharField(max_length=200, blank=True)
    made_by = models.ForeignKey(User, models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    platform = models.ForeignKey(Platform, models.SET_NULL, null=True, related_name="+")
    publisher = models.ForeignKey(Publisher, models.SET_NULL, null=True, related_name="+")


class SignedInBrowser(models.Model):
    """A browser's session: whose it is, and from which platform it came, empty for a password."""

    session_key = models.CharField(max_length=40, primary_key=True)
    user = models.ForeignKey(User, models.CASCADE, related_name="browsers")
    platform = models.ForeignKey(Platform, models.CASCADE, null=True, related_name="browsers")
    begun_at = models.DateTimeField()


class WrongPassword(models.Model):
    """How many wrong passwords came for an account from an address, and until when it waits.

    ``key`` is a digest of both: neither is kept.
    """

    key = models.CharField(max_length=64, primary_key=True)
    count = models.IntegerField(default=0)
    last_at = models.DateTimeField(db_index=True)
    until = models.DateTimeField(null=True)


class TokenUse(models.Model):
    """When a token was used last, to some minutes."""

    token = models.OneToOneField(
        "knox.AuthToken", models.CASCADE, primary_key=True, related_name="use"
    )
    used_at = models.DateTimeField()


class TokenGrant(models.Model):
    """What a token of the command line may do.

    One without a grant came from signing in and may all that its owner may.
    """

    token = models.OneToOneField("knox.AuthToken", models.CASCADE, related_name="grant")
    name = models.CharField(max_length=100)
    scopes = models.JSONField(default=list)


class CollegeSignIn(models.Model):
    """The OpenID provider at which an institution's people sign in; the secret is sealed."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    institution = models.OneToOneField(Institution, models.CASCADE, related_name="college_sign_in")
    issuer = models.URLField(max_length=500)
    client_id = models.CharField(max_length=255)
    secret = models.TextField()
    active = models.BooleanField(default=True)


class CollegeIdentity(models.Model):
    """Who somebody is at the institution's OpenID provider."""

    college = models.ForeignKey(CollegeSignIn, models.CASCADE, related_name="identities")
    subject = models.CharField(max_length=255)
    user = models.ForeignKey(User, models.CASCADE, related_name="college_identities")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["college", "subject"], name="one_user_per_college_subject"
            )
        ]


class SecondFactor(models.Model):
    """What somebody signs in with beside a password: the digests of unused recovery codes, and the
    key of an authenticator app, sealed, empty where they have passkeys alone.

    It counts once a code of the app, or a passkey, has confirmed it. ``last_step`` is the newest
    half minute (since 1970) of which a code was used.
    """

    user = models.ForeignKey(User, models.CASCADE, related_name="second_factors")
    key = models.TextField(blank=True)
    confirmed_at = models.DateTimeField(null=True)
    last_step = models.BigIntegerField(default=-1)
    recovery = models.JSONField(default=list)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["user"],
                condition=~models.Q(confirmed_at=None),
                name="one_second_factor_that_counts",
            )
        ]


class Passkey(models.Model):
    """A passkey or security key of somebody with a second factor (Web Authentication Level 2).

    ``credential`` is its id in base64url, ``public_key`` a COSE key (RFC 9052), ``uses`` the
    authenticator's own count of signatures, 0 where it keeps none.
    """

    user = models.ForeignKey(User, models.CASCADE, related_name="passkeys")
    name = models.CharField(max_length=80)
    credential = models.CharField(max_length=1400, unique=True)
    public_key = models.BinaryField()
    uses = models.BigIntegerField(default=0)
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)


class PasskeyChallenge(models.Model):
    """A challenge that one passkey may answer once, within minutes (Web Authentication 13.4.3)."""

    GOOD_FOR = timedelta(minutes=5)

    user = models.ForeignKey(User, models.CASCADE, related_name="+")
    value = models.CharField(max_length=100, unique=True)
    adding = models.BooleanField()
    made_at = models.DateTimeField(db_index=True)
