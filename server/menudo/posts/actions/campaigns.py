"""Make, change and delete campaigns."""

from datetime import date

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.labels.models import Ink
from menudo.library.models import LinkTags
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.models import Campaign
from menudo_core.text.clean import unusable
from menudo_core.text.hashtags import bare_tag, hashtags, tag_key

_LONGEST_DAYS = 3 * 366


def keep_campaign(
    place: Here, id: int | None, name: str, starts: date, ends: date, ink: str, tags: list[str], link_tags: int | None
) -> Campaign:
    """A new campaign (`id` None), or one changed. Raises Invalid with every fault at its field, NotFound."""
    place.needs(May.WRITE)
    campaign = campaign_of(place, id) if id is not None else Campaign(brand=place.brand)
    name = " ".join(name.split())
    faults = []
    if words := unusable(name) or ("" if name else "Give the campaign a name."):
        faults.append(Fault("/name", words))
    if ends < starts:
        faults.append(Fault("/ends", "It ends before it starts.", "order"))
    elif (ends - starts).days > _LONGEST_DAYS:
        faults.append(Fault("/ends", "A campaign lasts three years at most.", "long"))
    if ink not in Ink.values:
        faults.append(Fault("/ink", f"There is no ink “{ink[:20]}”.", "choice"))
    tags = [tag for tag in map(bare_tag, tags) if tag]
    for number, tag in enumerate(tags):
        if hashtags(f"#{tag}") != [tag]:
            faults.append(
                Fault(f"/tags/{number}", f"“{tag[:40]}” is no hashtag: letters, digits and _ only.", "hashtag")
            )
    if link_tags is not None and not LinkTags.objects.filter(brand=place.brand, pk=link_tags).exists():
        faults.append(Fault("/link_tags", "These link tags aren't this brand's.", "foreign"))
    if faults:
        raise Invalid(faults=faults)
    try:
        with transaction.atomic():
            campaign.name, campaign.starts, campaign.ends, campaign.ink = name, starts, ends, ink
            campaign.tags, campaign.link_tags_id = (
                list({tag_key(tag): tag for tag in reversed(tags)}.values())[::-1],
                link_tags,
            )
            campaign.save()
            record(place.brand.pk, place.actor, "keep_campaign", "campaign", campaign.pk, f"kept the campaign {name}")
            tell(place.brand.pk, "campaign", campaign.pk)
    except IntegrityError:
        raise Invalid.at("/name", "There is a campaign of that name already.", "twice") from None
    return campaign


def delete_campaign(place: Here, id: int) -> None:
    """Its posts stay, without it."""
    place.needs(May.WRITE)
    with transaction.atomic():
        campaign = campaign_of(place, id)
        words = f"deleted the campaign {campaign.name}"
        record(place.brand.pk, place.actor, "delete_campaign", "campaign", campaign.pk, words)
        campaign.delete()
        tell(place.brand.pk, "campaign", id)


def campaign_of(place: Here, id: int) -> Campaign:
    """A campaign of the brand. Raises NotFound."""
    return the_one(Campaign.objects.filter(brand=place.brand, pk=id))
