"""Make, change and delete campaigns."""

from datetime import date

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.labels.models import Ink
from menudo.library.models import LinkTags
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.models import Campaign
from menudo_core.text.hashtags import hashtags, strip_sign, tag_key

_MAX_DAYS = 3 * 366


def save_campaign(
    context: BrandContext,
    campaign_id: int | None,
    name: str,
    starts_on: date,
    ends_on: date,
    ink: str,
    tags: list[str],
    link_tags: int | None,
) -> Campaign:
    """A new campaign (`campaign_id` None), or one changed. Raises InvalidError with every fault at its field, NotFoundError."""
    context.require(Capability.WRITE)
    campaign = campaign_of(context, campaign_id) if campaign_id is not None else Campaign(brand=context.brand)
    name = " ".join(name.split())
    faults = []
    if words := storage_refusal(name) or (None if name else say("campaign.nameless")):
        faults.append(Fault("/name", words))
    if ends_on < starts_on:
        faults.append(Fault("/ends_on", say("campaign.order")))
    elif (ends_on - starts_on).days > _MAX_DAYS:
        faults.append(Fault("/ends_on", say("campaign.long")))
    if ink not in Ink.values:
        faults.append(Fault("/ink", say("ink.unknown", ink=ink[:20])))
    tags = [tag for tag in map(strip_sign, tags) if tag]
    for number, tag in enumerate(tags):
        if hashtags(f"#{tag}") != [tag]:
            faults.append(Fault(f"/tags/{number}", say("campaign.hashtag", tag=tag[:40])))
    if link_tags is not None and not LinkTags.objects.filter(brand=context.brand, pk=link_tags).exists():
        faults.append(Fault("/link_tags", say("link_tags.foreign")))
    if faults:
        raise InvalidError(faults=faults)
    try:
        with transaction.atomic():
            campaign.name, campaign.starts_on, campaign.ends_on, campaign.ink = name, starts_on, ends_on, ink
            campaign.tags, campaign.link_tags_id = (
                list({tag_key(tag): tag for tag in reversed(tags)}.values())[::-1],
                link_tags,
            )
            campaign.save()
            record_event(
                context.brand.pk,
                context.actor,
                "keep_campaign",
                "campaign",
                campaign.pk,
                say("campaign.kept", name=name),
            )
            publish_change(context.brand.pk, "campaign", campaign.pk)
    except IntegrityError:
        raise InvalidError.at("/name", say("campaign.name_taken")) from None
    return campaign


def delete_campaign(context: BrandContext, campaign_id: int) -> None:
    """Its posts stay, without it."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        campaign = campaign_of(context, campaign_id)
        record_event(
            context.brand.pk,
            context.actor,
            "delete_campaign",
            "campaign",
            campaign.pk,
            say("campaign.deleted", name=campaign.name),
        )
        campaign.delete()
        publish_change(context.brand.pk, "campaign", campaign_id)


def campaign_of(context: BrandContext, campaign_id: int) -> Campaign:
    """A campaign of the brand. Raises NotFoundError."""
    return first_or_404(Campaign.objects.filter(brand=context.brand, pk=campaign_id))
