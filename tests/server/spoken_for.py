"""Every route that changes something, by the capability it asks for, and what it is sent in the tests of trust."""

from tests.server.conftest import post_in

# What each role may do, by operation; reading is for all.
WRITES = {
    "makePost",
    "addAsset",
    "describeAsset",
    "savePost",
    "binPost",
    "restorePost",
    "makeSet",
    "changeSet",
    "deleteSet",
    "moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia", "makeFolder", "changeFolder", "removeFolder", "copyFolder", "unzip",
    "bringIn", "makeSnippet", "changeSnippet", "deleteSnippet", "makeTagSet", "changeTagSet", "deleteTagSet", "makeLinkTags",
    "changeLinkTags", "deleteLinkTags", "wording", "hashtags", "insertTags", "readCard", "draftFrom", "goBack", "duplicatePost",
    "makeLabel", "changeLabel", "deleteLabel", "makeCampaign", "changeCampaign", "deleteCampaign", "markPosts", "keepAlmanac",
    "makeDate", "changeDate", "deleteDate", "readPlan", "putUp", "withdrawPost", "assign",
    "followFeed", "lookForFeeds", "bringOpml", "changeFeed", "leaveFeed", "readFeed", "shareArticles", "putAway", "lookAtCatalogue",
    "lookAtCatalogueFile", "draftOfRelay", "moreStarters", "keepStarter", "throwStarter",
}  # fmt: skip
PLANS = {
    "planPost", "moveDelivery", "unplanDelivery", "callOffDelivery", "retryDelivery", "settleDelivery", "undo", "pause", "resume", "catchUp",
    "handDone", "handNotDone", "handLater", "tryComment", "moveMany", "callOffMany", "times", "swapTimes", "lookAtLaying", "layOut",
    "bringPlan", "retryMany", "updateThere",
    "makeRota", "changeRota", "deleteRota", "addTurns", "orderTurns", "changeTurn", "removeTurn", "addTurnWording", "removeTurnWording",
    "putTurn", "swapTurns", "addQuotations", "addTable",
    "makeCatalogue", "makeCatalogueOfFile", "changeCatalogue", "deleteCatalogue", "bringCatalogue", "readCatalogue", "sayHappened",
    "makeRelay", "sampleRelay", "startRelays", "changeRelay", "emptyRelay", "switchRelay", "answerRelay",
}  # fmt: skip
DELETES = {"takeDown"}
MANAGES = {
    "connect", "setTimetable", "loadSheet", "addByHand", "describeProfile", "checkProfile", "disconnectProfile", "connectLinks", "offerLink",
    "revokeLink", "keepStore", "forgetStore", "copyTimetable", "setWishes", "followZone", "keepSlots",
}  # fmt: skip
PEOPLES = {
    "changeBrand", "changeMember", "removeMember", "invite", "takeInvitationBack", "keepSignRules", "trySignRules", "offerSignLink", "revokeSignLink",
}  # fmt: skip
SIGNS = {"agreeToPost", "agreeToAll", "sendBack", "toSign"}
BY_LINK = {"signPage", "agreeByLink", "agreeToAllByLink", "sendBackByLink", "remarkByLink"}
# What everyone who sees a brand may do.
TALKS = {"remark", "changeRemark", "takeBackRemark", "settleRemark", "taskDone", "watch", "keepReminder"}
EDITS = {"writeSheet", "readBrandPage"}
ALL = DELETES | WRITES | PLANS | MANAGES | PEOPLES | SIGNS | EDITS
MAY_NOT = {
    "coordinator": set(),
    "author": ALL - WRITES,
    "approver": DELETES | PLANS | MANAGES | PEOPLES,
    "viewer": ALL,
}
ROLE_OF = {"coordinator": "ines", "author": "teo", "approver": "maud", "viewer": "lucia"}
BODIES = {
    "makePost": post_in(), "savePost": post_in(), "describeAsset": {"alt": "x"}, "connect": {"network": "brisk"}, "setTimetable": {"slots": []},
    "planPost": {"when": {"kind": "now"}}, "moveDelivery": {"wall": "2027-01-01T12:00"}, "settleDelivery": {"is_there": False},
    "check": {"master": {}, "columns": [{"network": "brisk"}]}, "makeSet": {"name": "A", "profiles": []}, "changeSet": {"name": "A", "profiles": []},
    "loadSheet": {"toml": "format = 1"}, "addByHand": {"name": ""}, "disconnectProfile": {"then": "drafts"}, "catchUp": {"choice": "drafts"},
    "offerLink": {"called": "", "wants": []}, "changeBrand": {"name": "", "zone": "UTC"}, "changeMember": {"role": "author", "capabilities": []},
    "invite": {"email": "x", "role": "author", "capabilities": []}, "handNotDone": {"why": "x"}, "handLater": {"wall": "2027-01-01T12:00"},
    "readBrandPage": {"address": "nowhere"}, "pause": {"until": "x"},
    **{key: {"ids": [1]} for key in ("moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia")}, "draftFrom": {"ids": [1]},
    **{key: {"name": ""} for key in ("makeFolder", "changeFolder")}, "bringIn": {"paths": ["x"]},
    **{key: {"name": "", "text": ""} for key in ("makeSnippet", "changeSnippet")}, "keepStore": {"name": "", "address": ""},
    **{key: {"name": "", "tags": []} for key in ("makeTagSet", "changeTagSet")}, "readCard": {"link": ""}, "wording": {"task": "vary"},
    **{key: {"name": ""} for key in ("makeLinkTags", "changeLinkTags")}, "hashtags": {"text": ""}, "insertTags": {"text": "", "tags": []},
    "compare": {"before": "", "after": ""},
    **{key: {"name": "", "ink": "moss"} for key in ("makeLabel", "changeLabel")}, "followZone": {"was": "UTC", "hold": "wall"},
    **{key: {"name": "", "starts": "2026-12-01", "ends": "2026-12-02", "ink": "moss"} for key in ("makeCampaign", "changeCampaign")},
    "markPosts": {"posts": [1]}, "keepAlmanac": {"countries": ["XX"], "observances": True},
    **{key: {"name": "", "rule": "12-13"} for key in ("makeDate", "changeDate")}, "moveMany": {"moves": [{"id": 1, "revision": 1}]},
    "callOffMany": {"deliveries": [1]}, "times": {"when": {"kind": "now"}}, "copyTimetable": {"profiles": [1]},
    "setWishes": {"most_days": 4, "least_minutes": 60, "repeat_days": 30, "wakes": "23:00", "sleeps": "07:00"},
    "swapTimes": {"one": {"id": 1, "revision": 1}, "other": {"id": 2, "revision": 1}}, "keepView": {"name": "", "query": {}},
    "lookAtLaying": {"posts": [1], "how": "slots", "first": "2026-12-01"}, "subscribe": {"profiles": 1},
    "layOut": {"rows": [{"post": 1, "profile": 1, "wall": "2027-01-01T12:00"}]},
    "keepSignRules": {"needed": True, "rules": [{"name": ""}]}, "trySignRules": {"needed": True, "rules": [{"name": ""}]}, "offerSignLink": {"called": ""}, "putUp": {"posts": [{"id": 1, "revision": 1}]},
    "agreeToAll": {"posts": [{"id": 1, "revision": 1}]}, "retryMany": {"deliveries": [{"id": 1, "revision": 1}]}, "sendBack": {"words": "x"}, "assign": {"user": 1}, "remark": {"text": ""},
    "changeRemark": {"text": "x"}, "settleRemark": {"settled": True}, "watch": {"on": True}, "agreeToPost": {},
    "mend": {"master": {}, "columns": [], "mend": "crop", "field": "text"},
    **{key: {"name": "", "ink": "moss", "profiles": []} for key in ("makeRota", "changeRota")}, "orderTurns": {"turns": []},
    "putTurn": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "keepSlots": {"weekdays": [1], "at": "09:00"}, "addQuotations": {"quotations": ["x"]},
    **{key: {"address": ""} for key in ("followFeed", "lookForFeeds", "lookAtCatalogue")}, "changeFeed": {"title": ""},
    "shareArticles": {"articles": [999_999]}, "keepReminder": {"weekdays": []}, "sayHappened": {"happened": "lowered"},
    **{key: {"name": ""} for key in ("makeCatalogue", "changeCatalogue")}, "switchRelay": {"on": False}, "answerRelay": {"yes": False}, "throwStarter": {"reason": "less"},
    **{key: {"source": {"key": "p1"}, "target": 1} for key in ("makeRelay", "sampleRelay")},
    "startRelays": {"cells": [{"source": {"key": "p1"}, "target": 1}]},
    "swapTurns": {"one": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "other": {"profile": 2, "at": "2027-01-01T12:00:00Z"}},
}  # fmt: skip

# What isn't there can't be told from what isn't one's own; of these there is none yet.
ABSENT = {
    "undo", "restorePost", "addAsset", "resume", "takeInvitationBack", "revokeLink", "forgetStore", "bringIn", "goBack",
    "revokeSignLink", "agreeToAll", "takeBackRemark", "settleRemark", "changeRemark", "taskDone",
}  # fmt: skip
