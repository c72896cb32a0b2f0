"""What people are told, by the code of what is told. The one place with its words; what was done it says as the history does."""

from menudo.base.sentences import Template
from menudo.history.sentences import SENTENCES as DONE

SENTENCES: dict[str, Template] = {
    **DONE,
    "asked.about_source": "Shall this go out on {profile}? {title}",
    "asked.told_of_source": "New at {source}: {title}",
    "asked.told_of_some_source": "New at a source: {title}",
    "by_hand.due": "{profile}: it is time to publish {post:yours} by hand",
    "catalogue.failing": "The catalogue {name} can't be read. {reason}",
    "connection.ended_notice": "{whose} must be reconnected: the network ended the connection",
    "connection.ending": (
        "The connection of {whose} ends in {count} day: reconnect it before",
        "The connection of {whose} ends in {count} days: reconnect it before",
    ),
    "feed.failing": "The feed {name} can't be read. {reason}",
    "job.failed": "Menudo broke over {subject} and goes on with the rest. It is tried again.",
    "job.step_failed": "Menudo broke over its step “{step}” and goes on with the rest. It is tried again.",
    "mention.made": "{name} mentions you at {post:post}: {words}",
    "pause.over": "The pause of {whose} is over. See what was missed, and choose what happens to it",
    "post.agreed": "{name} {what}",
    "post.agreed_last": "{name} {what}; it is signed off",
    "post.changed_by": "{name} changed {post:post}",
    "post.missed_signoff": "{post:post} missed its time on {profile}: it was not signed off. Plan it again",
    "post.moved_by": "{name} {what}: {post:post}",
    "post.published": "{post:post} is out on {profile}",
    "post.sent_back": "{name} sent {post:post} back: {words}",
    "post.trouble": "{post:post} on {profile}: {reason}",
    "relay.paused": "A relay to {profile} paused itself. {reason}",
    "remark.made": "{name} at {post:post}: {words}",
    "rota.exhausted": "The rota {name} runs dry on {day:day}: it has fewer turns than slots.",
    "rota.trouble": "The rota {name} has a turn that can't go out. {reason}",
    "shelf.fresh": "Fresh on the shelf: {titles}",
    "sign.late": "{post:post} should have been signed off by now, and goes nowhere until it is",
    "sign.many_wait": (
        "{count} post of {brand} waits for you to sign off",
        "{count} posts of {brand} wait for you to sign off",
    ),
    "sign.still_waits": "{post:post} still waits for {names}",
    "sign.waits": "{post:post} waits for you to sign off",
    "task.asked": "{name} asks you to see to {post:post}",
    "task.asked_saying": "{name} asks you to see to {post:post}: {words}",
    "task.asked_until": "{name} asks you to see to {post:post} until {until:wall}",
    "task.asked_until_saying": "{name} asks you to see to {post:post} until {until:wall}: {words}",
    "task.seen_to": "{name} has seen to {post:post}",
}
